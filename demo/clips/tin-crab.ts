import { boards, speckled, water, type Film, type Pen } from './film.ts';

const [width, height] = [960, 540];
const frames = 96;
/** How much of it ships. */
export const crabFrames = 96;

/** How far the crab has walked, and where its claw is opened to, 0 shut to 1 wide. */
const walked = (frame: number): number => 190 + 4.4 * frame;
const opened = (frame: number): number => {
  const t = Math.max(0, Math.min(1, (frame - 18) / 40));
  return t * t * (3 - 2 * t);
};
const bob = (frame: number): number => 4 * Math.abs(Math.sin(frame * 0.33));

/** The right arm: how it is raised, radians, and where its hand begins. */
const raised = (frame: number): number => -0.35 - 0.75 * opened(frame);
const shoulder: [number, number] = [74, -34];
const armLength = 92;

function hand(frame: number): [number, number] {
  const angle = raised(frame);
  return [shoulder[0] + armLength * Math.cos(angle), shoulder[1] + armLength * Math.sin(angle)];
}

/** A wind-up crab of painted tin walks along the quay and opens its claw. */
export const tinCrab: Film = {
  name: 'tin-crab',
  width,
  height,
  rate: 24,
  frames,
  grain: 2,
  point: (frame) => {
    const [x, y] = hand(frame);
    return [walked(frame) + x, 372 - bob(frame) + y];
  },
  ground(pen, frame) {
    water(pen, 0, 330, width, frame / 24);
    pen.fillStyle = '#545a58';
    pen.fillRect(0, 300, width, 34);
    speckled(pen, [0, 300, width, 34], 260, 21, (k) => (k % 2 ? 'rgba(24,28,28,.5)' : 'rgba(150,156,150,.45)'), 4);
    boards(pen, 332, width, height, 4);
    // The shadow under it belongs to the ground.
    pen.fillStyle = 'rgba(20, 16, 12, .42)';
    pen.beginPath();
    pen.ellipse(walked(frame), 452, 120, 15, 0, 0, 7);
    pen.fill();
  },
  figure(pen, frame) {
    pen.save();
    pen.translate(walked(frame), 372 - bob(frame));
    legs(pen, frame);
    arm(pen, frame, -1);
    body(pen);
    arm(pen, frame, 1);
    pen.restore();
  },
};

function legs(pen: Pen, frame: number): void {
  for (let k = 0; k < 6; k++) {
    const side = k < 3 ? -1 : 1;
    const n = k % 3;
    const swing = Math.sin(frame * 0.66 + n * 2.1 + (side > 0 ? 1 : 0)) * 12;
    const foot: [number, number] = [side * (46 + n * 30) + swing, 80 + bob(frame)];
    const knee: [number, number] = [side * (60 + n * 26) + swing * 0.4, 18 - n * 5];
    pen.strokeStyle = '#5d2b1d';
    pen.lineWidth = 9;
    pen.lineJoin = 'round';
    pen.lineCap = 'round';
    pen.beginPath();
    pen.moveTo(side * 40, 8);
    pen.lineTo(...knee);
    pen.lineTo(...foot);
    pen.stroke();
    pen.strokeStyle = '#c06a3c';
    pen.lineWidth = 4;
    pen.beginPath();
    pen.moveTo(side * 40, 6);
    pen.lineTo(knee[0], knee[1] - 1);
    pen.lineTo(foot[0], foot[1] - 1);
    pen.stroke();
  }
}

function body(pen: Pen): void {
  const tin = pen.createRadialGradient(-24, -40, 8, 0, -6, 108);
  tin.addColorStop(0, '#f0a06a');
  tin.addColorStop(0.5, '#c4512e');
  tin.addColorStop(1, '#6d2216');
  pen.fillStyle = tin;
  pen.beginPath();
  pen.ellipse(0, -10, 96, 52, 0, 0, 7);
  pen.fill();
  pen.save();
  pen.clip();
  speckled(pen, [-96, -62, 192, 104], 90, 33, (k) => (k % 3 ? 'rgba(70,22,14,.5)' : 'rgba(250,214,170,.5)'), 4);
  pen.strokeStyle = 'rgba(250, 226, 190, .8)';
  pen.lineWidth = 3;
  pen.beginPath();
  pen.ellipse(0, 22, 92, 60, 0, Math.PI, 0);
  pen.stroke();
  pen.restore();
  // Rivets, the key that winds it, and eyes on stalks.
  for (let k = 0; k < 7; k++) {
    pen.fillStyle = '#f4d8a4';
    pen.beginPath();
    pen.arc(-72 + k * 24, 18 - 6 * Math.sin((k / 6) * Math.PI), 3.4, 0, 7);
    pen.fill();
  }
  for (const side of [-1, 1]) {
    pen.strokeStyle = '#6d2216';
    pen.lineWidth = 5;
    pen.beginPath();
    pen.moveTo(side * 22, -54);
    pen.lineTo(side * 28, -82);
    pen.stroke();
    pen.fillStyle = '#f5ecd6';
    pen.beginPath();
    pen.arc(side * 28, -88, 10, 0, 7);
    pen.fill();
    pen.fillStyle = '#1c2a30';
    pen.beginPath();
    pen.arc(side * 28 + 3, -87, 4.5, 0, 7);
    pen.fill();
  }
}

function arm(pen: Pen, frame: number, side: -1 | 1): void {
  pen.save();
  pen.scale(side, 1);
  const angle = side > 0 ? raised(frame) : -0.2 + 0.06 * Math.sin(frame * 0.3);
  pen.translate(...shoulder);
  pen.rotate(angle);
  pen.fillStyle = '#8b331d';
  pen.beginPath();
  pen.roundRect(-10, -12, armLength + 14, 24, 12);
  pen.fill();
  speckled(pen, [0, -9, armLength, 18], 16, 44 + side, (k) => (k % 2 ? '#5d2013' : '#e09a68'), 2.4);
  pen.translate(armLength, 0);
  for (const jaw of [-1, 1]) {
    pen.save();
    pen.rotate(jaw * (0.12 + (side > 0 ? 0.5 * opened(frame) : 0.1)));
    pen.fillStyle = jaw < 0 ? '#c4512e' : '#a63f22';
    pen.beginPath();
    pen.moveTo(-6, 0);
    pen.quadraticCurveTo(14, jaw * 34, 66, jaw * 10);
    pen.quadraticCurveTo(36, jaw * 6, 20, 0);
    pen.closePath();
    pen.fill();
    speckled(pen, [4, jaw < 0 ? -18 : 4, 30, 14], 8, 60 + jaw, (k) => (k % 2 ? '#f3b98c' : '#6d2216'), 2.2);
    pen.restore();
  }
  pen.fillStyle = '#f4d8a4';
  pen.beginPath();
  pen.arc(0, 0, 7, 0, 7);
  pen.fill();
  pen.fillStyle = '#3c160e';
  pen.beginPath();
  pen.arc(0, 0, 3, 0, 7);
  pen.fill();
  pen.restore();
}

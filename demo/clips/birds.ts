import { boards, fixed, speckled, water, type Film, type Pen } from './film.ts';

const [width, height] = [960, 540];

function reeds(pen: Pen, frame: number): void {
  for (let k = 0; k < 60; k++) {
    const x = fixed(90, k) * width;
    const lean = 10 * Math.sin(frame / 11 + k);
    pen.strokeStyle = k % 2 ? '#5d6a3e' : '#7c8350';
    pen.lineWidth = 2 + 3 * fixed(91, k);
    pen.beginPath();
    pen.moveTo(x, 400);
    pen.quadraticCurveTo(x, 340, x + lean, 300 - 70 * fixed(92, k));
    pen.stroke();
  }
}

/** The tin heron struts on legs as thin as wire, and dips its bill. */
export const strutting: Film = {
  name: 'strutting',
  width,
  height,
  rate: 24,
  frames: 72,
  grain: 2,
  ground(pen, frame) {
    water(pen, 0, 400, width, frame / 24);
    reeds(pen, frame);
    boards(pen, 392, width, height, 31);
  },
  figure(pen, frame) {
    const x = 260 + 5 * frame;
    const dip = 0.25 + 0.25 * Math.sin(frame / 10);
    pen.save();
    pen.translate(x, 300);
    pen.lineCap = 'round';
    for (const side of [0, 1]) {
      const step = Math.sin(frame * 0.35 + side * Math.PI) * 26;
      pen.strokeStyle = '#b9862c';
      pen.lineWidth = 4;
      pen.beginPath();
      pen.moveTo(-10 + side * 14, 40);
      pen.lineTo(-16 + side * 14 + step * 0.4, 106);
      pen.lineTo(-8 + side * 14 + step, 180);
      pen.lineTo(14 + side * 14 + step, 184);
      pen.stroke();
    }
    const tin = pen.createLinearGradient(0, -50, 0, 60);
    tin.addColorStop(0, '#dfe6ea');
    tin.addColorStop(1, '#6f8290');
    pen.fillStyle = tin;
    pen.beginPath();
    pen.ellipse(-10, 10, 84, 44, -0.15, 0, 7);
    pen.fill();
    pen.save();
    pen.clip();
    speckled(pen, [-96, -40, 180, 100], 70, 41, (k) => (k % 2 ? 'rgba(50,66,78,.5)' : 'rgba(255,255,255,.5)'), 4);
    pen.restore();
    pen.translate(58, -10);
    pen.rotate(dip);
    pen.strokeStyle = '#b8c4cc';
    pen.lineWidth = 17;
    pen.beginPath();
    pen.moveTo(0, 0);
    pen.quadraticCurveTo(46, -40, 24, -112);
    pen.stroke();
    pen.fillStyle = '#cfd8de';
    pen.beginPath();
    pen.ellipse(30, -118, 24, 16, 0.2, 0, 7);
    pen.fill();
    pen.fillStyle = '#d99a30';
    pen.beginPath();
    pen.moveTo(46, -126);
    pen.lineTo(122, -106);
    pen.lineTo(46, -110);
    pen.closePath();
    pen.fill();
    pen.fillStyle = '#1c2a30';
    pen.beginPath();
    pen.arc(34, -121, 4, 0, 7);
    pen.fill();
    pen.restore();
  },
};

/** A gull beats its wings over the harbour: light on light, and another shape in every frame. */
export const gull: Film = {
  name: 'gull',
  width,
  height,
  rate: 24,
  frames: 60,
  grain: 3,
  ground(pen, frame) {
    const sky = pen.createLinearGradient(0, 0, 0, 300);
    sky.addColorStop(0, '#93aec2');
    sky.addColorStop(1, '#c9cfcb');
    pen.fillStyle = sky;
    pen.fillRect(0, 0, width, 310);
    for (let k = 0; k < 16; k++) {
      pen.fillStyle = 'rgba(222, 226, 224, .5)';
      pen.beginPath();
      pen.ellipse(fixed(60, k) * width, 40 + 180 * fixed(61, k), 90, 12, 0, 0, 7);
      pen.fill();
    }
    pen.fillStyle = '#6b7a72';
    pen.beginPath();
    pen.moveTo(0, 310);
    for (let x = 0; x <= width; x += 20) pen.lineTo(x, 270 + 30 * Math.sin(x / 90) - 20 * fixed(62, x));
    pen.lineTo(width, 310);
    pen.fill();
    water(pen, 300, height, width, frame / 24);
  },
  figure(pen, frame) {
    const beat = Math.sin(frame * 0.5);
    pen.save();
    pen.translate(140 + 11 * frame, 210 + 30 * Math.sin(frame / 12));
    for (const side of [-1, 1]) {
      pen.fillStyle = side < 0 ? '#c6ccd0' : '#eef0ee';
      pen.beginPath();
      pen.moveTo(-18, -4);
      pen.quadraticCurveTo(side < 0 ? 0 : 14, -60 * beat - 12, side < 0 ? 40 : -28, -118 * beat - 8);
      pen.quadraticCurveTo(side < 0 ? 40 : 30, -46 * beat, 34, 2);
      pen.closePath();
      pen.fill();
    }
    pen.fillStyle = '#f6f4ee';
    pen.beginPath();
    pen.ellipse(4, 2, 62, 19, 0.06, 0, 7);
    pen.fill();
    pen.fillStyle = '#d99a30';
    pen.beginPath();
    pen.moveTo(62, -2);
    pen.lineTo(84, 5);
    pen.lineTo(62, 9);
    pen.closePath();
    pen.fill();
    pen.fillStyle = '#2a3238';
    pen.beginPath();
    pen.arc(52, -3, 3.5, 0, 7);
    pen.fill();
    pen.fillStyle = '#3b444a';
    pen.beginPath();
    pen.moveTo(-56, -3);
    pen.lineTo(-92, -8);
    pen.lineTo(-90, 12);
    pen.lineTo(-56, 8);
    pen.closePath();
    pen.fill();
    pen.restore();
  },
};

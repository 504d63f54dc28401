import { boards, fixed, speckled, water, type Film, type Pen } from './film.ts';

const [width, height] = [960, 540];

interface Keeper {
  x: number;
  y: number;
  size: number;
  coat: [string, string];
  hat: string;
  seed: number;
  /** Where it is in its stride, radians. */
  stride: number;
  lantern: boolean;
}

/** A keeper of the light in a long coat, drawn from the feet up. */
function keeper(pen: Pen, { x, y, size, coat, hat, seed, stride, lantern }: Keeper): void {
  pen.save();
  pen.translate(x, y - 3 * Math.abs(Math.sin(stride)));
  pen.scale(size, size);
  for (const side of [-1, 1]) {
    const swing = Math.sin(stride) * 22 * side;
    pen.strokeStyle = '#2a2f35';
    pen.lineWidth = 17;
    pen.lineCap = 'round';
    pen.beginPath();
    pen.moveTo(side * 9, -92);
    pen.lineTo(side * 7 + swing * 0.6, -46);
    pen.lineTo(side * 5 + swing, -6);
    pen.stroke();
    pen.fillStyle = '#16191c';
    pen.beginPath();
    pen.ellipse(side * 5 + swing + 6, -3, 15, 6, 0, 0, 7);
    pen.fill();
  }
  const cloth = pen.createLinearGradient(-40, 0, 44, 0);
  cloth.addColorStop(0, coat[1]);
  cloth.addColorStop(0.4, coat[0]);
  cloth.addColorStop(1, coat[1]);
  pen.fillStyle = cloth;
  pen.beginPath();
  pen.moveTo(-24, -218);
  pen.quadraticCurveTo(-46, -130, -44 - 5 * Math.sin(stride), -60);
  pen.lineTo(44 + 5 * Math.sin(stride), -60);
  pen.quadraticCurveTo(44, -130, 24, -218);
  pen.closePath();
  pen.fill();
  pen.save();
  pen.clip();
  speckled(pen, [-46, -220, 92, 160], 50, seed, (k) => (k % 2 ? 'rgba(0,0,0,.22)' : 'rgba(255,255,255,.16)'), 4);
  pen.restore();
  pen.strokeStyle = coat[1];
  pen.lineWidth = 16;
  const reach = Math.sin(stride) * 16;
  pen.beginPath();
  pen.moveTo(22, -200);
  pen.lineTo(40 + reach * 0.4, -158);
  pen.lineTo(52 + reach, -122);
  pen.stroke();
  pen.fillStyle = '#d8a684';
  pen.beginPath();
  pen.arc(52 + reach, -118, 8, 0, 7);
  pen.fill();
  if (lantern) {
    pen.strokeStyle = '#2a2f35';
    pen.lineWidth = 2.5;
    pen.beginPath();
    pen.arc(52 + reach, -104, 12, Math.PI, 0);
    pen.stroke();
    pen.fillStyle = '#e8b64a';
    pen.fillRect(40 + reach, -104, 24, 30);
    pen.fillStyle = '#5a3a16';
    pen.fillRect(38 + reach, -106, 28, 5);
    pen.fillRect(38 + reach, -76, 28, 5);
  }
  pen.fillStyle = '#d8a684';
  pen.beginPath();
  pen.ellipse(2, -238, 20, 24, 0, 0, 7);
  pen.fill();
  pen.fillStyle = '#8a5a3c';
  pen.beginPath();
  pen.ellipse(-2, -222, 17, 10, 0, 0, 7);
  pen.fill();
  pen.fillStyle = hat;
  pen.beginPath();
  pen.ellipse(0, -252, 30, 8, 0, 0, 7);
  pen.fill();
  pen.beginPath();
  pen.roundRect(-19, -282, 38, 32, 8);
  pen.fill();
  pen.restore();
}

const posts = (pen: Pen, shift: number): void => {
  for (let k = 0; k < 9; k++) {
    const x = ((k * 190 + shift) % 1710) - 200;
    pen.fillStyle = '#5b5346';
    pen.fillRect(x, 214, 22, 150);
    pen.fillStyle = '#7b7260';
    pen.fillRect(x, 214, 8, 150);
    speckled(pen, [x, 214, 22, 150], 12, 70 + k, (j) => (j % 2 ? 'rgba(30,26,20,.5)' : 'rgba(180,170,150,.4)'), 3);
  }
  pen.fillStyle = '#6c6352';
  pen.fillRect(0, 240, width, 14);
};

/** Two keepers cross before the railing: the near one in the yellow coat is the figure. */
export const twoKeepers: Film = {
  name: 'two-keepers',
  width,
  height,
  rate: 24,
  frames: 72,
  grain: 2.5,
  ground(pen, frame) {
    water(pen, 0, 360, width, frame / 24);
    posts(pen, 60);
    boards(pen, 350, width, height, 12);
    keeper(pen, {
      x: 780 - 7.4 * frame,
      y: 452,
      size: 0.92,
      coat: ['#5f7f8c', '#36505c'],
      hat: '#27333a',
      seed: 5,
      stride: frame * 0.4 + 1,
      lantern: false,
    });
  },
  figure(pen, frame) {
    keeper(pen, {
      x: 200 + 7.8 * frame,
      y: 500,
      size: 1.15,
      coat: ['#e0b23c', '#a5761f'],
      hat: '#3c3124',
      seed: 9,
      stride: frame * 0.38,
      lantern: true,
    });
  },
};

/** A keeper is gone along with by the lens: the whole quay moves. */
export const walkedAlong: Film = {
  name: 'walked-along',
  width,
  height,
  rate: 24,
  frames: 72,
  grain: 2.5,
  ground(pen, frame) {
    const shift = -6.5 * frame - 10 * Math.sin(frame / 9);
    const lift = 4 * Math.sin(frame / 7);
    pen.save();
    pen.translate(0, lift);
    water(pen, -10, 366, width, 3, shift * 0.6);
    posts(pen, shift + 1500);
    boards(pen, 350, width, height + 10, 12, shift);
    for (let k = 0; k < 14; k++) {
      pen.fillStyle = `hsl(${20 + 200 * fixed(3, k)} 34% ${30 + 25 * fixed(4, k)}%)`;
      pen.fillRect(shift + k * 150 + 40, 372 - 50 * fixed(6, k), 46, 60);
    }
    pen.restore();
  },
  figure(pen, frame) {
    keeper(pen, {
      x: 430 + 30 * Math.sin(frame / 14),
      y: 500 + 4 * Math.sin(frame / 7),
      size: 1.1,
      coat: ['#a24a36', '#692618'],
      hat: '#2c2722',
      seed: 15,
      stride: frame * 0.42,
      lantern: true,
    });
  },
};

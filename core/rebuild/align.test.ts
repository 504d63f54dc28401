import { expect } from 'chai';
import { seededRandom } from '../pixels/random.ts';
import { makeBytes, makeRgba, type Rgba } from '../pixels/raster.ts';
import { alignPictures, NothingInCommon } from './align.ts';
import type { Similarity } from './detail.ts';
import { laidOver } from './other-photo.ts';
import { blotches, covered, disc, paint } from './test-pictures.ts';

/** Bricks of two courses that look alike one period on but for their tints. */
function bricks(width: number, height: number): Rgba {
  const random = seededRandom(8);
  const tints = Array.from({ length: 4096 }, () => 22 * (random() - 0.5));
  return paint(width, height, (x, y) => {
    const row = Math.floor(y / 14);
    const along = x + (row % 2) * 16;
    const tint = tints[(row * 61 + Math.floor(along / 32)) % 4096]!;
    const v = y % 14 < 2 || along % 32 < 2 ? 176 : 112 + tint + 6 * Math.sin(x * 0.9) * Math.sin(y * 1.1);
    return [v, v * 0.7, v * 0.6];
  });
}

/** Boards that run away from the camera: joints alike across and along. */
function pier(width: number, height: number): Rgba {
  return paint(width, height, (x, y) => {
    const depth = (0.9 * height) / (y + 0.35 * height);
    const across = ((x - width / 2) / width) * depth * 12;
    const board = Math.floor(depth * 40);
    const joint = (depth * 40) % 1 < 0.15 || Math.abs(across % 4) < 0.06 ? 0.6 : 1;
    const grain = 10 * Math.sin(board * 2.7) + 5 * Math.sin(across * 1.9 + board);
    return [158 * joint + grain, 138 * joint + grain, 112 * joint + grain * 0.7];
  });
}

const [width, height] = [312, 208];
const scene = [450, 300] as const;
/** Where the picture lies in its scene. */
const corner = { x: 69, y: 46 };

/** A part of a scene with a float before it, and the scene as another photo shows it, lying at `at`. */
function twoPhotos(scene: Rgba, at: Similarity): { picture: Rgba; other: Rgba; float: ReturnType<typeof disc> } {
  const clean = makeRgba(width, height);
  for (let y = 0; y < height; y++) {
    const from = ((y + corner.y) * scene.width + corner.x) * 4;
    clean.data.set(scene.data.subarray(from, from + width * 4), y * width * 4);
  }
  const float = disc(width, height, 186, 120, 37);
  const square = at.a ** 2 + at.b ** 2;
  const other = laidOver({ width, height }, scene, {
    a: at.a / square,
    b: -at.b / square,
    tx: corner.x - (at.a * at.tx + at.b * at.ty) / square,
    ty: corner.y - (at.a * at.ty - at.b * at.tx) / square,
  });
  const random = seededRandom(3);
  for (let i = 0; i < other.data.length; i++)
    other.data[i] = i % 4 === 3 ? 255 : other.data[i]! * 0.85 + 4 + 8 * (random() - 0.5);
  return { picture: covered(clean, float, [220, 110, 20]), other, float };
}

/** The picture with every pixel `times` as wide and high. */
const scaled = (picture: Rgba, times: number): Rgba =>
  paint(picture.width * times, picture.height * times, (x, y) => {
    const o = (Math.floor(y / times) * picture.width + Math.floor(x / times)) * 4;
    return [picture.data[o]!, picture.data[o + 1]!, picture.data[o + 2]!];
  });

/** A turn and a size about the middle, then a shift. */
function about(size: number, degrees: number, dx: number, dy: number): Similarity {
  const angle = (degrees * Math.PI) / 180;
  const [a, b] = [size * Math.cos(angle), size * Math.sin(angle)];
  return {
    a,
    b,
    tx: width / 2 - (a * width - b * height) / 2 + dx,
    ty: height / 2 - (b * width + a * height) / 2 + dy,
  };
}

/** How far apart two places lay the corners of the picture. */
function apart(p: Similarity, q: Similarity): number {
  const corners = [
    [0, 0],
    [width, 0],
    [0, height],
    [width, height],
  ] as const;
  return Math.max(
    ...corners.map(([x, y]) =>
      Math.hypot((p.a - q.a) * x - (p.b - q.b) * y + p.tx - q.tx, (p.b - q.b) * x + (p.a - q.a) * y + p.ty - q.ty),
    ),
  );
}

describe('where another photo shows the same place', () => {
  const grounds = { bricks: bricks(...scene), pier: pier(...scene) };
  const takes = {
    'from the same spot': about(1, 0, 4, -2),
    'turned, nearer and darker': about(1.1, 3, 0, -9),
    'from farther away, between the turns that are tried': about(0.88, -3.6, 15, 9),
  };
  for (const ground of ['bricks', 'pier'] as const) {
    for (const [take, at] of Object.entries(takes)) {
      it(`is found on ${ground} ${take}`, async () => {
        const { picture, other, float } = twoPhotos(grounds[ground], at);
        expect(apart(await alignPictures(picture, other, float), at)).to.be.below(1);
      });
    }
  }

  it('is found where the other photo shows less than half of the picture', async () => {
    const at = about(1.35, -4, 22, 9);
    const { picture, other, float } = twoPhotos(grounds.pier, at);
    expect(apart(await alignPictures(picture, other, float), at)).to.be.below(1);
  });

  it('is found in a photo three times as large, and in one of a third of the size', async () => {
    const at = about(1.1, 3, 0, -9);
    const { picture, other, float } = twoPhotos(grounds.bricks, at);
    const large = scaled(other, 3);
    const found = await alignPictures(picture, large, float);
    const there = { a: found.a / 3, b: found.b / 3, tx: found.tx / 3, ty: found.ty / 3 };
    expect(apart(there, at)).to.be.below(1);
    const hidden = disc(width * 3, height * 3, 186 * 3, 120 * 3, 37 * 3);
    const back = await alignPictures(scaled(picture, 3), other, hidden);
    expect(apart({ ...back, a: back.a * 3, b: back.b * 3 }, at)).to.be.below(1);
  });

  it('is nowhere in a photo of another ground', async () => {
    const { picture, float } = twoPhotos(grounds.pier, about(1, 0, 0, 0));
    for (const other of [grounds.bricks, blotches(width, height, 77)]) {
      const error = await alignPictures(picture, other, float).catch((e: unknown) => e);
      expect(error).to.be.instanceOf(NothingInCommon);
    }
  });

  it('is nowhere in a photo of nothing', async () => {
    const blank = paint(width, height, () => [128, 128, 128]);
    const error = await alignPictures(grounds.pier, blank, makeBytes(...scene)).catch((e: unknown) => e);
    expect(error).to.be.instanceOf(NothingInCommon);
  });
});

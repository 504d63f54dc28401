import { gull, strutting } from '../../demo/clips/birds.ts';
import { filmFrame, type Film, type Filmed } from '../../demo/clips/film.ts';
import { twoKeepers, walkedAlong } from '../../demo/clips/keepers.ts';
import { tinCrab } from '../../demo/clips/tin-crab.ts';
import { carriedSize, carryFigure, type KeyMask } from '../../core/film/carry-figure.ts';
import { softAlpha } from '../../core/film/soft-alpha.ts';
import { troubleFrames } from '../../core/film/trouble.ts';
import { cuttingOf } from '../../core/follow/cutting.ts';
import { followPoint } from '../../core/follow/follow-clip.ts';
import { cropRgba, type Bytes } from '../../core/pixels/raster.ts';
import { averagedTo } from '../../core/pixels/resample.ts';
import type { Section } from '../report.ts';

const count = 40;
/** The films are drawn at 960 x 540; measured at 1280 x 720. */
const larger = 4 / 3;

interface Case {
  film: Film;
  name: string;
  held: boolean;
}

const cases: Case[] = [
  { film: tinCrab, name: 'figure before moving water', held: false },
  { film: twoKeepers, name: 'two crossing figures', held: false },
  { film: strutting, name: 'legs as thin as wire', held: false },
  { film: walkedAlong, name: 'lens that goes along', held: false },
  { film: gull, name: 'light on light, another shape in every frame', held: true },
];

function enlarged(film: Film): Film {
  const scaled =
    (draw: Film['ground']): Film['ground'] =>
    (pen, frame) => {
      pen.scale(larger, larger);
      draw(pen, frame);
    };
  const point =
    film.point && ((frame: number): [number, number] => film.point!(frame).map((v) => v * larger) as [number, number]);
  const size = { width: film.width * larger, height: film.height * larger };
  return { ...film, ...size, ground: scaled(film.ground), figure: scaled(film.figure), ...(point ? { point } : {}) };
}

interface Measured {
  iou: number;
  least: number;
  /** Levels by which alpha is off, for each pixel of the figure. */
  off: number;
  flicker: number;
  carry: number;
  alpha: number;
  trouble: number;
}

async function cutThrough(filmed: readonly Filmed[], keys: KeyMask[]): Promise<Measured> {
  const { width, height } = filmed[0]!.picture;
  const size = carriedSize(width, height);
  // Shrinking is the browser's work, on its own canvas.
  const small = filmed.map(({ picture }) => averagedTo(picture, size.width, size.height));
  const alphas: Bytes[] = [];
  const changed: number[] = [];
  let alpha = 0;
  const started = performance.now();
  await carryFigure(
    { count, frame: (k) => Promise.resolve({ small: small[k]!, whole: () => filmed[k]!.picture }) },
    keys,
    [0, count],
    {
      take: (k, picture, soft, by) => {
        const from = performance.now();
        alphas[k] = softAlpha(picture, soft);
        alpha += performance.now() - from;
        changed[k] = by;
      },
    },
  );
  const all = performance.now() - started;
  const ious = alphas.map((found, k) => likeness(found, filmed[k]!.alpha));
  return {
    iou: mean(ious),
    least: Math.min(...ious),
    off: mean(alphas.map((found, k) => offBy(found, filmed[k]!.alpha))),
    flicker: flickerOf(alphas, filmed),
    carry: (all - alpha) / count,
    alpha: alpha / count,
    trouble: troubleFrames(changed).length,
  };
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

function likeness(found: Bytes, truth: Bytes): number {
  let [both, either] = [0, 0];
  for (let i = 0; i < truth.data.length; i++) {
    const [a, b] = [found.data[i]! >= 128, truth.data[i]! >= 128];
    if (a && b) both++;
    if (a || b) either++;
  }
  return both / either;
}

function offBy(found: Bytes, truth: Bytes): number {
  let [off, figure] = [0, 0];
  for (let i = 0; i < truth.data.length; i++) {
    off += Math.abs(found.data[i]! - truth.data[i]!);
    if (truth.data[i]! > 0) figure++;
  }
  return off / figure;
}

/** Mean change of alpha from frame to frame where the true one does not change, levels. */
function flickerOf(alphas: readonly Bytes[], filmed: readonly Filmed[]): number {
  let [sum, n] = [0, 0];
  for (let k = 1; k < alphas.length; k++) {
    const [now, before] = [filmed[k]!.alpha.data, filmed[k - 1]!.alpha.data];
    for (let i = 0; i < now.length; i++) {
      if (Math.abs(now[i]! - before[i]!) > 1) continue;
      sum += Math.abs(alphas[k]!.data[i]! - alphas[k - 1]!.data[i]!);
      n++;
    }
  }
  return sum / n;
}

const maskOf = ({ alpha }: Filmed): Bytes => ({ ...alpha, data: alpha.data.map((a) => (a >= 128 ? 1 : 0)) });

/** A figure carried through rendered films, and a point followed, beside the truth. */
export async function clipsSection(say: (line: string) => void): Promise<Section> {
  const rows: string[][] = [];
  const found: (Measured & Case)[] = [];
  let follow: { worst: number; rate: number } | null = null;
  for (const one of cases) {
    say(`clips: ${one.name}`);
    const film = enlarged(one.film);
    const filmed = Array.from({ length: count }, (_, k) => filmFrame(film, k));
    const measured = await cutThrough(filmed, [{ frame: 0, mask: maskOf(filmed[0]!) }]);
    found.push({ ...measured, ...one });
    const middle = count >> 1;
    const mended = await cutThrough(
      filmed,
      [0, middle].map((frame) => ({ frame, mask: maskOf(filmed[frame]!) })),
    );
    rows.push([
      one.name + (one.held ? ' (held back)' : ''),
      measured.iou.toFixed(3),
      measured.least.toFixed(3),
      mended.iou.toFixed(3),
      measured.off.toFixed(1),
      measured.flicker.toFixed(2),
      String(measured.trouble),
      (1000 / Math.max(measured.carry, measured.alpha)).toFixed(1),
    ]);
    if (film.point) follow = await followed(film, filmed);
  }
  const tuned = found.filter(({ held }) => !held);
  const slowest = Math.min(...found.map(({ carry, alpha }) => 1000 / Math.max(carry, alpha)));
  const all = mean(found.map(({ iou }) => iou));
  const flicker = Math.max(...found.map((m) => m.flicker));
  return {
    title: 'Clips',
    bars: [
      {
        what: 'figure carried from one frame, mean IoU',
        wanted: 'at least 0.9',
        measured: all.toFixed(3),
        reached: all >= 0.9,
      },
      {
        what: 'flicker where the truth rests, worst film',
        wanted: 'at most 3 of 255',
        measured: flicker.toFixed(2),
        reached: flicker <= 3,
      },
      {
        what: 'frames a second at 720p, slowest film',
        wanted: 'at least 4',
        measured: slowest.toFixed(1),
        reached: slowest >= 4,
      },
      {
        what: 'a followed point from its true place, worst frame',
        wanted: 'at most 0.5 pixels',
        measured: follow!.worst.toFixed(2),
        reached: follow!.worst <= 0.5,
      },
      {
        what: 'frames a second of following at 720p',
        wanted: 'at least 30',
        measured: follow!.rate.toFixed(0),
        reached: follow!.rate >= 30,
      },
    ],
    table: {
      head: [
        'film',
        'IoU',
        'worst frame',
        'IoU with one more frame said',
        'alpha off by, a pixel of the figure',
        'flicker',
        'frames pointed out',
        'frames a second',
      ],
      rows,
    },
    notes: [
      `The first frame's mask is the true one. Four films the method was made with: ${mean(tuned.map(({ iou }) => iou)).toFixed(3)}; held back: ${mean(found.filter(({ held }) => held).map(({ iou }) => iou)).toFixed(3)}.`,
      'Masks are carried on one core while the alphas of the frames before are made on another; the slower of both decides.',
      `${count} frames of 1280 x 720 each, with grain; decoding is left out.`,
    ],
  };
}

async function followed(film: Film, filmed: readonly Filmed[]): Promise<{ worst: number; rate: number }> {
  const { width, height } = film;
  const frames = {
    count,
    cutting: (k: number, [cx, cy]: [number, number], reach: number) => {
      const side = 2 * reach;
      const x = Math.max(0, Math.min(width - side, Math.round(cx) - reach));
      const y = Math.max(0, Math.min(height - side, Math.round(cy) - reach));
      return Promise.resolve(cuttingOf(cropRgba(filmed[k]!.picture, { x, y, width: side, height: side }), x, y));
    },
  };
  const started = performance.now();
  const points = await followPoint(frames, [{ frame: 0, at: film.point!(0) }], [0, count], { radius: 17 });
  const rate = (1000 * count) / (performance.now() - started);
  const worst = Math.max(
    ...points.map(({ at }, k) => Math.hypot(at[0] - film.point!(k)[0], at[1] - film.point!(k)[1])),
  );
  return { worst, rate };
}

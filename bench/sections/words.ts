import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { createCanvas, type Canvas } from '@napi-rs/canvas';
import type { ArrivalNow } from '../../core/arrive/course.ts';
import { arrivalKinds } from '../../core/arrive/arrivals.ts';
import { paintFrame } from '../../core/paint/painter.ts';
import { studioOf, type Surface2D } from '../../core/paint/surface.ts';
import type { Draw } from '../../core/scene/draw.ts';
import { storedFrom, valuesAt } from '../../core/settings/setting.ts';
import { loadFontsOf } from '../../core/text/font-list.ts';
import { lettersOf } from '../../core/text/lettering.ts';
import { median } from '../measures.ts';
import type { Section } from '../report.ts';

const [width, height] = [1920, 1080];
const require = createRequire(import.meta.url);
const text = 'The tide clock of Wendle Quay turns slowly while paper lanterns float over the boardwalk; '
  .repeat(3)
  .slice(0, 238);
const setting = {
  text,
  face: 'serif',
  size: 90,
  align: 'left',
  leading: 1.2,
  tracking: 0,
  stroke: null,
  wrap: 1800,
} as const;

const contextOf = (canvas: Canvas): Surface2D<Canvas> => canvas.getContext('2d') as unknown as Surface2D<Canvas>;

function drawOf(arrivals: ArrivalNow[]): Draw {
  const set = lettersOf(setting)!;
  return {
    layer: 'words',
    content: {
      kind: 'text',
      text: { ...setting, along: null, x: 0, first: 0, end: 60 },
      colour: [255, 255, 255, 1],
      bubble: null,
      arrivals,
    },
    matrix: [1, 0, 0, 1, 40, 40],
    width: set.width,
    height: set.height,
    opacity: 1,
    blend: 'normal',
    blur: 0,
    masks: null,
    window: null,
    clips: [],
    finishes: null,
    opaque: false,
  };
}

/** Words that arrive beside the same words at rest, and from a typed letter to its picture, in one run. */
export async function wordsSection(say: (line: string) => void): Promise<Section> {
  await loadFontsOf('serif', {
    shipped: (file) => readFile(require.resolve(`@fontsource/${file}`)),
    own: () => Promise.reject(new Error('The bench has no fonts of its own.')),
  });
  const surface = createCanvas(width, height);
  const studio = studioOf<Canvas>(
    () => undefined,
    (w, h) => {
      const canvas = createCanvas(w, h);
      return { canvas, context: contextOf(canvas) };
    },
    (image) => ({ width: image.width, height: image.height }),
  );
  const time = (draw: () => Draw): number => {
    const started = performance.now();
    paintFrame(contextOf(surface), { width, height, draws: [draw()] }, studio, { scale: 1, ground: '#234' });
    surface.getContext('2d').getImageData(0, 0, 1, 1);
    return performance.now() - started;
  };
  const many = (draw: (k: number) => Draw): number => median(Array.from({ length: 15 }, (_, k) => time(() => draw(k))));
  const letters = lettersOf(setting)!.letters.filter((letter) => !letter.blank).length;
  const rest = many(() => drawOf([]));
  const rows: string[][] = [];
  let worst = 0;
  for (const kind of arrivalKinds) {
    say(`words: ${kind.name}`);
    const values = valuesAt(kind.settings, storedFrom(kind.settings), 0);
    const now = (passed: number): ArrivalNow => ({
      kind: kind.id,
      values,
      by: 'letter',
      order: 'first to last',
      overlap: 0.95,
      easing: 'ease-out',
      seed: 1,
      passed,
      scale: 1,
    });
    const moving = many((k) => drawOf([now(0.3 + 0.02 * k)]));
    worst = Math.max(worst, moving / rest);
    rows.push([kind.name, `${moving.toFixed(1)} ms`, `${(moving / rest).toFixed(2)} x`]);
  }
  const typed = median(
    Array.from({ length: 15 }, (_, k) =>
      time(() => {
        const longer = { ...setting, text: `${text}${'abcdefghijklmno'.slice(0, k + 1)}` };
        const { width: w, height: h } = lettersOf(longer)!;
        const draw = drawOf([]);
        return {
          ...draw,
          width: w,
          height: h,
          content: { ...draw.content, text: { ...longer, along: null, x: 0, first: 0, end: 60 } } as Draw['content'],
        };
      }),
    ),
  );
  return {
    title: 'Words',
    bars: [
      {
        what: `${letters} letters on their way, of the same letters at rest`,
        wanted: 'at most 3 x',
        measured: `${worst.toFixed(2)} x at worst`,
        reached: worst <= 3,
      },
      {
        what: 'from a typed letter to its picture',
        wanted: 'at most 50 ms',
        measured: `${typed.toFixed(1)} ms`,
        reached: typed <= 50,
      },
    ],
    table: { head: ['arrival', 'a frame', 'of the words at rest'], rows },
    notes: [`Full HD, its pixels read back, median of 15; at rest ${rest.toFixed(1)} ms.`],
  };
}

import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { finishKinds } from '../../core/finish/finishes.ts';
import { paintFrame } from '../../core/paint/painter.ts';
import { studioOf, type Studio, type Surface2D } from '../../core/paint/surface.ts';
import type { Draw, DrawFinishes } from '../../core/scene/draw.ts';
import { storedFrom, valuesAt } from '../../core/settings/setting.ts';
import { median } from '../measures.ts';
import type { Bar, Section } from '../report.ts';

const [width, height] = [1920, 1080];
const rounds = 9;

/** A full-HD layer with a silhouette, tones and colours. */
function layerPicture(): Canvas {
  const canvas = createCanvas(width, height);
  const context = canvas.getContext('2d');
  const image = context.createImageData(width, height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 4) {
      const inside =
        Math.hypot((x - 960) / 800, (y - 540) / 460) < 1 + 0.05 * Math.sin(Math.atan2(y - 540, x - 960) * 23);
      image.data[i] = 128 + 100 * Math.sin(x * 0.02);
      image.data[i + 1] = 128 + 90 * Math.sin(y * 0.03);
      image.data[i + 2] = 128 + 80 * Math.cos((x + y) * 0.015);
      image.data[i + 3] = inside ? 255 : 0;
    }
  context.putImageData(image, 0, 0);
  return canvas;
}

const contextOf = (canvas: Canvas): Surface2D<Canvas> => canvas.getContext('2d') as unknown as Surface2D<Canvas>;

/** The painter's studio on the canvas that Node has. */
const studioWith = (images: Record<string, Canvas>): Studio<Canvas> =>
  studioOf<Canvas>(
    (file) => images[file],
    (w, h) => {
      const canvas = createCanvas(w, h);
      return { canvas, context: contextOf(canvas) };
    },
    (image) => ({ width: image.width, height: image.height }),
  );

const [cos, sin] = [Math.cos(0.08), Math.sin(0.08)];
const turned = (by: number): Draw['matrix'] => [cos, sin, -sin, cos, 60 + by, -60];

function drawOf(finishes: DrawFinishes | null, by: number): Draw {
  return {
    layer: 'a',
    content: { kind: 'image', file: 'a', clip: null, corners: null, sways: [], relief: null },
    matrix: turned(by),
    width,
    height,
    opacity: 1,
    blend: 'normal',
    blur: 0,
    masks: null,
    window: null,
    clips: [],
    finishes,
    opaque: false,
  };
}

/** Milliseconds of a frame, its pixels read back. */
function frameTime(studio: Studio<Canvas>, surface: Canvas, draw: Draw): number {
  const context = surface.getContext('2d');
  const started = performance.now();
  paintFrame(contextOf(surface), { width, height, draws: [draw] }, studio, { scale: 1, ground: '#456' });
  context.getImageData(0, 0, 1, 1);
  return performance.now() - started;
}

const light = ['grain', 'curves', 'recolour', 'light-contrast'];
/** What a family may cost when it changes with every frame, in drawings of the turned layer. */
const most = (id: string): number => (id === 'drawn' ? 12 : light.includes(id) ? 2 : 4);

/** Each finish at full HD beside the same layer without it, in one run. */
export async function finishSection(say: (line: string) => void): Promise<Section> {
  const images = { a: layerPicture() };
  const surface = createCanvas(width, height);
  const plainStudio = studioWith(images);
  const unfinished = (): number => frameTime(plainStudio, surface, drawOf(null, 3));
  const plains: number[] = [];
  const rows: string[][] = [];
  let [worstStill, reached] = [0, 0];
  const beyond: string[] = [];
  for (const kind of finishKinds) {
    say(`finish: ${kind.name}`);
    const values = valuesAt(kind.settings, storedFrom(kind.settings), 0);
    const finishes = (frame: number | null): DrawFinishes => ({
      list: [{ kind: kind.id, values, frame }],
      size: 1,
      length: 60,
    });
    const studio = studioWith(images);
    // As while playing: papers are taken up again from the frame before.
    frameTime(studio, surface, drawOf(finishes(0), 0));
    // In turns with the layer itself: a machine is not always equally fast.
    const pairs = Array.from({ length: rounds }, (_, k) => {
      const changed = frameTime(studio, surface, drawOf(finishes(k + 1), k));
      return [changed, unfinished()] as const;
    });
    const changing = median(pairs.map(([changed]) => changed));
    frameTime(studio, surface, drawOf(finishes(null), 0));
    const kept = Array.from({ length: 2 * rounds + 1 }, (_, k) => {
      const time = frameTime(studio, surface, drawOf(finishes(null), k));
      return [time, unfinished()] as const;
    });
    const still = kind.behind ? null : median(kept.map(([time, plain]) => time / plain));
    plains.push(...pairs.map(([, plain]) => plain));
    worstStill = Math.max(worstStill, still ?? 0);
    const ratio = median(pairs.map(([changed, plain]) => changed / plain));
    if (ratio <= most(kind.id)) reached++;
    else beyond.push(kind.name);
    rows.push([
      kind.name,
      kind.family,
      `${changing.toFixed(0)} ms`,
      `${ratio.toFixed(1)} x`,
      still === null ? 'looks at what is behind' : `${still.toFixed(2)} x`,
    ]);
  }
  const bars: Bar[] = [
    {
      what: 'a finished layer that only moves, of an unfinished one',
      wanted: 'at most 1.1 x',
      measured: `${worstStill.toFixed(2)} x at worst`,
      reached: worstStill <= 1.1,
    },
    {
      what: 'a finish that changes with every frame, of one drawing of the layer (2, 4 or 12 x by its kind)',
      wanted: `all ${finishKinds.length}`,
      measured: `${reached} of ${finishKinds.length}`,
      reached: reached === finishKinds.length,
    },
  ];
  return {
    title: 'Finish',
    bars,
    table: { head: ['finish', 'family', 'changing', 'of a drawing', 'standing still'], rows },
    notes: [
      `A full-HD layer, turned, drawn without a finish in ${median(plains).toFixed(0)} ms; the same painter as preview and export.`,
      `Beyond their bar while they change: ${beyond.join(', ') || 'none'}.`,
      'Standing still, a finish is kept and costs what the drawing of its larger picture costs.',
    ],
  };
}

import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { emptyDocument, type Document } from '../../core/document/document.ts';
import { numbersOfPath } from '../../core/document/points.ts';
import { addLayer } from '../../core/edits/arrange-edits.ts';
import { addProp } from '../../core/edits/prop-edits.ts';
import { newRepeat, setRepeat } from '../../core/edits/repeat-edits.ts';
import { paintFrame } from '../../core/paint/painter.ts';
import { studioOf, type Studio, type Surface2D } from '../../core/paint/surface.ts';
import { ellipse } from '../../core/path/forms.ts';
import { propKinds } from '../../core/props/props.ts';
import { evaluateFrame } from '../../core/scene/evaluate.ts';
import { median } from '../measures.ts';
import type { Section } from '../report.ts';

const [width, height] = [1920, 1080];
const contextOf = (canvas: Canvas): Surface2D<Canvas> => canvas.getContext('2d') as unknown as Surface2D<Canvas>;
const newStudio = (): Studio<Canvas> =>
  studioOf<Canvas>(
    () => undefined,
    (w, h) => {
      const canvas = createCanvas(w, h);
      return { canvas, context: contextOf(canvas) };
    },
    (image) => ({ width: image.width, height: image.height }),
  );
const empty = (): Document => emptyDocument('bench', { width, height, rate: 30 }, 6, 'shot');

/** A grid of 150 x 150 round dots, each a layer's copy. */
function dots(): Document {
  const dot = { id: 'dot', name: 'dot', depth: 3, position: [-950, -530] as [number, number] };
  const content = {
    source: { kind: 'shape' as const, made: null, closed: true, filled: true, gradient: null, stroke: null },
    points: numbersOfPath(ellipse({ x: 0, y: 0, width: 6, height: 6 })),
    colour: [200, 80, 40, 1],
    pivot: [3, 3] as [number, number],
  };
  const repeat = {
    ...newRepeat(6),
    form: 'grid' as const,
    count: 150,
    rows: 150,
    step: [12.7, 7.1] as [number, number],
  };
  return [addLayer('shot', dot, content), setRepeat('shot', 'dot', repeat)].reduce((d, edit) => edit.apply(d), empty());
}

/** Each prop at full HD beside one drawing of a full-HD layer, in one run. */
export async function propsSection(say: (line: string) => void): Promise<Section> {
  const surface = createCanvas(width, height);
  const picture = createCanvas(width, height);
  picture.getContext('2d').fillRect(100, 100, 900, 700);
  const timed = (work: () => void): number => {
    const started = performance.now();
    work();
    surface.getContext('2d').getImageData(0, 0, 1, 1);
    return performance.now() - started;
  };
  const context = surface.getContext('2d');
  const plain = median(
    Array.from({ length: 9 }, (_, k) =>
      timed(() => {
        context.setTransform(0.99, 0.08, -0.08, 0.99, k, 0);
        context.drawImage(picture, 0, 0);
      }),
    ),
  );
  const frameTime = (document: Document, studio: Studio<Canvas>, frame: number): number =>
    timed(() => {
      paintFrame(contextOf(surface), evaluateFrame(document, document.shots[0]!, frame), studio, {
        scale: 1,
        ground: '#234',
      });
    });
  const rows: string[][] = [];
  const beyond: string[] = [];
  for (const kind of propKinds) {
    say(`props: ${kind.name}`);
    const document = addProp('shot', kind.id, { id: 'prop', depth: 4 }).apply(empty());
    const studio = newStudio();
    frameTime(document, studio, 0);
    const ratio = median(Array.from({ length: 5 }, (_, k) => frameTime(document, studio, 10 + k))) / plain;
    if (ratio > 3) beyond.push(kind.name);
    rows.push([kind.name, kind.family, `${(ratio * plain).toFixed(0)} ms`, `${ratio.toFixed(1)} x`]);
  }
  const grid = dots();
  const studio = newStudio();
  const repeated = median(Array.from({ length: 5 }, (_, k) => frameTime(grid, studio, k))) / plain;
  return {
    title: 'Props',
    bars: [
      {
        what: 'a prop at full HD, of one turned drawing of a full-HD layer',
        wanted: `at most 3 x, all ${propKinds.length}`,
        measured: `${propKinds.length - beyond.length} of ${propKinds.length}`,
        reached: beyond.length === 0,
      },
      {
        what: '22,500 repeated dots, of the same drawing',
        wanted: 'at most 6 x',
        measured: `${repeated.toFixed(1)} x`,
        reached: repeated <= 6,
      },
    ],
    table: { head: ['prop', 'family', 'a frame', 'of a drawing'], rows },
    notes: [
      `One turned drawing takes ${plain.toFixed(0)} ms; a frame with its pixels read back, median of 5, evaluation within.`,
      `Beyond their bar: ${beyond.join(', ') || 'none'}.`,
    ],
  };
}

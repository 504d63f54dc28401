import { untouched, type Document } from '../../core/document/document.ts';
import type { Layer } from '../../core/document/layer.ts';
import { textSourceSchema } from '../../core/document/words.ts';
import { addLayer } from '../../core/edits/arrange-edits.ts';
import { addPicture, addPiece } from '../../core/edits/project-edits.ts';
import { buoyPhoto } from '../../e2e/harness.ts';
import { card, projectAt } from '../../e2e/stage-world.ts';

const frame = { width: 1280, height: 720, rate: 30 };
const seconds = 4;
const begun = { name: 'Signals', frame, seconds };

/** What a project of signals has: so many layers, each moved by so many keys; every third of them words. */
export interface Signals {
  layers: number;
  keys: number;
  words?: boolean;
}

const placeOf = (n: number): [number, number] => [((n * 131) % 900) - 450, ((n * 89) % 480) - 240];

/** A project in a store of projects; gives the address of its Stage. */
export const signalsProject = (url: string, signals: Signals): Promise<string> =>
  projectAt(url, begun, (empty) => withSignals(empty, signals));

/** The same with a picture and a piece of it that was found by strokes of so many points. */
export async function strokedProject(url: string, signals: Signals, points: number): Promise<string> {
  const bytes = await buoyPhoto(480, 360);
  const headers = { 'content-type': 'image/jpeg', 'x-file-name': 'marker_buoy.jpg' };
  const answer = await fetch(`${url}/api/pictures`, { method: 'POST', headers, body: new Uint8Array(bytes) });
  const { name, original, file, width, height } = (await answer.json()) as {
    [K in 'name' | 'original' | 'file']: string;
  } & { [K in 'width' | 'height']: number };
  const each = 100;
  const stroke = (n: number) => ({
    radius: 3,
    // All of them within the buoy, so that they teach what is right.
    points: Array.from({ length: each }, (_, k): [number, number] => [215 + (k % 50), 140 + ((n * 7 + k) % 80)]),
  });
  const keep = Array.from({ length: Math.ceil(points / each) }, (_, n) => stroke(n));
  const recipe = { kind: 'subject' as const, answer: 'subject' as const, keep, drop: [], box: null };
  const edits = [
    addPicture({ id: 'buoy', name, original, file, width, height, clip: null, background: null }),
    addPiece({ id: 'piece-1', picture: 'buoy', name: 'Buoy', recipe, ...untouched }),
  ];
  return projectAt(url, begun, (empty) => edits.reduce((d, edit) => edit.apply(d), withSignals(empty, signals)));
}

function withSignals(empty: Document, { layers, keys, words = false }: Signals): Document {
  let document = empty;
  for (let n = 0; n < layers; n++)
    document =
      words && n % 3 === 0
        ? withWords(document, `layer-${n}`, n)
        : card(document, `layer-${n}`, [60 + ((n * 37) % 180), 120, 90], 2 + (n % 7), placeOf(n)).apply(document);
  const moved = document.shots[0]!.layers.map((layer, n) => withKeys(layer, n, keys));
  return { ...document, shots: [{ ...document.shots[0]!, layers: moved }] };
}

function withWords(document: Document, id: string, n: number): Document {
  const plain = { face: 'grotesque', size: 40, align: 'left', leading: 1.2, tracking: 0, stroke: null };
  const box = { width: 280, height: 48 };
  const source = textSourceSchema.parse({ kind: 'text', text: 'The tide turns', ...plain, box });
  const place = { id, name: 'The tide turns', depth: 2 + (n % 7), position: placeOf(n) };
  return addLayer(document.shots[0]!.id, place, { source, colour: [250, 240, 220, 1] }).apply(document);
}

/** The first layer stays without keys: it is what is nudged. */
function withKeys(layer: Layer, n: number, keys: number): Layer {
  if (n === 0) return layer;
  const [x, y] = placeOf(n);
  const list = Array.from({ length: keys }, (_, k) => ({
    frame: Math.round((k * (frame.rate * seconds - 1)) / Math.max(1, keys - 1)),
    value: [x + (k % 2 ? 30 : 0), y + k] as [number, number],
    easing: 'ease-in-out' as const,
  }));
  return { ...layer, position: { keys: list } };
}

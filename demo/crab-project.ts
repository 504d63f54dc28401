import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { z } from 'zod';
import { emptyDocument, untouched, type Document } from '../core/document/document.ts';
import { newFigure, withMattes } from '../core/document/figure.ts';
import { firstBehind } from '../core/document/plate.ts';
import { numbersOfPath } from '../core/document/points.ts';
import { plainWords } from '../core/document/words.ts';
import { restFraming } from '../core/document/shot.ts';
import { rectangle } from '../core/path/forms.ts';
import { changeArrival, setArrival } from '../core/edits/arrival-edits.ts';
import { addLayer } from '../core/edits/arrange-edits.ts';
import { setFraming } from '../core/edits/camera-edits.ts';
import { holdClip, runClipBack } from '../core/edits/clip-time-edits.ts';
import type { Edit } from '../core/edits/edit.ts';
import { setProperty } from '../core/edits/layer-edits.ts';
import { hangPicture, liftOut } from '../core/edits/lift-edit.ts';
import { addPicture, addPiece } from '../core/edits/project-edits.ts';
import { addTrack, fastenToPoint } from '../core/edits/track-edits.ts';
import type { FileStore } from '../server/store/files.ts';
import { filmFrame } from './clips/film.ts';
import { crabFrames, tinCrab } from './clips/tin-crab.ts';
import { setWords } from './fonts.ts';
import { decode, encode } from './pixels.ts';

const [shot, frame] = ['shot-1', { width: 1920, height: 1080, rate: 24 }];
/** Frame pixels a pixel of the film takes. */
const larger = 2;

const factsSchema = z.object({
  changed: z.array(z.number()),
  marks: z.array(z.object({ frame: z.number(), at: z.tuple([z.number(), z.number()]) })),
  points: z.array(z.number()),
});

/**
 * What clips can do: a tin crab is cut out of its film and walks behind a railing, words follow its claw, and all of it is held for a second and runs back.
 */
export async function makeCrabDocument(files: FileStore): Promise<Document> {
  const read = (name: string): Promise<Buffer> => readFile(join(import.meta.dirname, 'pictures', name));
  const store = async (png: Uint8Array): Promise<string> => (await files.add(Buffer.from(png), 'image/png')).hash;
  const original = (await files.add(await read('tin-crab.webm'), 'video/webm')).hash;
  const entries = unzipSync(new Uint8Array(await read('tin-crab-cut.zip')));
  const facts = factsSchema.parse(JSON.parse(new TextDecoder().decode(entries['facts.json'])));
  const names = Object.keys(entries).filter((name) => name.startsWith('mattes/'));
  const mattes = await Promise.all(names.sort().map((name) => store(entries[name]!)));
  const { width, height } = tinCrab;
  const first = filmFrame(tinCrab, 0);
  const cutout = first.picture;
  first.alpha.data.forEach((a, i) => (cutout.data[i * 4 + 3] = a));
  const poster = await store(await encode(filmFrame(tinCrab, 0).picture));
  const bounds = { x: 0, y: 0, width, height };
  const found = { kind: 'subject' as const, answer: 'subject' as const, keep: [], drop: [], box: null };
  const cut = mattes.map((matte, k) => ({ frame: k, matte, changed: facts.changed[k]! }));
  const recipe = withMattes(newFigure(0, crabFrames, found), cut, [0, crabFrames]);
  const ground = {
    ...firstBehind,
    id: 'step-1',
    takes: [],
    file: await store(await encode(await decode(Buffer.from(entries['ground.jpg']!)))),
    bounds,
  };
  const clip = { frames: crabFrames, rate: tinCrab.rate };
  const edits: Edit[] = [
    addPicture({
      id: 'picture-crab',
      name: 'Tin crab',
      original,
      file: poster,
      width,
      height,
      clip,
      background: { steps: [ground] },
    }),
    addPiece({ ...untouched, id: 'piece-crab', picture: 'picture-crab', name: 'Tin crab', recipe }),
    addTrack({ id: 'point-claw', picture: 'picture-crab', name: 'Claw', radius: 13, ...facts }),
    liftOut({
      pieces: [{ piece: 'piece-crab', cutout: { file: await store(await encode(cutout)), bounds }, layer: 'crab' }],
      steps: [],
      backgroundLayer: 'unused',
    }),
    hangPicture('picture-crab', 'quay'),
    setProperty(shot, 'quay', 'scale', 0, larger * 1.06),
    setProperty(shot, 'crab', 'scale', 0, larger),
    setProperty(shot, 'crab', 'depth', 0, 4.2),
    ...railing(),
    ...(await followed()),
    runClipBack(shot, 'crab', crabFrames - 1),
    holdClip(shot, 'crab', crabFrames - 1, frame.rate),
    setFraming(shot, 'first', { ...restFraming, x: -60, y: 20, size: 0.9 }),
    setFraming(shot, 'last', { ...restFraming, x: 90, y: 20, size: 0.86 }),
  ];
  const seconds = (2 * crabFrames + frame.rate) / frame.rate;
  return edits.reduce((d, edit) => edit.apply(d), emptyDocument('Tin crab on the quay', frame, seconds, shot));
}

/** A railing nearer than the crab, in the shade. */
function railing(): Edit[] {
  const bar = (id: string, name: string, position: [number, number], [width, height]: [number, number]): Edit =>
    addLayer(
      shot,
      { id, name, depth: 2.6, position },
      {
        source: { kind: 'shape', made: null, closed: true, filled: true, gradient: null, stroke: null },
        points: numbersOfPath(rectangle({ x: 0, y: 0, width, height })),
        colour: [38, 46, 48, 1],
        pivot: [width / 2, height / 2],
      },
    );
  const posts = [-3, -2, -1, 0, 1, 2, 3];
  return [
    bar('rail', 'Rail', [0, 356], [2700, 30]),
    ...posts.map((k) => bar(`post-${k + 4}`, `Post ${k + 4}`, [k * 350 + 60, 470], [34, 260])),
  ];
}

/** Embers rise from the claw, and words stay beside it. */
async function followed(): Promise<Edit[]> {
  const [x, y] = tinCrab.point!(0);
  const at: [number, number] = [x * larger - frame.width / 2, y * larger - frame.height / 2];
  const words = { ...plainWords, text: 'Lantern Week', face: 'hand' as const, size: 96 };
  const { width, height } = await setWords(words);
  return [
    addLayer(
      shot,
      { id: 'words', name: 'Lantern Week', depth: 4, position: [at[0] + 60, at[1] - 190] },
      { source: { ...words, box: { width, height } }, colour: [250, 240, 220, 1], pivot: [width / 2, height / 2] },
    ),
    fastenToPoint(shot, 'words', 'crab', 'point-claw', null, 0),
    setArrival(shot, ['words'], 'write'),
    changeArrival(shot, 'words', 'arrive', { length: 40 }),
  ];
}

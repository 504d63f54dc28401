import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { emptyDocument, untouched, type Document } from '../core/document/document.ts';
import { findPiece, finished } from '../core/make/cut-piece.ts';
import { addKey, setDepth, setProperty } from '../core/edits/layer-edits.ts';
import { hangPicture, liftOut } from '../core/edits/lift-edit.ts';
import { addPicture, addPiece } from '../core/edits/project-edits.ts';
import { cutPiece } from '../core/rebuild/lift.ts';
import type { SingleRecipe } from '../core/document/recipe.ts';
import { ingestBytes } from '../server/ingest.ts';
import type { FileStore } from '../server/store/files.ts';
import { decode, encode } from './pixels.ts';
import { sparksClip, sparksFrame } from './scenes/sparks.ts';

const chroma: SingleRecipe = { kind: 'chroma', colours: [], core: 10, edge: 34, spill: 1 };
const unveil: SingleRecipe = { kind: 'unveil', black: 8 };

/**
 * The tin heron, taken before green cloth, beside the breakwater, with a sparkler from a clip on black: what stands before
 * a screen or on black needs no background of its own.
 */
export async function makeHeronDocument(files: FileStore): Promise<Document> {
  const picture = async (name: string) =>
    ingestBytes(files, await readFile(join(import.meta.dirname, 'pictures', name)), name);
  const [green, quay] = [await picture('heron-green.jpg'), await picture('breakwater.jpg')];
  const store = async (pixels: Parameters<typeof encode>[0]): Promise<string> =>
    (await files.add(await encode(pixels), 'image/png')).hash;
  const shot = await decode(await files.read(green.file));
  const found = await findPiece(shot, chroma, () => Promise.reject(new Error('A key needs no help.')));
  const heron = await cutPiece({ picture: shot, ...finished(shot, found, untouchedPiece) });
  const bytes = await readFile(join(import.meta.dirname, 'pictures', 'sparks.webm'));
  const clip = (await files.add(bytes, 'video/webm')).hash;
  const poster = await store(sparksFrame(0));
  const { width, height, frames, rate } = sparksClip;
  const lit = await findPiece(sparksFrame(30), unveil, () => Promise.reject(new Error('A key needs no help.')));
  const sparkler = { file: await store(lit.colours!), bounds: { x: 0, y: 0, width, height } };
  const edits = [
    addPicture({ ...quay, id: 'picture-1', name: 'Breakwater', clip: null, background: null }),
    addPicture({ ...green, id: 'picture-2', name: 'Heron on green', clip: null, background: null }),
    addPicture({ ...of(clip, poster), id: 'picture-3', width, height, clip: { frames, rate } }),
    hangPicture('picture-1', 'layer-1'),
    addPiece({ ...untouched, id: 'piece-1', picture: 'picture-2', name: 'Tin heron', recipe: chroma }),
    addPiece({ ...untouched, id: 'piece-2', picture: 'picture-3', name: 'Sparkler', recipe: unveil }),
    liftOut({
      pieces: [
        { piece: 'piece-1', cutout: { file: await store(heron.cutout), bounds: heron.bounds }, layer: 'layer-2' },
      ],
      steps: [],
      backgroundLayer: 'unused',
    }),
    liftOut({
      pieces: [{ piece: 'piece-2', cutout: sparkler, layer: 'layer-3' }],
      steps: [],
      backgroundLayer: 'unused',
    }),
    setDepth('shot-1', 'layer-3', 2.5),
    setProperty('shot-1', 'layer-2', 'scale', 0, 0.62),
    setProperty('shot-1', 'layer-2', 'position', 0, [330, 190]),
    setProperty('shot-1', 'layer-3', 'scale', 0, 1.1),
    // The sparkler is carried across in front.
    addKey('shot-1', 'layer-3', 'position', 0, [-620, 240]),
    addKey('shot-1', 'layer-3', 'position', 149, [120, 60]),
  ];
  const start = emptyDocument('The tin heron', { width: 1920, height: 1080, rate: 30 }, 5, 'shot-1');
  return edits.reduce((document, edit) => edit.apply(document), start);
}

const untouchedPiece = { care: untouched.care, marks: [] };
const of = (original: string, file: string) => ({ name: 'Sparkler', original, file, background: null });

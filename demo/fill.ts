import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { estimateAlpha } from '../core/cut/alpha.ts';
import type { Stroke } from '../core/cut/strokes.ts';
import { CutPicture } from '../core/cut/cut-picture.ts';
import { learnedLook } from '../cli/learned.ts';
import { CutSession } from '../core/cut/subject.ts';
import { boundsOf, cropRgba, type Bytes, type Rgba } from '../core/pixels/raster.ts';
import { findShadow } from '../core/rebuild/find-shadow.ts';
import { cutPiece } from '../core/rebuild/lift.ts';
import { emptyDocument, untouched, type Document, type Piece } from '../core/document/document.ts';
import type { Edit } from '../core/edits/edit.ts';
import { liftOut } from '../core/edits/lift-edit.ts';
import { makeBehind } from '../core/make/make-plate.ts';
import { firstBehind } from '../core/document/plate.ts';
import { addPicture, addPiece } from '../core/edits/project-edits.ts';
import { ingestBytes } from '../server/ingest.ts';
import type { FileStore } from '../server/store/files.ts';
import type { ProjectStore } from '../server/store/projects.ts';
import { makeCrabDocument } from './crab-project.ts';
import { makeComicDocument } from './comic-project.ts';
import { makeHeronDocument } from './heron-project.ts';
import { makeMastDocument } from './mast-project.ts';
import { makeNightDocument } from './night-project.ts';
import { makeWordsDocument } from './words-project.ts';
import { decode, encode } from './pixels.ts';
import { demoProjects, type DemoProject } from './projects.ts';

/** Makes the demo projects that are not there yet, by the same computations the rooms use. */
export async function fillWithDemo(
  projects: ProjectStore,
  files: FileStore,
  say: (line: string) => void,
): Promise<void> {
  const there = new Set(
    projects.list().map((project) => ('document' in project ? project.document.name : project.name)),
  );
  const make = async (name: string, work: () => Promise<Document>): Promise<void> => {
    if (there.has(name)) return;
    say(`Making the demo project "${name}"`);
    projects.create(await work());
  };
  /** Several projects are set up from one cut: it is made once. */
  const once = (work: () => Promise<Document>): (() => Promise<Document>) => {
    let made: Promise<Document> | null = null;
    return () => (made ??= work());
  };
  const breakwater = once(() => makeDemoDocument(demoOf('breakwater'), files));
  await make('Lantern Week', () => makeDemoDocument(demoOf('lantern'), files));
  await make('Words at Wendle Quay', async () => makeWordsDocument(await breakwater()));
  await make('Night over the quay', async () => makeNightDocument(await breakwater()));
  await make('Signals at Wendle Quay', () => makeMastDocument(files));
  await make('Tin crab on the quay', () => makeCrabDocument(files));
  await make('Heron on the comic page', async () =>
    makeComicDocument(await makeHeronDocument(files), await breakwater()),
  );
}

const demoOf = (picture: DemoProject['picture']): DemoProject => demoProjects.find((demo) => demo.picture === picture)!;

async function makeDemoDocument(demo: DemoProject, files: FileStore): Promise<Document> {
  const fileName = `${demo.picture}.jpg`;
  const brought = await ingestBytes(files, await readFile(join(import.meta.dirname, 'pictures', fileName)), fileName);
  const picture = await decode(await files.read(brought.file));
  const { mask } = new CutSession(new CutPicture(picture, await learnedLook())).solve(demo.recipe);
  const alpha = estimateAlpha(picture, mask);
  const region = demo.withShadow ? await findShadow(picture, alpha) : null;
  const begin: Edit[] = [
    addPicture({ ...brought, id: 'picture-1', name: demo.pictureName, clip: null, background: null }),
    addPiece({ ...pieceIn('picture-1'), id: 'piece-1', name: demo.pieceName, recipe: demo.recipe }),
  ];
  if (region) begin.push(addPiece(shadowPiece('piece-2', `${demo.pieceName} shadow`, region)));
  let document = applyAll(emptyDocument(demo.name, demo.frame, demo.seconds, 'shot-1'), begin);
  document = (await liftEdit(document, picture, alpha, demo, files)).apply(document);
  for (const finish of demo.finish) document = applyAll(document, finish(document));
  return document;
}

const applyAll = (document: Document, edits: Edit[]): Document => edits.reduce((d, edit) => edit.apply(d), document);

const pieceIn = (picture: string) => ({ picture, ...untouched });

function shadowPiece(id: string, name: string, region: Stroke[]): Piece {
  const strokes = region.map((s) => ({ radius: s.radius, points: s.points.map(([x, y]): [number, number] => [x, y]) }));
  return { ...pieceIn('picture-1'), id, name, recipe: { kind: 'shadow', of: 'piece-1', region: strokes } };
}

/** Cuts the first piece and rebuilds what is behind it, as the Cut room does. */
async function liftEdit(
  document: Document,
  picture: Rgba,
  alpha: Bytes,
  demo: DemoProject,
  files: FileStore,
): Promise<Edit> {
  const { cutout, bounds } = await cutPiece({ picture, alpha });
  const order = { ...firstBehind, id: 'step-1', seed: demo.seed };
  const work = {
    document,
    picture: document.pictures[0]!,
    load: async (file: string) => decode(await files.read(file)),
  };
  const behind = await makeBehind(order, work, { piece: 'piece-1', alpha });
  const store = async (pixels: Rgba): Promise<string> => (await files.add(await encode(pixels), 'image/png')).hash;
  const pieces = [{ piece: 'piece-1', cutout: { file: await store(cutout), bounds }, layer: 'layer-1' }];
  for (const [k, shadow] of behind.shadows.entries()) {
    if (!shadow) continue;
    const cut = { file: await store(shadow.layer), bounds: shadow.bounds };
    pieces.push({ piece: behind.shadowPieces[k]!, cutout: cut, layer: `layer-${k + 3}` });
  }
  const whole = { x: 0, y: 0, width: picture.width, height: picture.height };
  const hole = boundsOf(behind.hole)!;
  const take = { seed: order.seed, file: await store(cropRgba(behind.plate, hole)), bounds: hole };
  const steps = [{ ...order, file: await store(behind.plate), bounds: whole, takes: [take] }];
  return liftOut({ pieces, steps, backgroundLayer: 'layer-2' });
}

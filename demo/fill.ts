import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { estimateAlpha } from '../core/cut/alpha.ts';
import { CutSession } from '../core/cut/subject.ts';
import type { Rgba } from '../core/pixels/raster.ts';
import { liftPiece, type Lifted } from '../core/rebuild/lift.ts';
import { emptyDocument, type Document, type Recipe } from '../core/scene/document.ts';
import type { Edit } from '../core/scene/edit.ts';
import { liftOut } from '../core/scene/lift-edit.ts';
import { addPicture, addPiece } from '../core/scene/project-edits.ts';
import { ingestPicture } from '../server/ingest.ts';
import type { FileStore } from '../server/store/files.ts';
import type { ProjectStore } from '../server/store/projects.ts';
import { demoProjects, type DemoProject } from './projects.ts';

/** Makes the demo projects in a data folder that holds none, by the same computations the rooms use. */
export async function fillWithDemo(
  projects: ProjectStore,
  files: FileStore,
  say: (line: string) => void,
): Promise<void> {
  if (projects.list().length > 0) return;
  for (const demo of demoProjects) {
    say(`Making the demo project "${demo.name}"`);
    projects.create(await makeDemoDocument(demo, files));
  }
}

async function makeDemoDocument(demo: DemoProject, files: FileStore): Promise<Document> {
  const fileName = `${demo.picture}.jpg`;
  const brought = await ingestPicture(files, await readFile(join(import.meta.dirname, 'pictures', fileName)), fileName);
  const picture = await decode(await files.read(brought.file));
  const lifted = await lift(picture, demo.recipe);
  const cutout = await files.add(await encode(lifted.cutout), 'image/png');
  const background = await files.add(await encode(lifted.background), 'image/png');
  const edits: Edit[] = [
    addPicture({ ...brought, id: 'picture-1', name: demo.pictureName, background: null }),
    addPiece({
      id: 'piece-1',
      picture: 'picture-1',
      name: demo.pieceName,
      recipe: demo.recipe,
      cutout: null,
    }),
    liftOut({
      piece: 'piece-1',
      cutout: { file: cutout.hash, bounds: lifted.bounds },
      background: { file: background.hash, seed: 1 },
      pieceLayer: 'layer-1',
      backgroundLayer: 'layer-2',
    }),
    ...demo.finish,
  ];
  return edits.reduce(
    (document, edit) => edit.apply(document),
    emptyDocument(demo.name, demo.frame, demo.seconds, 'shot-1'),
  );
}

async function lift(picture: Rgba, recipe: Recipe): Promise<Lifted> {
  const { mask } = new CutSession(picture).solve(recipe);
  return liftPiece({ picture, alpha: estimateAlpha(picture, mask), others: [], seed: 1 });
}

async function decode(bytes: Buffer): Promise<Rgba> {
  const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return {
    width: info.width,
    height: info.height,
    data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length),
  };
}

function encode(picture: Rgba): Promise<Buffer> {
  return sharp(picture.data, { raw: { width: picture.width, height: picture.height, channels: 4 } })
    .png({ compressionLevel: 3 })
    .toBuffer();
}

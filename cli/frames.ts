import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { createCanvas } from '@napi-rs/canvas';
import type { Document } from '../core/document/document.ts';
import { numberedPng } from '../core/formats/exports.ts';
import { paintFrame } from '../core/paint/painter.ts';
import { evaluateLoop, loopLength } from '../core/scene/loop.ts';
import { projectLength } from '../core/scene/sequence.ts';
import { readBundle } from '../server/bundle/read-bundle.ts';
import { UserError } from '../server/errors.ts';
import { openDatabase } from '../server/store/database.ts';
import { FileStore } from '../server/store/files.ts';
import { OutputStore } from '../server/store/outputs.ts';
import { ProjectStore } from '../server/store/projects.ts';
import { contextOf, NeedsBrowser, NodeStudio } from './node-studio.ts';
import { UsageError, wholeNumber } from './pictures.ts';

interface Wanted {
  out: string;
  first: number;
  /** Not included; null for all there are. */
  end: number | null;
  size: { width: number; height: number } | null;
}

/** `clyvo frames`: the frames of a project in a bundle as numbered PNGs, painted as the application paints them. */
export async function frames(args: string[]): Promise<Record<string, unknown>> {
  const { values } = parseArgs({
    args,
    options: {
      project: { type: 'string' },
      out: { type: 'string' },
      first: { type: 'string', default: '0' },
      end: { type: 'string' },
      size: { type: 'string' },
    },
  });
  const { project, out, size } = values;
  if (!project || !out)
    throw new UsageError(
      'frames needs --project bundle.zip and --out folder, and takes --first n, --end n, --size 640x360.',
    );
  const wanted: Wanted = {
    out,
    first: wholeNumber('first', values.first, 0),
    end: values.end === undefined ? null : wholeNumber('end', values.end, 1),
    size: size === undefined ? null : readSize(size),
  };
  const folder = await mkdtemp(join(tmpdir(), 'clyvo-frames-'));
  try {
    const db = openDatabase(folder);
    const files = new FileStore(db, folder);
    const opened = readBundle(project, files, new ProjectStore(db), new OutputStore(db));
    const { document } = await opened.finally(() => db.close());
    return await paintAll(document, new NodeStudio((file) => files.path(file)), wanted);
  } catch (error) {
    if (error instanceof UserError) throw new UsageError(error.message);
    if (error instanceof NeedsBrowser)
      throw new UsageError('This project has clips, which only the browser decodes: export its Frames in Deliver.');
    throw error;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function paintAll(document: Document, studio: NodeStudio, { out, first, end, size }: Wanted) {
  const range = { first: 0, end: projectLength(document) };
  const length = loopLength(document, range);
  const last = Math.min(end ?? length, length);
  if (first >= last)
    throw new UsageError(`There is no frame from ${first} to before ${end ?? length}; the clip has ${length}, from 0.`);
  const { width, height } = size ?? document.frame;
  await mkdir(out, { recursive: true });
  await studio.load(document);
  const canvas = createCanvas(width, height);
  const scale = width / document.frame.width;
  const started = performance.now();
  for (let frame = first; frame < last; frame++) {
    const evaluated = evaluateLoop(document, range, frame);
    const painted = await studio.studioFor(evaluated, scale);
    paintFrame(contextOf(canvas), evaluated, painted, { scale, ground: null, size: { width, height } });
    await writeFile(join(out, numberedPng(frame, length)), await canvas.encode('png'));
  }
  return { frames: last - first, width, height, milliseconds: Math.round(performance.now() - started) };
}

function readSize(text: string): { width: number; height: number } {
  const [width, height] = /^(\d+)x(\d+)$/.exec(text)?.slice(1).map(Number) ?? [];
  if (!width || !height || width > 8192 || height > 8192)
    throw new UsageError(`--size takes width and height like 640x360, at most 8192 each, not "${text}".`);
  return { width, height };
}

import { closeSync, createReadStream, openSync, readSync, type ReadStream } from 'node:fs';
import type { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import type { Document } from '../../core/document/document.ts';
import {
  bundledName,
  bundleEntries,
  bundleVersion,
  filesOfBundle,
  type BundleManifest,
} from '../../core/formats/bundle.ts';
import type { FileStore } from '../store/files.ts';
import type { Output } from '../store/outputs.ts';
import { typeByHead } from '../type-by-head.ts';

/** The same project gives the same bytes, whenever and wherever it is written. */
const asPacked = { mtime: new Date(1980, 0, 1), mode: 0o100644, forceDosTimestamp: true };

/** What will lie in a bundle. */
export interface BundlePlan {
  document: Document;
  manifest: BundleManifest;
  files: { name: string; path: string; bytes: number }[];
}

/**
 * What a bundle of a project holds.
 * @throws UserError 404 when a file of the project is missing
 */
export function planBundle(store: FileStore, document: Document, outputs: readonly Output[]): BundlePlan {
  const manifest: BundleManifest = {
    clyvo: 'bundle',
    version: bundleVersion,
    exports: outputs.map(({ name, format, width, height, frames, rate, file, created }) => {
      return { name, format, width, height, frames, rate, file, created };
    }),
  };
  const files = filesOfBundle(document, manifest).map((hash) => {
    const { bytes } = store.get(hash);
    const path = store.path(hash);
    // By what is in it: how it was called when it was stored may differ from one data folder to the next.
    return { name: bundledName(hash, typeByHead(headOf(path))), path, bytes };
  });
  return { document, manifest, files };
}

/**
 * A bundle as a ZIP that is written while it is read; pictures and clips are packed already and lie in it as they are. No
 * file stays open when who reads it turns away.
 */
export function writeBundle({ document, manifest, files }: BundlePlan): Readable {
  const zip = new ZipFile();
  const stream = zip.outputStream as Readable;
  const addJson = (name: string, value: unknown): void =>
    zip.addBuffer(Buffer.from(`${JSON.stringify(value, null, 1)}\n`), name, asPacked);
  addJson(bundleEntries.manifest, manifest);
  addJson(bundleEntries.document, document);
  let open: ReadStream | null = null;
  for (const { name, path, bytes } of files)
    zip.addReadStreamLazy(name, { ...asPacked, compress: false, size: bytes }, (done) => {
      open = createReadStream(path);
      open.on('error', (error) => stream.destroy(error));
      done(null, open);
    });
  zip.end();
  zip.on('error', (error: Error) => stream.destroy(error));
  stream.on('close', () => open?.destroy());
  return stream;
}

function headOf(path: string): Buffer {
  const [head, file] = [Buffer.alloc(32), openSync(path, 'r')];
  try {
    return head.subarray(0, readSync(file, head, 0, head.length, 0));
  } finally {
    closeSync(file);
  }
}

import type { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import {
  bundledName,
  bundleEntries,
  bundleVersion,
  filesOfBundle,
  type BundleManifest,
} from '../../core/formats/bundle.ts';
import { readDocument, type Document } from '../../core/document/document.ts';
import type { FileStore } from '../store/files.ts';
import type { Output } from '../store/outputs.ts';

/** The same project gives the same bytes, whenever and wherever it is written. */
const asPacked = { mtime: new Date(1980, 0, 1), mode: 0o100644, forceDosTimestamp: true };

/**
 * A project with its files as a ZIP that is written while it is read; pictures and clips are packed already and lie in it as
 * they are.
 * @throws UserError 404 before the first byte when a file of the project is missing
 */
export function writeBundle(files: FileStore, document: Document, outputs: readonly Output[]): Readable {
  const manifest: BundleManifest = {
    clyvo: 'bundle',
    version: bundleVersion,
    exports: outputs.map(({ name, format, width, height, frames, rate, file, created }) => {
      return { name, format, width, height, frames, rate, file, created };
    }),
  };
  const zip = new ZipFile();
  const addJson = (name: string, value: unknown): void =>
    zip.addBuffer(Buffer.from(`${JSON.stringify(value, null, 1)}\n`), name, asPacked);
  addJson(bundleEntries.manifest, manifest);
  addJson(bundleEntries.document, readDocument(document));
  for (const hash of filesOfBundle(document, manifest)) {
    const { type } = files.get(hash);
    zip.addFile(files.path(hash), bundledName(hash, type), { ...asPacked, compress: false });
  }
  zip.end();
  const stream = zip.outputStream as Readable;
  zip.on('error', (error: Error) => stream.destroy(error));
  return stream;
}

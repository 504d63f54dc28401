import { json } from 'node:stream/consumers';
import { openPromise, type Entry, type ZipFile } from 'yauzl';
import { readDocument, UnreadableDocument, type Document } from '../../core/document/document.ts';
import {
  bundleEntries,
  bundleManifestSchema,
  bundleVersion,
  filesOfBundle,
  hashOfEntry,
  type BundleManifest,
} from '../../core/formats/bundle.ts';
import { UserError } from '../errors.ts';
import type { FileStore, ReceivedFile } from '../store/files.ts';
import type { OutputStore } from '../store/outputs.ts';
import { largestDocument, nestedTooDeep } from '../store/patch.ts';
import type { ProjectStore, StoredProject } from '../store/projects.ts';
import { kindOfFile } from './kind-of-file.ts';

/** The largest bundle that is taken, packed or not, and the largest file in it. */
export const largestBundle = 8 * 1024 ** 3;
const largestFile = 2 * 1024 ** 3;
const mostEntries = 50_000;

interface Contents {
  document: Document;
  manifest: BundleManifest;
  /** By hash. */
  files: Map<string, Entry>;
}

const refused = (why: string, status = 422): UserError =>
  new UserError(status, `This is no bundle Clyvo can open: ${why}.`);

/**
 * Brings in a bundle as a project of its own beside those that are there. Everything in it is checked like any stranger's
 * file before anything is stored: names, sizes, the hash of every file, what each file is, the document as a whole.
 * @throws UserError with a sentence; nothing is left behind
 */
export async function readBundle(
  path: string,
  files: FileStore,
  projects: ProjectStore,
  outputs: OutputStore,
): Promise<StoredProject> {
  const zip = await openPromise(path, { autoClose: false, strictFileNames: true }).catch(() => {
    throw refused('it is no whole ZIP', 415);
  });
  const received: ReceivedFile[] = [];
  try {
    const contents = await contentsOf(zip);
    const types = new Map<ReceivedFile, string>();
    for (const hash of filesOfBundle(contents.document, contents.manifest)) {
      const entry = contents.files.get(hash);
      if (!entry) throw refused(`a file of its project is missing (${hash.slice(0, 8)})`);
      const file = await take(zip, entry, files);
      received.push(file);
      if (file.hash !== hash) throw refused(`a file in it is damaged (${hash.slice(0, 8)})`);
      const type = await kindOfFile(file);
      if (!type) throw refused(`a file in it is nothing a project holds (${hash.slice(0, 8)})`);
      types.set(file, type);
    }
    for (const [file, type] of types) await file.keep(type);
    const project = projects.create(contents.document);
    for (const { file, created, ...facts } of contents.manifest.exports) outputs.add(project.id, facts, file, created);
    return project;
  } finally {
    zip.close();
    for (const file of received) await file.discard();
  }
}

async function contentsOf(zip: ZipFile): Promise<Contents> {
  const entries = await entriesOf(zip);
  const manifest = bundleManifestSchema.safeParse(await jsonOf(zip, entries.get(bundleEntries.manifest)));
  if (!manifest.success) throw refused('it does not say what it holds');
  if (manifest.data.version > bundleVersion) throw refused('it was made by a newer Clyvo');
  const files = new Map<string, Entry>();
  for (const [name, entry] of entries) {
    const hash = hashOfEntry(name);
    if (hash && files.has(hash)) throw refused('a file is in it twice');
    if (hash) files.set(hash, entry);
  }
  try {
    const document = readDocument(await jsonOf(zip, entries.get(bundleEntries.document)));
    return { document, manifest: manifest.data, files };
  } catch (error) {
    if (error instanceof UnreadableDocument) throw refused('its project was made by a newer Clyvo or is damaged');
    throw error;
  }
}

/** All entries by name; a folder may lie around everything, as when somebody packed it again by hand. */
async function entriesOf(zip: ZipFile): Promise<Map<string, Entry>> {
  if (zip.entryCount > mostEntries) throw refused('it holds too many files');
  const all: Entry[] = [];
  let bytes = 0;
  try {
    for await (const entry of zip.eachEntry()) {
      if (entry.fileName.endsWith('/')) continue;
      bytes += entry.uncompressedSize;
      if (entry.uncompressedSize > largestFile || bytes > largestBundle) throw refused('it is too large', 413);
      all.push(entry);
    }
  } catch (error) {
    throw error instanceof UserError ? error : refused('it is damaged, or a name in it leads elsewhere');
  }
  const manifest = all.find(({ fileName }) => new RegExp(`^(?:[^/]+/)?${bundleEntries.manifest}$`).test(fileName));
  if (!manifest) throw refused(`there is no ${bundleEntries.manifest} in it`, 415);
  const around = manifest.fileName.slice(0, -bundleEntries.manifest.length);
  const named = new Map<string, Entry>();
  for (const entry of all) {
    if (!entry.fileName.startsWith(around)) continue;
    const name = entry.fileName.slice(around.length);
    if (named.has(name)) throw refused('a file is in it twice');
    named.set(name, entry);
  }
  return named;
}

async function jsonOf(zip: ZipFile, entry: Entry | undefined): Promise<unknown> {
  if (!entry) throw refused('a part of it is missing');
  if (entry.uncompressedSize > 2 * largestDocument) throw refused('its project is too large', 413);
  let value: unknown;
  try {
    value = await json(await zip.openReadStreamPromise(entry));
  } catch {
    throw refused('a part of it cannot be read');
  }
  if (nestedTooDeep(value)) throw refused('its project is nested too deep');
  return value;
}

/** One file of the bundle under a temporary name. */
async function take(zip: ZipFile, entry: Entry, files: FileStore): Promise<ReceivedFile> {
  const most = entry.uncompressedSize;
  try {
    const stream = await zip.openReadStreamPromise(entry);
    return await files.receive(stream, most, most, () => refused('a file in it is larger than it says'));
  } catch (error) {
    if (error instanceof UserError) throw error;
    throw refused(`a file in it is damaged (${entry.fileName.slice(-12)})`);
  }
}

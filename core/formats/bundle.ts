import { z } from 'zod';
import { filesOf, type Document } from '../document/document.ts';
import { exportFormatIds } from './exports.ts';
import { fileHash } from '../document/schema-parts.ts';

/**
 * A bundle is a ZIP (APPNOTE 6.3) of one project with its files: `bundle.json` says what it is, `project.json` is the
 * document, `files/` holds every file under the SHA-256 of its bytes.
 */
export const bundleEntries = { manifest: 'bundle.json', document: 'project.json' } as const;

/** What a bundle of this code is. */
export const bundleVersion = 1;

/** One earlier export that goes along. */
export const bundledExportSchema = z.object({
  name: z.string().trim().min(1).max(160),
  format: z.enum(exportFormatIds),
  width: z.number().int().min(1),
  height: z.number().int().min(1),
  frames: z.number().int().min(1),
  rate: z.number().positive(),
  file: fileHash,
  created: z.iso.datetime(),
});

export const bundleManifestSchema = z.object({
  clyvo: z.literal('bundle'),
  version: z.number().int().min(1),
  exports: z.array(bundledExportSchema).max(10_000),
});

export type BundleManifest = z.infer<typeof bundleManifestSchema>;

/** The name of a file in a bundle; the ending is for people who look into the ZIP. */
export const bundledName = (hash: string, type: string | null): string => `files/${hash}${endings[type ?? ''] ?? ''}`;

/** The hash an entry of a bundle is named by; null where it is no file of one. */
export const hashOfEntry = (name: string): string | null =>
  /^files\/([0-9a-f]{64})(?:\.[a-z0-9]{2,5})?$/.exec(name)?.[1] ?? null;

const endings: Record<string, string> = {
  'image/jpeg': '.jpg',
  'image/png': '.png',
  'image/webp': '.webp',
  'image/avif': '.avif',
  'image/gif': '.gif',
  'image/tiff': '.tiff',
  'video/mp4': '.mp4',
  'video/webm': '.webm',
  'video/quicktime': '.mov',
  'application/zip': '.zip',
  'audio/wav': '.wav',
  'audio/mpeg': '.mp3',
  'audio/ogg': '.ogg',
  'audio/flac': '.flac',
  'font/sfnt': '.ttf',
  'text/plain': '.svg',
};

/** Every file a project and its exports need, in a fixed order. */
export const filesOfBundle = (document: Document, manifest: BundleManifest): string[] =>
  [...new Set([...filesOf(document), ...manifest.exports.map(({ file }) => file)])].sort();

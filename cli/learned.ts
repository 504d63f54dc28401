import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { lookThrough, type Look } from '../core/learned/subject-networks.ts';

const folder = join(createRequire(import.meta.url).resolve('@mediapipe/selfie_segmentation'), '..');
let look: Promise<Look> | null = null;

/** The networks' files as their package ships them. */
export function learnedFiles(): Promise<Uint8Array[]> {
  const names = ['selfie_segmentation.tflite', 'selfie_segmentation_landscape.tflite'];
  return Promise.all(names.map(async (name) => new Uint8Array(await readFile(join(folder, name)))));
}

/** What networks see; read once. */
export function learnedLook(): Promise<Look> {
  look ??= learnedFiles().then(lookThrough);
  return look;
}

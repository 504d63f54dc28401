import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { lookThrough, type Look } from '../core/learned/subject-networks.ts';

const folder = join(createRequire(import.meta.url).resolve('@mediapipe/selfie_segmentation'), '..');
let look: Promise<Look> | null = null;

/** What networks see, from the files that their package ships. */
export function learnedLook(): Promise<Look> {
  look ??= Promise.all(
    ['selfie_segmentation.tflite', 'selfie_segmentation_landscape.tflite'].map((name) => readFile(join(folder, name))),
  ).then((files) => lookThrough(files.map((file) => new Uint8Array(file))));
  return look;
}

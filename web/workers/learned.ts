import wide from '@mediapipe/selfie_segmentation/selfie_segmentation_landscape.tflite?url';
import square from '@mediapipe/selfie_segmentation/selfie_segmentation.tflite?url';
import { lookThrough, type Look } from '../../core/learned/subject-networks.ts';

let look: Promise<Look> | null = null;

/** What networks see, from the files that ship with the application; read once. @throws Error when they cannot be fetched */
export function learnedLook(): Promise<Look> {
  look ??= Promise.all([square, wide].map(bytesAt)).then(lookThrough);
  // A failure is not remembered: the server may be back the next time.
  look.catch(() => (look = null));
  return look;
}

async function bytesAt(url: string): Promise<Uint8Array> {
  const response = await fetch(url).catch(() => null);
  if (!response?.ok)
    throw new Error('A part of Clyvo could not be read from the server. Start the server and try again.');
  return new Uint8Array(await response.arrayBuffer());
}

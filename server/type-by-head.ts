/**
 * What a file says it is by its first bytes, each kind by its own specification; null for anything that is not brought in,
 * made or kept here. Whether it is whole, and within the limits, is another matter.
 * @param head the first 32 bytes, fewer where there are no more
 */
export function typeByHead(head: Buffer): string | null {
  const text = head.toString('latin1', 0, 32);
  const begin = signatures.find(([signature]) => text.startsWith(signature));
  if (begin) return begin[1];
  if (text.startsWith('RIFF')) return riff[text.slice(8, 12)] ?? null;
  if (text.startsWith('ftyp', 4)) return isoType(text);
  // An MPEG frame begins with eleven set bits, and its layer is not the reserved one.
  const [sync, layer] = [head[0] ?? 0, head[1] ?? 0];
  return sync === 0xff && (layer & 0xe0) === 0xe0 && (layer & 0x06) !== 0 ? 'audio/mpeg' : null;
}

const signatures: readonly (readonly [string, string])[] = [
  ['\xff\xd8\xff', 'image/jpeg'],
  ['\x89PNG', 'image/png'],
  ['GIF8', 'image/gif'],
  ['II*\0', 'image/tiff'],
  ['MM\0*', 'image/tiff'],
  ['\x1a\x45\xdf\xa3', 'video/webm'],
  ['PK\x03\x04', 'application/zip'],
  ['OggS', 'audio/ogg'],
  ['fLaC', 'audio/flac'],
  ['ID3', 'audio/mpeg'],
  ['\0\x01\0\0', 'font/sfnt'],
  ['OTTO', 'font/sfnt'],
  ['true', 'font/sfnt'],
  ['ttcf', 'font/sfnt'],
  // A drawing as Clyvo writes it, kept as text so that no browser runs it as a page.
  ['<svg', 'text/plain'],
];

const riff: Record<string, string> = { WEBP: 'image/webp', WAVE: 'audio/wav' };

/** Of the family of ISO 14496-12, by the brands in its file type box. */
function isoType(text: string): string {
  if (/avif|avis|mif1/.test(text.slice(8))) return 'image/avif';
  return text.startsWith('qt  ', 8) ? 'video/quicktime' : 'video/mp4';
}

/** Clips: videos, moving pictures, and numbered pictures in a ZIP. */
const clips = ['video/webm', 'video/mp4', 'video/quicktime', 'image/gif', 'image/webp', 'image/png', 'application/zip'];

/** The type of a clip by its first bytes; null for anything else. */
export function clipTypeOf(head: Buffer): string | null {
  const type = typeByHead(head);
  return type && clips.includes(type) ? type : null;
}

/** The type of a sound by its first bytes; null for anything else. Containers of videos hold sound alone as well. */
export function soundTypeOf(head: Buffer): string | null {
  const type = typeByHead(head);
  const alone: Record<string, string> = {
    'video/mp4': 'audio/mp4',
    'video/quicktime': 'audio/mp4',
    'video/webm': 'audio/webm',
  };
  return type?.startsWith('audio/') ? type : (alone[type ?? ''] ?? null);
}

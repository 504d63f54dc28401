import { spawnSync } from 'node:child_process';
import type { Bytes, Rgba } from '../core/pixels/raster.ts';

/** Whether ffmpeg is installed here; it is only ever compared with. */
export const hasFfmpeg = (): boolean => spawnSync('ffmpeg', ['-version']).status === 0;

/**
 * Alpha by ffmpeg's chromakey and despill filters.
 * @param similarity,blend the filter's own settings  @throws Error with what ffmpeg said
 */
export function chromakey(
  picture: Rgba,
  screen: readonly [number, number, number],
  similarity: number,
  blend: number,
): Bytes {
  const { width, height } = picture;
  const hex = screen.map((v) => Math.round(v).toString(16).padStart(2, '0')).join('');
  const type = screen[2] > screen[1] ? 'blue' : 'green';
  const filter = `chromakey=0x${hex}:${similarity}:${blend},despill=type=${type},format=rgba`;
  const raw = ['-f', 'rawvideo', '-pix_fmt', 'rgba'];
  const args = ['-v', 'error', ...raw, '-s', `${width}x${height}`, '-i', '-', '-vf', filter, ...raw, '-'];
  const done = spawnSync('ffmpeg', args, { input: picture.data, maxBuffer: width * height * 8 });
  if (done.status !== 0) throw new Error(`ffmpeg: ${done.stderr.toString()}`);
  const alpha = new Uint8Array(width * height);
  for (let i = 0; i < alpha.length; i++) alpha[i] = done.stdout[i * 4 + 3]!;
  return { width, height, data: alpha };
}

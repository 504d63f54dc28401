import { parseArgs } from 'node:util';
import { padToRatio, widen as widenPicture, type Pad } from '../core/rebuild/widen.ts';
import { readPicture, UsageError, wholeNumber, withTold, writePng } from './pictures.ts';

function readRatio(text: string): number {
  const parts = /^(\d+(?:\.\d+)?):(\d+(?:\.\d+)?)$/.exec(text);
  const ratio = parts ? Number(parts[1]) / Number(parts[2]) : Number.NaN;
  if (!(ratio > 0.05 && ratio < 20)) throw new UsageError(`--to takes a ratio like 16:9, not "${text}".`);
  return ratio;
}

function readPad(text: string): Pad {
  const numbers = text.split(',').map(Number);
  if (numbers.length !== 4 || numbers.some((n) => !Number.isInteger(n) || n < 0))
    throw new UsageError(`--pad takes left,top,right,bottom in whole pixels, not "${text}".`);
  const [left, top, right, bottom] = numbers as [number, number, number, number];
  return { left, top, right, bottom };
}

/** `clyvo widen`: continues a picture past its borders and into its transparent parts. */
export async function widen(args: string[]): Promise<Record<string, unknown>> {
  const { values } = parseArgs({
    args,
    options: {
      in: { type: 'string' },
      out: { type: 'string' },
      to: { type: 'string' },
      pad: { type: 'string' },
      seed: { type: 'string', default: '1' },
    },
  });
  if (!values.in || !values.out || (!values.to && !values.pad))
    throw new UsageError('widen needs --in picture, --out wide.png and --to 16:9 or --pad left,top,right,bottom.');
  if (values.to && values.pad) throw new UsageError('widen takes --to or --pad, not both.');
  const seed = wholeNumber('seed', values.seed, 0);
  const picture = await readPicture(values.in);
  const pad = values.to ? padToRatio(picture.width, picture.height, readRatio(values.to)) : readPad(values.pad!);
  const started = performance.now();
  const wide = await withTold(() => widenPicture({ picture, pad, seed }));
  await writePng(values.out, wide);
  return { width: wide.width, height: wide.height, pad, seed, milliseconds: Math.round(performance.now() - started) };
}

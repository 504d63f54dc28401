import { chromaKey } from '../../core/key/chroma.ts';
import { defaultChroma } from '../../core/key/keyed.ts';
import { lumaKey, unveil } from '../../core/key/light.ts';
import type { Bytes, Rgba } from '../../core/pixels/raster.ts';
import { chromakey, hasFfmpeg } from '../ffmpeg.ts';
import { alphaDifference, mean, median } from '../measures.ts';
import type { Section } from '../report.ts';
import { heldBackScreens } from '../truth/held-back-screens.ts';
import { screenKinds, screenShot, type ScreenKind, type ScreenShot } from '../truth/screens.ts';
import { strandKinds } from '../truth/strand-screens.ts';

const width = 1224;

interface Row {
  name: string;
  ours: number;
  theirs: number | null;
  excess: number;
}

/** The best ffmpeg does over settings a user would try. */
function bestChromakey(shot: ScreenShot): number {
  const errors = [0.08, 0.12, 0.18, 0.25].flatMap((similarity) =>
    [0, 0.05, 0.12].map((blend) =>
      alphaDifference(chromakey(shot.picture, shot.screen, similarity, blend), shot.alpha),
    ),
  );
  return Math.min(...errors);
}

/**
 * What the screen's strongest channel has above the others in the piece, on average where the piece is seen; bytes. A
 * subject that is itself of that hue would count, so the flat scenes' subjects are not.
 */
function screenExcess(colours: Rgba, alpha: Bytes, screen: readonly [number, number, number]): number {
  const strong = [0, 1, 2].filter((c) => screen[c]! > (Math.max(...screen) + Math.min(...screen)) / 2);
  const weak = [0, 1, 2].filter((c) => !strong.includes(c));
  let [sum, n] = [0, 0];
  for (let i = 0; i < alpha.data.length; i++) {
    const a = alpha.data[i]!;
    if (a < 26) continue;
    const high = Math.min(...strong.map((c) => colours.data[i * 4 + c]!));
    const low = Math.max(...weak.map((c) => colours.data[i * 4 + c]!));
    sum += Math.max(0, high - low) * (a / 255);
    n++;
  }
  return n === 0 ? 0 : sum / n;
}

const disturbances: { name: string; width: number; change: (kind: ScreenKind) => ScreenKind }[] = [
  {
    name: 'strong noise, poor JPEG',
    width: 900,
    change: (kind) => ({ ...kind, noise: kind.noise + 5, jpeg: 75 }),
  },
  { name: 'small (600 px)', width: 600, change: (kind) => kind },
  {
    name: 'dim and very uneven',
    width: 900,
    change: ({ screen: [r, g, b], ...kind }) => ({
      ...kind,
      uneven: kind.uneven + 0.2,
      screen: [0.7 * r, 0.7 * g, 0.7 * b],
    }),
  },
];

/** Mean ratio to ffmpeg's error on copies of the screens that were changed. */
async function disturbedRatios(compared: boolean, say: (line: string) => void): Promise<string[]> {
  const lines: string[] = [];
  if (!compared) return lines;
  for (const { name, width: size, change } of disturbances) {
    const ratios: number[] = [];
    for (const kind of screenKinds) {
      const shot = await screenShot(change(kind), size);
      const ours = alphaDifference(chromaKey(shot.picture, defaultChroma).alpha, shot.alpha);
      ratios.push(ours / bestChromakey(shot));
    }
    lines.push(`Disturbed copies, ${name}: alpha error ${mean(ratios).toFixed(2)} of ffmpeg's.`);
    say(`key: disturbed, ${name}`);
  }
  return lines;
}

function timed(work: () => void): number {
  const times = Array.from({ length: 9 }, () => {
    const started = performance.now();
    work();
    return performance.now() - started;
  });
  return median(times.slice(2));
}

async function frameOf(kind: ScreenKind): Promise<Rgba> {
  const { picture } = await screenShot(kind, 1920);
  return { width: 1920, height: 1080, data: picture.data.slice(0, 1920 * 1080 * 4) };
}

/** Frames a second on one core. */
async function ratesOf(): Promise<Record<'chroma' | 'hair' | 'luma' | 'unveil', number>> {
  const video = await frameOf(screenKinds[1]!);
  const hairy = await frameOf(strandKinds[0]!);
  return {
    chroma: 1000 / timed(() => chromaKey(video, defaultChroma)),
    hair: 1000 / timed(() => chromaKey(hairy, defaultChroma)),
    luma: 1000 / timed(() => lumaKey(video, { drop: 'dark', low: 24, high: 96 })),
    unveil: 1000 / timed(() => unveil(video)),
  };
}

export async function keySection(say: (line: string) => void): Promise<Section> {
  // Measured first, in a memory that holds nothing else, as that of a worker which keys a clip.
  const rates = await ratesOf();
  const rows: Row[] = [];
  const compared = hasFfmpeg();
  for (const kind of [...screenKinds, ...strandKinds, ...heldBackScreens]) {
    const shot = await screenShot(kind, width);
    const { alpha, colours } = chromaKey(shot.picture, defaultChroma);
    const excess = screenExcess(colours, alpha, shot.screen);
    const theirs = compared ? bestChromakey(shot) : null;
    rows.push({ name: shot.name, ours: alphaDifference(alpha, shot.alpha), theirs, excess });
    say(`key: ${shot.name}`);
  }
  const disturbed = await disturbedRatios(compared, say);
  const ratio = compared ? mean(rows.map((r) => r.ours / r.theirs!)) : NaN;
  const worst = compared ? Math.max(...rows.map((r) => r.ours / r.theirs!)) : NaN;
  const excess = mean(rows.map((r) => r.excess));
  return {
    title: 'Key',
    bars: [
      {
        what: "alpha error against ffmpeg's chromakey and despill at its best of 12 settings, mean",
        wanted: 'at most 0.50',
        measured: compared ? ratio.toFixed(2) : 'ffmpeg is not installed',
        reached: ratio <= 0.5,
      },
      {
        what: 'the same on the worst of the screens',
        wanted: 'at most 0.50',
        measured: compared ? worst.toFixed(2) : 'ffmpeg is not installed',
        reached: worst <= 0.5,
      },
      {
        what: "the screen's hue left on the piece, mean (of 255)",
        wanted: 'at most 2',
        measured: excess.toFixed(2),
        reached: excess <= 2,
      },
      {
        what: 'chroma key at 1920 x 1080, frames a second on one core',
        wanted: 'at least 25',
        measured: rates.chroma.toFixed(1),
        reached: rates.chroma >= 25,
      },
    ],
    table: {
      head: ['screen', 'alpha error, pixels', 'ffmpeg', 'ratio', 'hue left'],
      rows: rows.map((r) => [
        r.name,
        r.ours.toFixed(0),
        r.theirs === null ? '' : r.theirs.toFixed(0),
        r.theirs === null ? '' : (r.ours / r.theirs).toFixed(2),
        r.excess.toFixed(2),
      ]),
    },
    notes: [
      ...disturbed,
      `A frame with a head of hair, most of whose edge is strands: ${rates.hair.toFixed(1)} frames a second.`,
      `Luma key ${rates.luma.toFixed(1)} and Unveil ${rates.unveil.toFixed(1)} frames a second at 1920 x 1080 on one core.`,
      'The key finds the screen by itself; ffmpeg is given the true colour of the screen in its brightest place.',
    ],
  };
}

/*
 * How a picture is parted for means along rays from a point: into quarters, these into bands within which distances at most
 * double, and a band into rays and steps.
 */

/** Lines of pixels ever farther out from a point, to the right, left, down or up of it. */
export interface Quarter {
  upright: boolean;
  /** Which line is the nearest, and where the next ones are. */
  nearest: number;
  outwards: 1 | -1;
  /** How many lines there are, how far out the nearest of them is, and how many pixels each has. */
  lines: number;
  away: number;
  pixels: number;
  /** Where on a line the point is. */
  centre: number;
}

/** Lines whose values are summed up along rays: a picture's own, or two or four of them together. */
export interface Summed {
  /** Each is the mean of so many lines of pixels. */
  spacing: Spacing;
  /** Which of them, counted from the picture's first, is the nearest, and how far out its middle is. */
  nearest: number;
  away: number;
  count: number;
  /** How many of them the picture has: those beyond are clear. */
  there: number;
}

export type Spacing = 1 | 2 | 4;

/** Rays through a band, a pixel apart on its last line. */
export interface Rays {
  /** Position of the first ray on the last line, from the centre, and how far out that line is. */
  first: number;
  farthest: number;
  count: number;
  /** Of each ray: its first summed line in the picture and how many. */
  spans: Int32Array;
}

/** Summed lines in steps, one line each where they are near, and what the mean about each step of the band is made of. */
export interface Steps {
  /** Of each step: its last line. */
  lasts: Int32Array;
  /** Of each line: its share of the way outwards, which counts by the logarithm as growths do. */
  shares: Float32Array;
  /** Steps that have a mean: those the band's pixels lie between. */
  count: number;
  /** Of each of them: the steps in which the mean begins and ends, and how much of their shares lies before that. */
  ends: Int32Array;
  parts: Float32Array;
  /** Of each line of pixels: at which of them it is. */
  places: Float64Array;
}

export interface Band {
  /** Its lines of pixels. */
  quarter: Quarter;
  summed: Summed;
  rays: Rays;
  steps: Steps;
}

/** Steps in each width of a mean: what has been averaged over it changes no faster. */
const stepsInMean = 10;
/** Pixels beyond the border on which a ray still has values: between two rays may lie a pixel of the border. */
const margin = 1.5;
/** Nearer than this nothing is parted any more. */
const nearPixels = 48;

/** The bands of a picture seen from a point that lies in the middle of no pixel; `whole` is the logarithm of the growth. */
export function bandsOf(width: number, height: number, x: number, y: number, whole: number): Band[] {
  const pair = (upright: boolean, size: number, pixels: number, from: number, centre: number): Quarter[] => {
    const [after, before] = [Math.max(0, Math.ceil(from)), Math.min(size - 1, Math.floor(from))];
    const shared = { upright, pixels, centre };
    return [
      { ...shared, nearest: after, outwards: 1, lines: Math.max(0, size - after), away: after - from },
      { ...shared, nearest: before, outwards: -1, lines: Math.max(0, before + 1), away: from - before },
    ];
  };
  const quarters = [...pair(false, width, height, x, y), ...pair(true, height, width, y, x)];
  return quarters.flatMap((quarter) => octavesOf(quarter).map((band) => bandOf(quarter, band, whole)));
}

/** Parts of a quarter, each at most twice as far out at its end as where it begins. */
function octavesOf(quarter: Quarter): Quarter[] {
  const { nearest, outwards, lines, away } = quarter;
  const parts: Quarter[] = [];
  for (let last = lines - 1; last >= 0;) {
    const half = Math.ceil((away + last) / 2 - away);
    const first = away + last <= nearPixels || half > last ? 0 : Math.max(0, half);
    parts.push({ ...quarter, nearest: nearest + outwards * first, away: away + first, lines: last - first + 1 });
    last = first - 1;
  }
  return parts;
}

function bandOf(quarter: Quarter, band: Quarter, whole: number): Band {
  const summed = summedOf(quarter, band, whole);
  return { quarter: band, summed, rays: raysOf(band, summed), steps: stepsOf(band, summed, whole) };
}

const lastOut = ({ away, lines }: Quarter): number => away + lines - 1;

/** All lines of a quarter that the means of a band are made of: two or four together where a step has as many or more. */
function summedOf(quarter: Quarter, band: Quarter, whole: number): Summed {
  const { nearest, outwards, lines, away } = quarter;
  // Steps lie beside the band too: its first and last pixels are between them and those within.
  const besideOf = (out: number): number => Math.max(2, (out * whole) / stepsInMean);
  const inner = Math.max(0, band.away - besideOf(band.away)) * Math.exp(-whole / 2);
  const outer = (lastOut(band) + besideOf(lastOut(band)) + 1) * Math.exp(whole / 2);
  const fits = (spacing: number): boolean => inner * whole >= spacing * stepsInMean;
  const spacing = fits(4) ? 4 : fits(2) ? 2 : 1;
  const from = nearest - outwards * away;
  // The one in which a place between pixels lies.
  const holding = (place: number): number => Math.floor((place + 0.5) / spacing);
  const [beside, start] = [Math.floor(nearest / spacing), holding(from + outwards * inner)];
  const first = outwards > 0 ? Math.max(beside, start) : Math.min(beside, start);
  const middle = outwards * (spacing * first + (spacing - 1) / 2 - from);
  const last = Math.floor((nearest + outwards * (lines - 1)) / spacing);
  const count = Math.ceil((outer - middle) / spacing) + 2;
  return { spacing, nearest: first, away: middle, count, there: Math.abs(last - first) + 1 };
}

function raysOf(band: Quarter, summed: Summed): Rays {
  const { away, pixels, centre } = band;
  const farthest = lastOut(band);
  const slopeTo = (side: number, out: number): number => Math.max(-1, Math.min(1, side / out));
  const [low, high] = [-centre, pixels - 1 - centre];
  const first = Math.floor(farthest * slopeTo(low, low < 0 ? away : farthest)) - 1;
  const last = Math.ceil(farthest * slopeTo(high, high > 0 ? away : farthest)) + 1;
  const count = last - first + 1;
  const spans = new Int32Array(count * 2);
  for (let n = 0; n < count; n++) span(band, summed, (first + n) / farthest, spans, n * 2);
  return { first, farthest, count, spans };
}

/** Stores the first line on which a ray of a slope is between the ends of the lines, or almost, and on how many it is. */
function span(
  { pixels, centre }: Quarter,
  { away, spacing, count, there }: Summed,
  slope: number,
  spans: Int32Array,
  at: number,
): void {
  const most = Math.min(count, there) - 1;
  const [low, high] = [-margin - centre, pixels - 1 + margin - centre];
  let [from, to] = [0, low <= 0 && high >= 0 ? most : -1];
  if (slope !== 0) {
    const [one, other] = [(low / slope - away) / spacing, (high / slope - away) / spacing];
    from = Math.max(0, Math.ceil(Math.min(one, other)));
    to = Math.min(most, Math.floor(Math.max(one, other)));
  }
  spans[at] = from;
  spans[at + 1] = Math.max(0, to - from + 1);
}

/** Finds, for values that grow from call to call, the last of growing numbers that is not above one, up to the last but one. */
function follower(numbers: readonly number[]): (value: number) => number {
  let k = 0;
  return (value) => {
    while (k < numbers.length - 2 && numbers[k + 1]! <= value) k++;
    return k;
  };
}

function stepsOf(band: Quarter, { spacing, away, count }: Summed, whole: number): Steps {
  const outOf = (line: number): number => away + spacing * line;
  const middles: number[] = [];
  for (let n = 0; n < count - 1; n += Math.max(1, Math.floor((outOf(n) * whole) / stepsInMean / spacing + 0.25)))
    middles.push(n);
  middles.push(count - 1);
  const lasts = Int32Array.from(middles, (n, k) => Math.floor((n + (middles[k + 1] ?? n)) / 2));
  const inmost = Math.max(away * Math.exp(-whole / 2), outOf(-0.5));
  const bounds = [inmost, ...Array.from(lasts, (n) => outOf(n + 0.5))];
  const shares = Float32Array.from({ length: count }, (_, n) =>
    Math.log(outOf(n + 0.5) / (n === 0 ? inmost : outOf(n - 0.5))),
  );
  const first = Math.max(
    0,
    middles.findLastIndex((n) => outOf(n) <= band.away),
  );
  const beyond = middles.findIndex((n) => outOf(n) >= lastOut(band));
  const kept = middles.slice(first, (beyond < 0 ? middles.length - 1 : beyond) + 1).map(outOf);
  const ends = new Int32Array(kept.length * 2);
  const parts = new Float32Array(kept.length * 2);
  [-whole / 2, whole / 2].forEach((by, end) => {
    const stepAt = follower(bounds);
    kept.forEach((middle, k) => {
      const out = middle * Math.exp(by);
      const step = stepAt(out);
      const part = Math.log(out / bounds[step]!) / Math.log(bounds[step + 1]! / bounds[step]!);
      ends[2 * k + end] = step;
      parts[2 * k + end] = Math.max(0, Math.min(1, part));
    });
  });
  const keptAt = follower(kept);
  const places = Float64Array.from({ length: band.lines }, (_, n) => {
    const step = keptAt(band.away + n);
    const [one, next] = [kept[step]!, kept[step + 1] ?? kept[step]! + 1];
    const part = Math.log((band.away + n) / one) / Math.log(next / one);
    return Math.max(0, Math.min(kept.length - 1, step + part));
  });
  return { lasts, shares, count: kept.length, ends, parts, places };
}

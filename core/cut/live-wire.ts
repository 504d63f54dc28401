import { lumaOf } from '../pixels/color.ts';
import { boxBlur } from '../pixels/filters.ts';
import { makePlane, type Plane, type Rgba } from '../pixels/raster.ts';

type Point = [number, number];

/** Steps to the eight neighbours of a pixel; the opposite of step k is step 7 - k. */
const steps = [-1, 0, 1, -1, 1, -1, 0, 1].map((dx, k) => ({ dx, dy: [-1, -1, -1, 0, 0, 1, 1, 1][k]! }));

/** Costs are whole numbers up to this, so that waiting pixels can be kept in a ring of buckets. */
const mostCost = 181;

/**
 * Live-wire (Mortensen & Barrett 1995, "Intelligent Scissors for Image Composition"): the cheapest way between two pixels,
 * where going along strong edges is cheap. The search grows from the seed only until it reaches the pixel asked for, and
 * goes on from there for the next.
 */
export class LiveWire {
  private readonly edge: Plane;
  private readonly across: Float32Array;
  private cost: Int32Array;
  private from: Int8Array;
  private done: Uint8Array;
  private buckets: number[][] = [];
  private level = 0;
  private waiting = 0;
  private seed = -1;

  /** @param strength 0 goes straight, 1 follows edges wherever they lead */
  constructor(
    private readonly picture: Rgba,
    private strength = 0.8,
  ) {
    const { edge, across } = edgesOf(picture);
    this.edge = edge;
    this.across = across;
    const pixels = picture.width * picture.height;
    this.cost = new Int32Array(pixels);
    this.from = new Int8Array(pixels);
    this.done = new Uint8Array(pixels);
  }

  /** Begins at the pixel that holds a point. */
  start(at: Point, strength = this.strength): void {
    this.strength = strength;
    this.seed = this.pixelOf(at);
    this.cost.fill(-1);
    this.done.fill(0);
    this.buckets = Array.from({ length: mostCost + 1 }, () => []);
    this.buckets[0]!.push(this.seed);
    this.cost[this.seed] = 0;
    this.from[this.seed] = -1;
    this.level = 0;
    this.waiting = 1;
  }

  /**
   * The cheapest way from the seed to the pixel that holds a point, as the centres of the pixels it passes.
   * @throws RangeError before start
   */
  wayTo(at: Point): Point[] {
    if (this.seed < 0) throw new RangeError('A live wire needs a start.');
    const target = this.pixelOf(at);
    this.growUntil(target);
    const { width } = this.picture;
    const way: Point[] = [];
    for (let i = target; ;) {
      way.push([(i % width) + 0.5, ((i / width) | 0) + 0.5]);
      const step = this.from[i]!;
      if (step < 0) break;
      i -= steps[step]!.dy * width + steps[step]!.dx;
    }
    return way.reverse();
  }

  private pixelOf([x, y]: Point): number {
    const { width, height } = this.picture;
    const clamp = (v: number, most: number): number => Math.max(0, Math.min(most - 1, Math.floor(v)));
    return clamp(y, height) * width + clamp(x, width);
  }

  private growUntil(target: number): void {
    while (!this.done[target] && this.waiting > 0) {
      const bucket = this.buckets[this.level % this.buckets.length]!;
      const i = bucket.pop();
      if (i === undefined) {
        this.level++;
        continue;
      }
      this.waiting--;
      if (this.done[i] || this.cost[i] !== this.level) continue;
      this.done[i] = 1;
      this.spread(i);
    }
  }

  private spread(i: number): void {
    const { width, height } = this.picture;
    const [x, y] = [i % width, (i / width) | 0];
    for (let k = 0; k < 8; k++) {
      const { dx, dy } = steps[k]!;
      if (x + dx < 0 || y + dy < 0 || x + dx >= width || y + dy >= height) continue;
      const j = i + dy * width + dx;
      if (this.done[j]) continue;
      const cost = this.level + this.stepCost(i, j, dx, dy);
      if (this.cost[j]! >= 0 && this.cost[j]! <= cost) continue;
      this.cost[j] = cost;
      this.from[j] = k;
      this.buckets[cost % this.buckets.length]!.push(j);
      this.waiting++;
    }
  }

  /** Cheap on strong edges and along their direction; by its length alone where the wire does not cling. */
  private stepCost(i: number, j: number, dx: number, dy: number): number {
    const length = dx !== 0 && dy !== 0 ? Math.SQRT2 : 1;
    // How far the step goes across the edge instead of along it, 0..1.
    const across = Math.abs(dx * this.across[j * 2]! + dy * this.across[j * 2 + 1]!) / length;
    const cling = 0.8 * (1 - this.edge.data[j]!) + 0.2 * across * this.edge.data[i]!;
    return Math.max(1, Math.round(length * (18 * (1 - this.strength) + 110 * this.strength * cling + 4)));
  }
}

/** Strength of the edge at every pixel against its neighbourhood (0..1, thinned to ridges), and its direction across. */
function edgesOf(picture: Rgba): { edge: Plane; across: Float32Array } {
  const { width, height, data } = picture;
  const planes = [0, 1, 2].map(() => makePlane(width, height));
  for (let i = 0; i < width * height; i++) {
    const [r, g, b] = [data[i * 4]!, data[i * 4 + 1]!, data[i * 4 + 2]!];
    const luma = lumaOf(r, g, b);
    planes[0]!.data[i] = luma;
    planes[1]!.data[i] = b - luma;
    planes[2]!.data[i] = r - luma;
  }
  const edge = makePlane(width, height);
  const across = new Float32Array(width * height * 2);
  for (const plane of planes.map((p) => boxBlur(p, 1))) addGradient(plane, edge, across);
  normaliseAcross(edge, across);
  return { edge: againstSurroundings(thinned(edge, across)), across };
}

/** Keeps, at every pixel, the strongest gradient of the planes seen so far. */
function addGradient({ width, height, data }: Plane, edge: Plane, across: Float32Array): void {
  for (let y = 0; y < height; y++) {
    const [up, down] = [Math.max(0, y - 1) * width, Math.min(height - 1, y + 1) * width];
    for (let x = 0; x < width; x++) {
      const [left, right] = [Math.max(0, x - 1), Math.min(width - 1, x + 1)];
      const i = y * width + x;
      const gx = data[y * width + right]! - data[y * width + left]!;
      const gy = data[down + x]! - data[up + x]!;
      const size = Math.hypot(gx, gy);
      if (size <= edge.data[i]!) continue;
      edge.data[i] = size;
      across[i * 2] = gx;
      across[i * 2 + 1] = gy;
    }
  }
}

function normaliseAcross({ data }: Plane, across: Float32Array): void {
  for (let i = 0; i < data.length; i++) {
    if (data[i] === 0) continue;
    across[i * 2] = across[i * 2]! / data[i]!;
    across[i * 2 + 1] = across[i * 2 + 1]! / data[i]!;
  }
}

/** Lowers everything beside the ridge of an edge, so that the wire runs along its very middle. */
function thinned(edge: Plane, across: Float32Array): Plane {
  const { width, height, data } = edge;
  const out = makePlane(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const [dx, dy] = [Math.round(across[i * 2]!), Math.round(across[i * 2 + 1]!)];
      const inside = (u: number, v: number): boolean => u >= 0 && v >= 0 && u < width && v < height;
      const beside = [1, -1].map((s) => (inside(x + s * dx, y + s * dy) ? data[i + s * (dy * width + dx)]! : 0));
      const ridge = data[i]! >= Math.max(beside[0]!, beside[1]!);
      out.data[i] = ridge ? data[i]! : data[i]! * 0.5;
    }
  }
  return out;
}

/** A faint outline in a quiet place counts as much as a strong one in a busy place. */
function againstSurroundings(edge: Plane): Plane {
  const radius = Math.max(8, Math.round(Math.max(edge.width, edge.height) / 60));
  const mean = boxBlur(edge, radius);
  const out = makePlane(edge.width, edge.height);
  for (let i = 0; i < out.data.length; i++) {
    const e = edge.data[i]!;
    out.data[i] = e / (e + 2 * mean.data[i]! + 6);
  }
  return out;
}

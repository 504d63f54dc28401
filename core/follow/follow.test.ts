import { expect } from 'chai';
import { randomOf } from '../motion/wander.ts';
import { makePlane } from '../pixels/raster.ts';
import type { Point } from './flow.ts';
import { flowOf } from './flow.ts';
import { followPoint, type Frames, type Mark } from './follow-clip.ts';
import { pyramidOf } from './cutting.ts';

/** A cloth without end: brightness at any place, known exactly, from the size of a pixel to that of a hand. */
function cloth(seed: number): (x: number, y: number) => number {
  const waves = Array.from({ length: 18 }, (_, k) => {
    const length = 5 * 1.25 ** k;
    const angle = randomOf(seed, 1, k) * Math.PI;
    const phase = randomOf(seed, 2, k) * 7;
    return { fx: (2 * Math.PI * Math.cos(angle)) / length, fy: (2 * Math.PI * Math.sin(angle)) / length, phase };
  });
  return (x, y) => {
    let sum = 128;
    for (const { fx, fy, phase } of waves) sum += 12 * Math.sin(fx * x + fy * y + phase);
    return sum;
  };
}

interface World {
  count: number;
  /** Where the followed point of the figure is, how it is turned (radians) and sized. */
  pose(frame: number): { at: Point; turn: number; size: number };
  /** Half the side of the figure. */
  half: number;
  light?(frame: number): number;
  /** Whether something hides the figure at a frame. */
  hidden?(frame: number): boolean;
  noise?: number;
}

const [width, height] = [420, 320];

const grounds = new Map<number, Float64Array>();
/** The cloth behind, which stands still: the same for every film of a seed, and computed once. */
function groundOf(seed: number): Float64Array {
  const cloths = cloth(seed + 50);
  const made =
    grounds.get(seed) ??
    Float64Array.from({ length: width * height }, (_, i) => cloths(i % width, Math.floor(i / width)));
  grounds.set(seed, made);
  return made;
}

/** A square of one cloth moving before another; only what is asked for is computed, at exact places. */
function filmed(world: World, seed = 3): Frames {
  const [figure, ground] = [cloth(seed), groundOf(seed)];
  /** The brightness of a frame's pixels. */
  const brightnessOf = (index: number): ((x: number, y: number) => number) => {
    const { at, turn, size } = world.pose(index);
    const [cos, sin] = [Math.cos(-turn) / size, Math.sin(-turn) / size];
    const [light, hidden, noise] = [world.light?.(index) ?? 1, world.hidden?.(index), world.noise ?? 0];
    return (x, y) => {
      const [dx, dy] = [x + 0.5 - at[0], y + 0.5 - at[1]];
      const [u, v] = [cos * dx - sin * dy, sin * dx + cos * dy];
      const on = Math.max(Math.abs(u), Math.abs(v)) < world.half && !hidden;
      const value = (on ? figure(u, v) : ground[y * width + x]!) * light;
      const grain = noise > 0 ? noise * randomOf(index + 1, 5, y * width + x) : 0;
      return Math.max(0, Math.min(255, Math.round(value + grain)));
    };
  };
  return {
    count: world.count,
    cutting: (index, around, reach) => {
      const x = Math.max(0, Math.min(width - 8, Math.round(around[0]) - reach));
      const y = Math.max(0, Math.min(height - 8, Math.round(around[1]) - reach));
      const plane = makePlane(Math.min(width, x + 2 * reach) - x, Math.min(height, y + 2 * reach) - y);
      const brightness = brightnessOf(index);
      for (let i = 0; i < plane.data.length; i++)
        plane.data[i] = brightness(x + (i % plane.width), y + Math.floor(i / plane.width));
      return Promise.resolve({ x, y, plane });
    },
  };
}

const distance = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1]);
const markAt = (world: World, frame: number): Mark => ({ frame, at: world.pose(frame).at });

async function worst(world: World, marks: number[], seed?: number): Promise<number> {
  const found = await followPoint(
    filmed(world, seed),
    marks.map((frame) => markAt(world, frame)),
    [0, world.count],
    { radius: 12 },
  );
  return Math.max(...found.map(({ at }, frame) => distance(at, world.pose(frame).at)));
}

describe('following a point', () => {
  const wandering: World = {
    count: 50,
    half: 40,
    pose: (f) => ({ at: [200 + 90 * Math.sin(f / 9), 150 + 60 * Math.sin(f / 6)], turn: 0, size: 1 }),
  };

  it('stays within half a pixel of a figure that goes its way, with grain and in changing light', async () => {
    expect(await worst({ ...wandering, noise: 4, light: (f) => 1 - 0.006 * f }, [0])).to.be.lessThan(0.5);
  });

  it('does so while the figure turns, grows and comes nearer', async () => {
    const turning: World = {
      ...wandering,
      noise: 3,
      pose: (f) => ({ at: [180 + 2.3 * f, 220 - 1.7 * f], turn: f * 0.03, size: 1 + f * 0.012 }),
    };
    expect(await worst(turning, [0])).to.be.lessThan(0.5);
    // Cloths nobody looked at while this was made.
    for (const seed of [101, 102, 103]) expect(await worst(turning, [0], seed), `cloth ${seed}`).to.be.lessThan(0.5);
  });

  it('keeps up with steps of more than its own size', async () => {
    const fast: World = { ...wandering, count: 14, pose: (f) => ({ at: [60 + 22 * f, 90 + 9 * f], turn: 0, size: 1 }) };
    expect(await worst(fast, [0])).to.be.lessThan(0.5);
  });

  it('goes backwards from a mark as well as forwards', async () => {
    expect(await worst({ ...wandering, count: 30, noise: 3 }, [12])).to.be.lessThan(0.5);
    expect(await worst({ ...wandering, count: 30, noise: 3 }, [29])).to.be.lessThan(0.5);
  });

  it('doubts where the figure is hidden, and finds it again after', async () => {
    const slow: World = {
      ...wandering,
      pose: (f) => ({ at: [150 + 2 * f, 160], turn: 0, size: 1 }),
      hidden: (f) => f >= 20 && f < 26,
    };
    const found = await followPoint(filmed(slow), [markAt(slow, 0)], [0, 50], { radius: 12 });
    expect(Math.min(...found.slice(20, 26).map((f) => f.doubt))).to.be.greaterThan(0.3);
    expect(Math.max(...found.slice(0, 20).map((f) => f.doubt))).to.be.lessThan(0.2);
    for (let f = 27; f < 50; f++) expect(distance(found[f]!.at, slow.pose(f).at), `frame ${f}`).to.be.lessThan(0.5);
  });

  it('meets every mark set by hand, and only asks for the frames that are wanted', async () => {
    const film = filmed(wandering);
    const asked = new Set<number>();
    const watched: Frames = {
      ...film,
      cutting: (frame, around, reach) => {
        asked.add(frame);
        return film.cutting(frame, around, reach);
      },
    };
    const beside: Mark = { frame: 20, at: [wandering.pose(20).at[0] + 6, wandering.pose(20).at[1]] };
    const marks = [markAt(wandering, 5), beside, markAt(wandering, 35)];
    const found = await followPoint(watched, marks, [6, 30], { radius: 12 });
    expect(found).to.have.length(24);
    expect(found[20 - 6]!.at).to.deep.equal(beside.at);
    expect(distance(found[0]!.at, wandering.pose(6).at)).to.be.lessThan(1.2);
    expect(Math.min(...asked)).to.equal(5);
    expect(Math.max(...asked)).to.equal(35);
  });

  it('tells how far it is, and stops where that is refused', async () => {
    const shares: number[] = [];
    const marks = [markAt(wandering, 10)];
    await followPoint(filmed(wandering), marks, [0, 50], { radius: 8, report: (share) => shares.push(share) });
    expect(shares).to.have.length(49);
    expect(shares.at(-1)).to.equal(1);
    let stopped: unknown;
    await followPoint(filmed(wandering), marks, [0, 50], {
      radius: 8,
      report: (share) => {
        if (share > 0.3) throw new Error('enough');
      },
    }).catch((error: unknown) => (stopped = error));
    expect((stopped as Error).message).to.equal('enough');
  });

  it('says nothing of a place without detail', () => {
    const flat = makePlane(80, 80);
    flat.data.fill(90);
    const sizes = pyramidOf({ x: 0, y: 0, plane: flat }, 3);
    expect(flowOf(sizes, sizes, [40, 40], [0, 0])).to.equal(null);
  });
});

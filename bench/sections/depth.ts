import { behindSteps } from '../../core/depth/behind.ts';
import { closenessOf } from '../../core/depth/relief.ts';
import { plainWarps } from '../../core/paint/plain-warps.ts';
import { relieved } from '../../core/paint/warp.ts';
import { makeBytes, makeRgba, type Bytes, type Plane, type Rgba } from '../../core/pixels/raster.ts';
import { averagedTo } from '../../core/pixels/resample.ts';
import { rebuild } from '../../core/rebuild/fill.ts';
import type { DrawRelief } from '../../core/scene/draw.ts';
import { mean, psnr } from '../measures.ts';
import type { Section } from '../report.ts';
import { flatScene, flatSceneNames, undisturbed, type FlatTruth } from '../truth/flat-scenes.ts';

const width = 640;
/** Longer side of the depth maps, as one that was drawn or guessed has it. */
const mapSize = 440;
/** Distances of subject and ground; the lens goes so far that both go by whole pixels. */
const [near, far, gone] = [1.5, 6, 36];
/** Put together in layers that are no things: nothing of them can be seen pixel by pixel. */
const unfit = ['glow', 'translucent paper', 'soft shadow'];

/** The scene as a lens beside it sees it: subject and ground are layers of their own. */
function seenBeside({ front, background, alpha }: FlatTruth): { truth: Rgba; opened: Bytes } {
  const { height } = background;
  const [truth, opened] = [makeRgba(width, height), makeBytes(width, height)];
  const [byNear, byFar] = [gone / near, gone / far];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const [n, f] = [Math.min(width - 1, x + byNear), Math.min(width - 1, x + byFar)].map((v) => y * width + v) as [
        number,
        number,
      ];
      for (let c = 0; c < 3; c++)
        truth.data[at * 4 + c] = front.data[n * 4 + c]! + background.data[f * 4 + c]! * (1 - alpha.data[n]! / 255);
      truth.data[at * 4 + 3] = 255;
      opened.data[at] = alpha.data[f]! > 0 && alpha.data[n] === 0 && x + byNear < width ? 1 : 0;
    }
  return { truth, opened };
}

/** Share of what opens over which a picture is drawn out to more than twice its width. */
function stretchedShare(picture: Rgba, map: Plane, opened: Bytes): number {
  const [out, front] = [makeRgba(picture.width, picture.height), new Uint8Array(opened.data.length)];
  const middle = { scale: 1, x: picture.width / 2, y: picture.height / 2 };
  const toPicture = [1, 0, 0, 1, picture.width / 2, picture.height / 2] as const;
  const view = { camera: { x: gone, y: 0, z: 0 }, near, far, toPicture, ...middle };
  plainWarps.relieve({ ...picture, x: 0, y: 0 }, map, view, out, { front });
  let [stretched, all] = [0, 0];
  for (let i = 0; i < front.length; i++) {
    if (!opened.data[i]) continue;
    all++;
    if (front[i]! < 128) stretched++;
  }
  return stretched / all;
}

interface Judged {
  name: string;
  stretched: number;
  stillStretched: number;
  quality: number;
  filledQuality: number;
  seconds: number;
}

async function judge(name: string): Promise<Judged> {
  const scene = flatScene(name, width, undisturbed);
  const { picture, alpha } = scene;
  const { truth, opened } = seenBeside(scene);
  const grey = makeRgba(width, picture.height);
  for (let i = 0; i < alpha.data.length; i++) grey.data.fill(alpha.data[i]!, i * 4, i * 4 + 3);
  const map = closenessOf(averagedTo(grey, mapSize, Math.round((picture.height * mapSize) / width)));
  const start = performance.now();
  const behind = (await behindSteps(picture, map, (from, hole) => rebuild({ picture: from, ...hole, seed: 1 })))!;
  const seconds = (performance.now() - start) / 1000;
  const camera = { x: gone, y: 0, z: 0 };
  const toImage = [1, 0, 0, 1, width / 2, picture.height / 2] as const;
  const relief: DrawRelief = { file: 'map', behind: null, camera, near, far, toImage };
  const view = { scale: 1, x: 0, y: 0, shrink: 1, frame: picture, surface: picture };
  const placed = { ...picture, x: 0, y: 0 };
  const under = { picture: { ...behind.picture, x: 0, y: 0 }, map: behind.map, shrink: 1 };
  return {
    name,
    stretched: stretchedShare(picture, map, opened),
    stillStretched: stretchedShare(behind.picture, behind.map, opened),
    quality: psnr(relieved(placed, map, relief, view), truth, opened),
    filledQuality: psnr(relieved(placed, map, relief, view, under), truth, opened),
    seconds,
  };
}

/** What comes to light where a picture is seen pixel by pixel: stretched over, and filled from what was rebuilt. */
export async function depthSection(say: (line: string) => void): Promise<Section> {
  const judged: Judged[] = [];
  for (const name of flatSceneNames.filter((n) => !unfit.includes(n))) {
    say(`depth: ${name}`);
    judged.push(await judge(name));
  }
  const percent = (v: number): string => `${(100 * v).toFixed(0)} %`;
  const still = mean(judged.map((j) => j.stillStretched));
  const [plain, filled] = [mean(judged.map((j) => j.quality)), mean(judged.map((j) => j.filledQuality))];
  return {
    title: 'Depth of one picture',
    bars: [
      {
        what:
          'share of what opens that is stretched to more than double, filled (without: ' +
          percent(mean(judged.map((j) => j.stretched))) +
          ')',
        wanted: 'at most 5 %',
        measured: percent(still),
        reached: still <= 0.05,
      },
      {
        what: 'PSNR of what opens against the truth, beside stretching',
        wanted: 'better by 3 dB',
        measured: `${filled.toFixed(1)} dB beside ${plain.toFixed(1)} dB`,
        reached: filled >= plain + 3,
      },
    ],
    table: {
      head: ['scene', 'stretched', 'filled: stretched', 'PSNR stretched', 'PSNR filled', 'rebuilt in s'],
      rows: judged.map((j) => [
        j.name,
        percent(j.stretched),
        percent(j.stillStretched),
        j.quality.toFixed(1),
        j.filledQuality.toFixed(1),
        j.seconds.toFixed(1),
      ]),
    },
    notes: [
      `Pictures of ${width} pixels with their true depth map at ${mapSize}; the lens goes aside until near and far have parted by 18 pixels. The truth is the same scene put together anew from its two layers.`,
    ],
  };
}

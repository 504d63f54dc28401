import { averagedTo } from '../pixels/resample.ts';
import { makePlane, type Plane, type Rgba } from '../pixels/raster.ts';
import { exposureOf } from './exposure.ts';
import { readModel } from './model-file.ts';
import { canEvaluate, Network } from './network.ts';

/**
 * What looks at a picture and says where a subject stands: one map a network, each with its own small size, 0 (ground) to
 * 1 (subject), and of a picture taken in little or much light one more each, of how it looks in daylight. None where networks
 * cannot be evaluated.
 */
export type Look = (picture: Rgba) => readonly Plane[];

/** Sees nothing: everything then rests on saliency and colours. */
export const blind: Look = () => [];

/** How many of the last pictures are remembered: the whole one and a closer look, of two pictures. */
const remembered = 4;

/**
 * A look through the networks in these files.
 * @param files in the open .tflite format, each taking one picture and giving one map  @throws UnreadableModel
 */
export function lookThrough(files: readonly Uint8Array[]): Look {
  if (!canEvaluate()) return blind;
  const networks = files.map((file) => new Network(readModel(file)));
  const seen: { picture: Rgba; maps: Plane[] }[] = [];
  return (picture) => {
    const known = seen.find((entry) => entry.picture === picture);
    if (known) return known.maps;
    const maps = networks.flatMap((network) => seenBy(network, picture));
    seen.push({ picture, maps });
    if (seen.length > remembered) seen.shift();
    return maps;
  };
}

/** They learned from photographs in daylight and lit rooms: what was taken at dusk they are shown brightened as well. */
function seenBy(network: Network, picture: Rgba): Plane[] {
  const [height, width] = network.inputShape;
  const small = averagedTo(picture, width, height);
  const exposure = exposureOf(small);
  return [asStored, ...(exposure ? [exposure] : [])].map((table) => evaluated(network, small, table));
}

const asStored = Float32Array.from({ length: 256 }, (_, v) => v / 255);

/** @param table what each step of a channel is to the network */
function evaluated(network: Network, { width, height, data }: Rgba, table: Float32Array): Plane {
  const values = new Float32Array(width * height * 3);
  for (let i = 0; i < width * height; i++) for (let c = 0; c < 3; c++) values[i * 3 + c] = table[data[i * 4 + c]!]!;
  const [outHeight, outWidth] = network.outputShape;
  const map = makePlane(outWidth, outHeight);
  map.data.set(network.evaluate(values));
  return map;
}

import type { Rgba } from '../core/pixels/raster.ts';
import { enlargeToCover } from '../core/edits/bare-cures.ts';
import { setCamera, setFocus, setFocusKey, setFraming } from '../core/edits/camera-edits.ts';
import { emptyDocument, untouched, type Document } from '../core/document/document.ts';
import type { Edit } from '../core/edits/edit.ts';
import { fastenLayer, movePivot, setDepth, setLayer, setProperty } from '../core/edits/layer-edits.ts';
import type { Sway } from '../core/document/layer.ts';
import { hangPicture, liftOut } from '../core/edits/lift-edit.ts';
import { addPicture, addPiece } from '../core/edits/project-edits.ts';
import { restFraming } from '../core/document/shot.ts';
import type { FileStore } from '../server/store/files.ts';
import { encode } from './pixels.ts';
import { flags, flagSize, harbour, hoists, mast, smoke, smokeSize } from './scenes/signal-mast.ts';

const shot = 'shot-1';
const frames = 180;

/** The signal mast: flags and smoke that sway for ever, and a focus that is pulled from the far water to the flags. */
export async function makeMastDocument(files: FileStore): Promise<Document> {
  const store = async (pixels: Rgba): Promise<string> => (await files.add(await encode(pixels), 'image/png')).hash;
  const edits: Edit[] = [];
  const background = harbour();
  const back = await store(background);
  const { width, height } = background;
  edits.push(
    addPicture({
      id: 'harbour',
      name: 'Outer harbour',
      original: back,
      file: back,
      width,
      height,
      clip: null,
      background: null,
    }),
    hangPicture('harbour', 'layer-harbour'),
  );
  const things: [string, string, Rgba][] = [
    ['smoke', 'Chimney smoke', smoke()],
    ['mast', 'Signal mast', mast()],
    ...flags.map((make, k): [string, string, Rgba] => [`flag-${k + 1}`, `Flag ${k + 1}`, make()]),
  ];
  for (const [id, name, pixels] of things) edits.push(...(await hung(store, id, name, pixels)));
  // Out of focus its borders are soft: the sky is made large enough for them too.
  edits.push(...placed(), ...swaying(), enlargeToCover(shot, 'layer-harbour'));
  const start = emptyDocument('Signals at Wendle Quay', { width: 1600, height: 900, rate: 30 }, frames / 30, shot);
  return edits.reduce((document, edit) => edit.apply(document), start);
}

/** A thing with its own alpha, as a picture on grey and a piece cut out of it by its mask. */
async function hung(store: (pixels: Rgba) => Promise<string>, id: string, name: string, pixels: Rgba): Promise<Edit[]> {
  const { width, height, data } = pixels;
  const flat = { width, height, data: new Uint8ClampedArray(data) };
  const alpha = { width, height, data: new Uint8ClampedArray(data.length).fill(255) };
  for (let i = 0; i < data.length; i += 4) {
    const a = data[i + 3]! / 255;
    for (let c = 0; c < 3; c++) flat.data[i + c] = data[i + c]! * a + 128 * (1 - a);
    alpha.data[i + 3] = data[i + 3]!;
    flat.data[i + 3] = 255;
  }
  const [file, mask, cut] = [await store(flat), await store(alpha), await store(pixels)];
  const bounds = { x: 0, y: 0, width, height };
  return [
    addPicture({ id: `picture-${id}`, name, original: file, file, width, height, clip: null, background: null }),
    addPiece({
      ...untouched,
      id: `piece-${id}`,
      picture: `picture-${id}`,
      name,
      recipe: { kind: 'mask', file: mask, x: 0, y: 0 },
    }),
    liftOut({
      pieces: [{ piece: `piece-${id}`, cutout: { file: cut, bounds }, layer: `layer-${id}` }],
      steps: [],
      backgroundLayer: 'unused',
    }),
  ];
}

/** Where everything hangs: the mast in the middle, flags made fast to it, smoke over the chimney. */
function placed(): Edit[] {
  const scale = 0.74;
  const at = ([x, y]: [number, number]): [number, number] => [(x - 450) * scale - 120, (y - 600) * scale + 20];
  const out: Edit[] = [
    setDepth(shot, 'layer-harbour', 12),
    setDepth(shot, 'layer-mast', 4),
    setProperty(shot, 'layer-mast', 'scale', 0, scale),
    setProperty(shot, 'layer-mast', 'position', 0, at([450, 600])),
    setDepth(shot, 'layer-smoke', 4.1),
    movePivot(shot, 'layer-smoke', [smokeSize.width * 0.42, smokeSize.height], 0),
    setProperty(shot, 'layer-smoke', 'scale', 0, 0.8),
    setProperty(shot, 'layer-smoke', 'position', 0, at([725, 828])),
    fastenLayer(shot, 'layer-smoke', 'layer-mast', 0),
  ];
  hoists.forEach((hoist, k) => {
    const id = `layer-flag-${k + 1}`;
    out.push(
      setDepth(shot, id, 3.9),
      // The hoist is the flag's own upper left corner.
      movePivot(shot, id, [0, 0], 0),
      setProperty(shot, id, 'scale', 0, k < 2 ? 0.62 : 0.46),
      setProperty(shot, id, 'position', 0, at(hoist)),
      fastenLayer(shot, id, 'layer-mast', 0),
    );
  });
  return out;
}

/** Flags wave alike, each with a phase of its own; smoke drifts off; the lens pushes in and its focus comes forward. */
function swaying(): Edit[] {
  const wave: Omit<Sway, 'id' | 'phase' | 'like'> = {
    region: null,
    soft: 0,
    direction: 90,
    size: flagSize.width * 0.72,
    strength: 22,
    period: 45,
    pinned: 'left',
    shade: 0.55,
    loops: true,
  };
  const flagSway = (k: number): Sway => ({
    ...wave,
    id: `sway-${k + 1}`,
    phase: k * 0.23,
    like: k === 0 ? null : 'sway-1',
  });
  const rising: Sway = {
    ...wave,
    id: 'sway-smoke',
    phase: 0,
    like: null,
    direction: 0,
    size: 330,
    strength: 30,
    period: 90,
    pinned: 'bottom',
    shade: 0,
  };
  return [
    ...flags.map((_, k) => setLayer('Sway', shot, `layer-flag-${k + 1}`, { sways: [flagSway(k)] })),
    setLayer('Sway', shot, 'layer-smoke', { sways: [rising] }),
    setFraming(shot, 'first', { ...restFraming, x: 40, y: 10, size: 0.98 }),
    setFraming(shot, 'last', { ...restFraming, x: -70, y: -60, size: 0.82 }),
    setCamera('Frame', shot, { depth: 4, aperture: 26 }),
    setFocus(shot, 0, 12),
    setFocusKey(shot, 20, 12),
    setFocusKey(shot, 90, 4),
  ];
}

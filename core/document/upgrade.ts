/* eslint-disable @typescript-eslint/no-explicit-any -- documents of older versions have no types any more */

/**
 * Brings a document of an older version up to the present one, version by version; anything else is returned as it is and
 * left to the check that follows.
 */
export function upgraded(value: unknown): unknown {
  const version = typeof value === 'object' && value !== null ? (value as any).version : null;
  if (version !== 1 && version !== 2 && version !== 3) return value;
  const document = JSON.parse(JSON.stringify(value)) as any;
  if (document.version === 1) toVersion2(document);
  if (document.version === 2) toVersion3(document);
  toVersion4(document);
  return document;
}

/** Recipes have a kind, a background is a list of steps, pieces can be retouched and have edge care, layers fastened. */
function toVersion2(document: any): void {
  document.version = 2;
  for (const picture of list(document.pictures)) {
    if (!picture.background) continue;
    const { file, seed } = picture.background;
    const bounds = { x: 0, y: 0, width: picture.width, height: picture.height };
    const guides = { from: [], never: [], lines: [] };
    const chosen = { seed, takes: [], mix: [], guides, onlySeen: false, photo: null };
    picture.background = {
      steps: [{ kind: 'behind', id: `behind-${picture.id}`.slice(0, 40), file, bounds, ...chosen }],
    };
  }
  for (const piece of list(document.pieces)) {
    if (piece.recipe) piece.recipe = { kind: 'subject', ...piece.recipe };
    piece.touches = [];
    piece.marks = [];
    piece.care = { grow: 0, soften: 0 };
  }
  for (const shot of list(document.shots)) for (const layer of list(shot.layers)) layer.fastened = null;
}

/** Edge care smooths and cleans by an amount, layers have a blend mode, pictures may be clips. */
function toVersion3(document: any): void {
  document.version = 3;
  for (const picture of list(document.pictures)) picture.clip = null;
  for (const piece of list(document.pieces)) piece.care = { ...piece.care, smooth: 0, clean: 1 };
  for (const shot of list(document.shots)) for (const layer of list(shot.layers)) layer.blend = 'normal';
}

/** The Stage in full: everything about a layer can move, groups, windows, poses, and a camera that focuses and shakes. */
function toVersion4(document: any): void {
  document.version = 4;
  for (const shot of list(document.shots)) {
    for (const which of ['first', 'last']) shot.camera[which] = { ...shot.camera[which], roll: 0, focal: 35 };
    const focus = { value: shot.camera.depth };
    Object.assign(shot.camera, { parallax: 1, hold: 0, shake: null, focus, aperture: 0 });
    const guides = { x: [], y: [] };
    const transition = { kind: 'cut', frames: 0, angle: 0 };
    Object.assign(shot, { poses: [], markers: [], guides, workArea: null, transition });
    for (const layer of list(shot.layers)) {
      layer.depth = { value: layer.depth };
      layer.pivot = { value: layer.pivot };
      if (layer.fastened) Object.assign(layer.fastened, { rotation: 0, scale: 1, turn: 0, grow: 0, touching: false });
      Object.assign(layer, {
        group: null,
        solo: false,
        blur: { value: 0 },
        corners: null,
        colour: null,
        points: null,
        flip: { sideways: false, upright: false },
        oriented: false,
        window: null,
        masks: [],
        sways: [],
        relief: null,
        timing: { bar: null, like: null, slip: 0, speed: 1, ends: 'repeat', freeze: null, steps: 1 },
      });
    }
  }
}

const list = (value: unknown): any[] => (Array.isArray(value) ? value : []);

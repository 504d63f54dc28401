/* eslint-disable @typescript-eslint/no-explicit-any -- documents of older versions have no types any more */

/**
 * Brings a document of an older version up to the present one; anything else is returned as it is and left to the check
 * that follows. Version 2 (November 2026): recipes have a kind, a background is a list of steps, pieces can be retouched and have edge care,
 * layers can be fastened.
 */
export function upgraded(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || (value as any).version !== 1) return value;
  const document = JSON.parse(JSON.stringify(value)) as any;
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
  return document;
}

const list = (value: unknown): any[] => (Array.isArray(value) ? value : []);

import { withCare } from '../cut/edge-care.ts';
import { cleanColours } from '../cut/foreground-colours.ts';
import { chromaKey } from '../key/chroma.ts';
import type { Keyed } from '../key/keyed.ts';
import { differenceKey } from '../key/difference.ts';
import { lumaKey, unveil } from '../key/light.ts';
import { alphaOfShapes, joined, startsFull } from '../path/shapes.ts';
import { asMuchAsThere, shareOfThere, withColoursGoingOn } from '../pixels/emptiness.ts';
import {
  alphaOf,
  boundsOf,
  cropBytes,
  cropRgba,
  growRect,
  makeBytes,
  makeRgba,
  pasteRgba,
  type Bytes,
  type Rect,
  type Rgba,
} from '../pixels/raster.ts';
import { unitedAlpha } from '../rebuild/behind.ts';
import type { Piece } from '../document/document.ts';
import { isInverted, stepsOf } from '../document/recipe-steps.ts';
import type { CutRecipe, RecipeStep, SingleRecipe } from '../document/recipe.ts';

/** Recipes that decide every pixel by its own colour. */
export type KeyRecipe = Extract<SingleRecipe, { kind: 'chroma' | 'luma' | 'unveil' | 'whole' }>;

const keyKinds: readonly string[] = ['chroma', 'luma', 'unveil', 'whole'] satisfies KeyRecipe['kind'][];
const isKeyRecipe = (recipe: SingleRecipe): recipe is KeyRecipe => keyKinds.includes(recipe.kind);

/** What a recipe finds, before edge care: of a picture that brings its own alpha along, as much as there is. */
export interface Found {
  alpha: Bytes;
  /** Colours that a key solved, known where their alpha is not 0; null where all colours are the picture's. */
  colours: Rgba | null;
}

/**
 * How a step is found that needs more than the picture: the subject a session, masks and differences a file. Its alpha is the share of
 * what is there.
 */
export type FindStep = (step: RecipeStep) => Promise<Found>;

/**
 * A step that needs a stored picture beside its own.
 * @param frame which frame of a clip the picture is
 * @throws Error for a subject, which is found in stills only
 */
export async function findByFile(
  picture: Rgba,
  { recipe }: RecipeStep,
  load: (file: string) => Promise<Rgba>,
  frame = 0,
): Promise<Found> {
  if (recipe.kind === 'figure') {
    const matte = recipe.mattes[frame];
    const nothing = makeBytes(picture.width, picture.height);
    return { alpha: matte ? shareOfThere(alphaOf(await load(matte)), picture) : nothing, colours: null };
  }
  if (recipe.kind === 'mask')
    return {
      alpha: shareOfThere(maskOnPicture(alphaOf(await load(recipe.file)), recipe.x, recipe.y, picture), picture),
      colours: null,
    };
  if (recipe.kind === 'difference')
    return {
      alpha: differenceKey(withColoursGoingOn(picture), withColoursGoingOn(await load(recipe.ground), picture), recipe),
      colours: null,
    };
  throw new Error(
    'A subject can only be found in a still picture. Use colour, brightness or the difference for a clip.',
  );
}

/** Colours and alpha that a key recipe makes of a picture, before edge care. */
export function keyed(picture: Rgba, recipe: KeyRecipe): Keyed {
  if (recipe.kind === 'chroma') return chromaKey(picture, recipe);
  if (recipe.kind === 'luma') return lumaKey(picture, recipe);
  if (recipe.kind === 'unveil') return unveil(picture, recipe.black);
  return { colours: picture, alpha: makeBytes(picture.width, picture.height, 255) };
}

/** A stored alpha on the ground of its picture. */
export function maskOnPicture(mask: Bytes, x: number, y: number, picture: Rgba): Bytes {
  return unitedAlpha([{ alpha: mask, x, y }], picture.width, picture.height);
}

/**
 * All steps of a recipe joined in order, and of that as much as the picture has: what it leaves empty stays empty.
 * @param find finds the steps that this cannot: subjects, masks and differences
 */
export async function findPiece(picture: Rgba, recipe: CutRecipe, find: FindStep): Promise<Found> {
  const { alpha, colours } = await joinedSteps(withColoursGoingOn(picture), recipe, find);
  return { alpha: asMuchAsThere(alpha, picture), colours };
}

async function joinedSteps(picture: Rgba, recipe: CutRecipe, find: FindStep): Promise<Found> {
  const one = async (step: RecipeStep): Promise<Found> => {
    const single = step.recipe;
    if (single.kind === 'shape')
      return { alpha: alphaOfShapes(single.shapes, picture.width, picture.height), colours: null };
    return isKeyRecipe(single) ? keyed(picture, single) : find(step);
  };
  if (recipe.kind !== 'combined') return one(stepsOf(recipe)[0]!);
  const active = stepsOf(recipe).filter((step) => !step.muted);
  const { width, height } = picture;
  let alpha = makeBytes(width, height, startsFull(active[0]?.how) ? 255 : 0);
  let colours: Rgba | null = null;
  for (const step of active) {
    const found = await one(step);
    if (step.how === 'add' && found.colours) colours = withColoursOf(found, alpha, colours);
    alpha = joinedAlpha(alpha, found.alpha, step.how);
  }
  if (isInverted(recipe)) {
    alpha = { width, height, data: alpha.data.map((a) => 255 - a) };
    // What a key found out about its own colours says nothing about the rest.
    colours = null;
  }
  return { alpha, colours };
}

function joinedAlpha(before: Bytes, own: Bytes, how: RecipeStep['how']): Bytes {
  const data = before.data.map((a, i) => Math.round(joined(a / 255, own.data[i]! / 255, how) * 255));
  return { ...before, data };
}

/** A key's colours, where it adds more than was there before it. */
function withColoursOf(found: Found, before: Bytes, colours: Rgba | null): Rgba {
  const out = colours ?? makeRgba(before.width, before.height);
  for (let i = 0; i < before.data.length; i++) {
    if (found.alpha.data[i]! <= before.data[i]!) continue;
    out.data.set(found.colours!.data.subarray(i * 4, i * 4 + 4), i * 4);
  }
  return out;
}

/**
 * Colours of a piece with its final alpha, after edge care and brushes: a key's own colours where it saw the piece, the
 * picture's with the surroundings taken out of them elsewhere.
 * @param clean how much of the surroundings is taken out, 0..1
 */
export function colouredBy(picture: Rgba, found: Found, alpha: Bytes, clean = 1): Rgba {
  const known = found.colours;
  const missing = !known || alpha.data.some((a, i) => a > 0 && known.data[i * 4 + 3] === 0);
  const colours = missing
    ? cleanedBy(withColoursGoingOn(picture), shareOfThere(alpha, picture), clean)
    : makeRgba(picture.width, picture.height);
  for (let i = 0; i < alpha.data.length; i++) {
    if (known && known.data[i * 4 + 3]! > 0)
      for (let c = 0; c < 3; c++) colours.data[i * 4 + c] = known.data[i * 4 + c]!;
    colours.data[i * 4 + 3] = alpha.data[i]!;
  }
  return colours;
}

function cleanedBy(picture: Rgba, alpha: Bytes, amount: number): Rgba {
  if (amount === 0) return { ...picture, data: picture.data.slice() };
  const cleaned = cleanColours(picture, alpha);
  if (amount === 1) return cleaned;
  for (let i = 0; i < cleaned.data.length; i++)
    cleaned.data[i] = picture.data[i]! + (cleaned.data[i]! - picture.data[i]!) * amount;
  return cleaned;
}

/** Pixels around a piece from which the colours of its edge are told. */
const roomForColours = 24;

/** Alpha and colours of a piece, from what its recipe found; colours only where there is anything of it. */
export function finished(
  picture: Rgba,
  found: Found,
  { care, marks }: Pick<Piece, 'care' | 'marks'>,
): { alpha: Bytes; colours: Rgba } {
  const alpha = withCare(found.alpha, care, marks, picture);
  const colours = makeRgba(picture.width, picture.height);
  const bounds = boundsOf(alpha);
  if (!bounds) return { alpha, colours };
  const area = growRect(bounds, roomForColours, picture.width, picture.height);
  const part = croppedTo(found, area);
  const coloured = colouredBy(cropRgba(picture, area), part, cropBytes(alpha, area), care.clean);
  pasteRgba(colours, coloured, area.x, area.y);
  return { alpha, colours };
}

const croppedTo = ({ alpha, colours }: Found, area: Rect): Found => ({
  alpha: cropBytes(alpha, area),
  colours: colours && cropRgba(colours, area),
});

/**
 * Colours and alpha of a piece in one frame of a clip, computed only where there is anything of it: outside it is clear. Marks
 * can bring back what lies anywhere, so with them all of the frame is computed.
 */
export function finishedFrame(picture: Rgba, found: Found, piece: Pick<Piece, 'care' | 'marks'>): Rgba {
  if (piece.marks.length > 0) return finished(picture, found, piece).colours;
  if (found.colours && leavesEdges(piece.care) && hasAlpha(found.colours, found.alpha)) return found.colours;
  const whole = makeRgba(picture.width, picture.height);
  const bounds = boundsOf(found.alpha);
  if (!bounds) return whole;
  const { grow, soften, smooth } = piece.care;
  const room = roomForColours + Math.ceil(Math.max(0, grow) + 3 * soften + 3 * smooth);
  const area = growRect(bounds, room, picture.width, picture.height);
  const [seen, part] = [cropRgba(picture, area), croppedTo(found, area)];
  const colours = colouredBy(seen, part, withCare(part.alpha, piece.care, [], seen), piece.care.clean);
  pasteRgba(whole, colours, area.x, area.y);
  return whole;
}

const leavesEdges = ({ grow, soften, smooth }: Piece['care']): boolean => grow === 0 && soften === 0 && smooth === 0;

/** Whether a key's colours are the piece as it is: nothing was added to what it found, nor taken away. */
function hasAlpha({ data }: Rgba, alpha: Bytes): boolean {
  for (let i = 0, o = 3; i < alpha.data.length; i++, o += 4) if (data[o] !== alpha.data[i]) return false;
  return true;
}

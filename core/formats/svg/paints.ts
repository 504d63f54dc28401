import { composed, transformOf, type Affine } from './affine.ts';
import type { Paint, Rgba, Stop } from './drawing.ts';
import { colourOf, lengthOf, shareOf, startStyle, styleOf, type Style, type StyleSheet } from './style.ts';
import type { SvgElement } from './tree.ts';

/** What paints are made from: elements by their id, the style sheet, and a list of what was left out. */
export interface PaintSource {
  byId: ReadonlyMap<string, SvgElement>;
  sheet: StyleSheet;
  size: { width: number; height: number };
  leave(what: string): void;
}

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** The id a reference such as `url(#a)` or `#a` names; null for anything that is not in this file. */
export const idOf = (reference: string | undefined): string | null =>
  /^\s*(?:url\(\s*['"]?)?#([^'")\s]+)/.exec(reference ?? '')?.[1] ?? null;

/**
 * What a figure is filled or stroked with; null for nothing.
 * @param box of the figure, in its own pixels, without its stroke
 */
export function paintOf(property: 'fill' | 'stroke', style: Style, box: Box, source: PaintSource): Paint | null {
  const text = style[property]!.trim();
  const opacity = shareOf(style[`${property}-opacity`]!);
  if (text === 'none' || opacity === 0) return null;
  if (!text.startsWith('url(')) return flat(text, style, opacity);
  const found = source.byId.get(idOf(text) ?? '');
  const isGradient = found?.name === 'linearGradient' || found?.name === 'radialGradient';
  if (isGradient) return gradientOf(found, box, opacity, source);
  if (found) source.leave('patterns');
  // What stands behind the reference is taken where that leads nowhere (SVG 2, 13.2).
  const otherwise = text.slice(text.indexOf(')') + 1).trim();
  return otherwise && otherwise !== 'none' ? flat(otherwise, style, opacity) : null;
}

function flat(text: string, style: Style, opacity: number): Paint | null {
  const colour = colourOf(text, style, opacity);
  return colour && colour[3] > 0 ? { kind: 'colour', colour } : null;
}

/** A gradient with what it takes from the ones it refers to (SVG 2, 14.2). */
function gradientOf(element: SvgElement, box: Box, opacity: number, source: PaintSource): Paint | null {
  const chain = chainOf(element, source);
  const attribute = (key: string): string | undefined => chain.find((one) => one.attributes[key])?.attributes[key];
  const stops = stopsOf(chain, opacity, source.sheet);
  if (stops.length === 0) return null;
  if (stops.length === 1) return { kind: 'colour', colour: stops[0]!.colour };
  const ofBox = attribute('gradientUnits') !== 'userSpaceOnUse';
  // A box without width or height gives a gradient no room.
  if (ofBox && (box.width <= 0 || box.height <= 0)) return { kind: 'colour', colour: stops.at(-1)!.colour };
  const { width, height } = ofBox ? { width: 1, height: 1 } : source.size;
  const length = (key: string, start: string, whole: number): number => lengthOf(attribute(key) ?? start, whole) ?? 0;
  if (attribute('spreadMethod') === 'reflect' || attribute('spreadMethod') === 'repeat')
    source.leave('gradients that repeat');
  const toBox: Affine = [box.width, 0, 0, box.height, box.x, box.y];
  const own = transformOf(attribute('gradientTransform'));
  const matrix = ofBox ? composed(toBox, own) : own;
  if (element.name === 'linearGradient')
    return {
      kind: 'linear',
      from: [length('x1', '0%', width), length('y1', '0%', height)],
      to: [length('x2', '100%', width), length('y2', '0%', height)],
      stops,
      matrix,
    };
  const diagonal = Math.hypot(width, height) / Math.SQRT2;
  const centre: [number, number] = [length('cx', '50%', width), length('cy', '50%', height)];
  const radius = length('r', '50%', diagonal);
  const focus: [number, number] = [
    attribute('fx') ? length('fx', '50%', width) : centre[0],
    attribute('fy') ? length('fy', '50%', height) : centre[1],
  ];
  return { kind: 'radial', focus: within(focus, centre, radius), centre, radius, stops, matrix };
}

/** A focus outside the circle lies on its rim instead. */
function within(focus: [number, number], centre: [number, number], radius: number): [number, number] {
  const [dx, dy] = [focus[0] - centre[0], focus[1] - centre[1]];
  const far = Math.hypot(dx, dy);
  const most = radius * 0.999;
  return far <= most ? focus : [centre[0] + (dx / far) * most, centre[1] + (dy / far) * most];
}

function chainOf(element: SvgElement, { byId }: PaintSource): SvgElement[] {
  const chain: SvgElement[] = [];
  for (let one: SvgElement | undefined = element; one && !chain.includes(one);) {
    chain.push(one);
    one = byId.get(idOf(one.attributes.href) ?? '');
  }
  return chain;
}

function stopsOf(chain: readonly SvgElement[], opacity: number, sheet: StyleSheet): Stop[] {
  const holder = chain.find(({ children }) => children.some(({ name }) => name === 'stop'));
  let last = 0;
  return (holder?.children ?? []).flatMap((stop): Stop[] => {
    if (stop.name !== 'stop') return [];
    const style = styleOf(stop, startStyle, sheet);
    const colour: Rgba = colourOf(style['stop-color']!, style, opacity * shareOf(style['stop-opacity']!)) ?? [
      0, 0, 0, 0,
    ];
    // Each stop lies at or behind the one before it.
    last = Math.max(last, shareOf(stop.attributes.offset ?? '0'));
    return [{ at: last, colour }];
  });
}

import { color } from 'd3-color';
import type { Rgba } from './drawing.ts';
import type { SvgElement } from './tree.ts';

/** Properties of an element, by name, as far as painting needs them. */
export type Style = Readonly<Record<string, string>>;

/** What is handed down from an element to those in it, and what it is where nothing says otherwise (SVG 2, appendix). */
const inherited: Style = {
  color: 'black',
  fill: 'black',
  'fill-opacity': '1',
  'fill-rule': 'nonzero',
  'clip-rule': 'nonzero',
  stroke: 'none',
  'stroke-opacity': '1',
  'stroke-width': '1',
  'stroke-linecap': 'butt',
  'stroke-linejoin': 'miter',
  'stroke-miterlimit': '4',
  'stroke-dasharray': 'none',
  'stroke-dashoffset': '0',
  visibility: 'visible',
};

/** What belongs to the element alone. */
const own: Style = {
  opacity: '1',
  display: 'inline',
  'clip-path': 'none',
  mask: 'none',
  filter: 'none',
  'stop-color': 'black',
  'stop-opacity': '1',
};

export const startStyle: Style = { ...inherited, ...own };

/** One rule of a style sheet whose selector is a name, a class or an id. */
interface Rule {
  selector: { kind: 'name' | 'class' | 'id'; value: string };
  declarations: Style;
}

export interface StyleSheet {
  rules: Rule[];
  /** Selectors that were not understood. */
  skipped: number;
}

/** The rules of all `style` elements, the stronger ones later (CSS Cascade 4: names, classes, ids, each in their order). */
export function styleSheetOf(root: SvgElement): StyleSheet {
  const text = textsOf(root)
    .join('\n')
    .replace(/\/\*[^]*?\*\//g, '');
  const rules: Rule[] = [];
  let skipped = 0;
  for (const [, selectors, body] of text.matchAll(/([^{}]+)\{([^{}]*)\}/g))
    for (const selector of selectors!.split(',').map((one) => one.trim())) {
      const [, mark, value] = /^([.#]?)([\w-]+)$/.exec(selector) ?? [];
      if (value === undefined) skipped++;
      else {
        const kind = mark === '.' ? 'class' : mark === '#' ? 'id' : 'name';
        rules.push({ selector: { kind, value }, declarations: declarationsOf(body!) });
      }
    }
  const strength = { name: 0, class: 1, id: 2 };
  rules.sort((a, b) => strength[a.selector.kind] - strength[b.selector.kind]);
  return { rules, skipped };
}

const textsOf = (element: SvgElement): string[] =>
  element.name === 'style' ? [element.text] : element.children.flatMap(textsOf);

function declarationsOf(text: string): Style {
  return Object.fromEntries(
    text.split(';').flatMap((one) => {
      const at = one.indexOf(':');
      if (at < 0) return [];
      const value = one.slice(at + 1).replace(/!important/i, '');
      return [[one.slice(0, at).trim().toLowerCase(), value.trim()]];
    }),
  );
}

/** The properties of an element: what it inherits, its attributes, the style sheet's, its own `style`, each over those before. */
export function styleOf(element: SvgElement, parent: Style, { rules }: StyleSheet): Style {
  const { name, attributes } = element;
  const classes = (attributes.class ?? '').split(/\s+/);
  const fits = ({ kind, value }: Rule['selector']): boolean =>
    kind === 'name' ? value === name : kind === 'class' ? classes.includes(value) : attributes.id === value;
  const said: Record<string, string> = {};
  const take = (declarations: Style): void => {
    for (const key of Object.keys(declarations)) if (key in startStyle) said[key] = declarations[key]!;
  };
  take(attributes);
  for (const rule of rules) if (fits(rule.selector)) take(rule.declarations);
  take(declarationsOf(attributes.style ?? ''));
  const style: Record<string, string> = { ...own };
  for (const key of Object.keys(inherited)) style[key] = parent[key]!;
  for (const [key, value] of Object.entries(said)) style[key] = value === 'inherit' ? parent[key]! : value;
  return style;
}

/** A colour (CSS Color 4) with an opacity laid over it; null for one that cannot be read. */
export function colourOf(text: string, style: Style, opacity: number): Rgba | null {
  const named = text.trim().toLowerCase() === 'currentcolor' ? style.color! : text;
  const found = color(named.trim())?.rgb();
  if (!found || ![found.r, found.g, found.b].every(Number.isFinite)) return null;
  const byte = (v: number): number => Math.max(0, Math.min(255, Math.round(v)));
  return [byte(found.r), byte(found.g), byte(found.b), found.opacity * opacity];
}

const units: Record<string, number> = {
  '': 1,
  px: 1,
  pt: 4 / 3,
  pc: 16,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  in: 96,
  em: 16,
  ex: 8,
};

/** A length in pixels (CSS Values 4, 96 to an inch). @param whole what 100 % are @returns null for none */
export function lengthOf(text: string | undefined, whole: number): number | null {
  const [, number, unit] = /^\s*([-+]?[\d.]+(?:e[-+]?\d+)?)\s*(%|[a-z]*)\s*$/i.exec(text ?? '') ?? [];
  if (number === undefined) return null;
  const value = Number.parseFloat(number);
  if (unit === '%') return (value / 100) * whole;
  const factor = units[unit!.toLowerCase()];
  return factor === undefined || !Number.isFinite(value) ? null : value * factor;
}

/** A number from 0 to 1, also written in per cent. */
export const shareOf = (text: string): number => {
  const value = lengthOf(text, 1) ?? 1;
  return Math.max(0, Math.min(1, value));
};

import { XMLParser } from 'fast-xml-parser';

/** Thrown when a file is not an SVG that can be read. */
export class UnreadableSvg extends Error {
  constructor(
    readonly detail: string,
    sentence = 'No outline could be read from this SVG file.',
  ) {
    super(sentence);
    this.name = 'UnreadableSvg';
  }
}

/** An element of an SVG file, names without their prefixes. */
export interface SvgElement {
  name: string;
  attributes: Record<string, string>;
  children: SvgElement[];
  /** The text right inside it. */
  text: string;
}

/** More than this is no drawing anybody made by hand, or is meant to be too much. */
export const svgLimits = { bytes: 8 * 1024 * 1024, depth: 60, elements: 40_000 } as const;

/**
 * The elements of an SVG file (XML 1.0, SVG 2). Nothing it names is fetched, no entity is replaced, no code runs.
 * @throws UnreadableSvg when it is no SVG, defines entities of its own, or is larger or deeper than any drawing
 */
export function svgTree(text: string): SvgElement {
  if (text.length > svgLimits.bytes) throw new UnreadableSvg('too long', 'This SVG file is too large: 8 MB at most.');
  if (/<!ENTITY/i.test(text))
    throw new UnreadableSvg(
      'entities',
      'This SVG file defines entities of its own, which could hide anything. Save it again without them.',
    );
  const options = {
    ignoreAttributes: false,
    attributeNamePrefix: '',
    preserveOrder: true,
    processEntities: false,
    removeNSPrefix: true,
  };
  let parsed: unknown;
  try {
    parsed = new XMLParser(options).parse(text, true);
  } catch (error) {
    throw new UnreadableSvg(error instanceof Error ? error.message : String(error));
  }
  const svg = elementsOf(parsed, 0, { left: svgLimits.elements }).find((element) => element.name === 'svg');
  if (!svg) throw new UnreadableSvg('no svg element');
  return svg;
}

/** The parser's ordered form, in plain words. */
function elementsOf(value: unknown, depth: number, count: { left: number }): SvgElement[] {
  if (!Array.isArray(value)) return [];
  if (depth > svgLimits.depth)
    throw new UnreadableSvg('too deep', 'This SVG file is nested too deeply to be a drawing.');
  return value.flatMap((entry: Record<string, unknown>) => {
    const name = Object.keys(entry).find((key) => key !== ':@');
    if (!name || name.startsWith('#') || name.startsWith('?')) return [];
    if (--count.left < 0)
      throw new UnreadableSvg('too many elements', 'This SVG file has too many parts: 40,000 at most.');
    const attributes = (entry[':@'] ?? {}) as Record<string, string>;
    const inside = entry[name];
    return [{ name, attributes, children: elementsOf(inside, depth + 1, count), text: textOf(inside) }];
  });
}

const textOf = (value: unknown): string =>
  Array.isArray(value) ? value.map((entry: Record<string, unknown>) => String(entry['#text'] ?? '')).join('') : '';

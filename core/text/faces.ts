/** The faces that ship with the application, by kind: all under the SIL Open Font Licence. */
export const faces = [
  'grotesque',
  'grotesque heavy',
  'serif',
  'serif bold',
  'slab',
  'condensed',
  'rounded',
  'script',
  'hand',
  'comic',
  'stencil',
  'mono',
] as const;
export type Face = (typeof faces)[number];

/** A face that ships, or one's own by the hash of its file. */
export type FaceName = string;

export const isShipped = (face: FaceName): face is Face => (faces as readonly string[]).includes(face);

const files = (family: string, weight: number, subsets: readonly string[] = ['latin', 'latin-ext']): string[] =>
  subsets.map((subset) => `${family}/files/${family}-${subset}-${weight}-normal.woff`);

/** The files of each face within the packages that bring them; a letter comes from the first that has it. */
export const faceFiles: Record<Face, string[]> = {
  grotesque: files('hanken-grotesk', 600),
  'grotesque heavy': files('archivo-black', 400),
  serif: files('libre-baskerville', 400),
  'serif bold': files('libre-baskerville', 700),
  slab: files('zilla-slab', 600),
  condensed: files('oswald', 500),
  rounded: files('nunito', 800),
  script: files('pacifico', 400),
  hand: files('caveat', 600),
  comic: files('bangers', 400),
  stencil: files('stardos-stencil', 700, ['latin']),
  mono: files('jetbrains-mono', 500),
};

/** Where letters come from that a face has not. */
export const fallbackFiles = [
  ...files('hanken-grotesk', 600, ['latin', 'latin-ext']),
  ...files('noto-sans-hebrew', 500, ['hebrew']),
  ...files('noto-sans-arabic', 500, ['arabic']),
];

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

/** A file size for people: three digits and a unit. */
export function sizeOf(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  if (bytes < 999_500) return `${Math.round(bytes / 1000)} kB`;
  const mega = bytes / 1e6;
  return mega < 1000 ? `${mega.toFixed(mega < 10 ? 2 : 1)} MB` : `${(mega / 1000).toFixed(2)} GB`;
}

/** A name in what room there is; the number that tells it from others stays seen. */
export function ShortenedName({ name }: { name: string }) {
  const number = / \d+$/.exec(name)?.[0] ?? '';
  return (
    <span className="flex min-w-0">
      <span className="truncate">{name.slice(0, name.length - number.length)}</span>
      {number && <span className="shrink-0 whitespace-pre">{number}</span>}
    </span>
  );
}

/** How many faults were noticed in a folder. */
export interface MutantResult {
  folder: string;
  made: number;
  killed: number;
  /** Set aside, as they change no answer. */
  equal: number;
  date: string;
}

const head = '| folder | faults made | noticed | set aside | on |\n| --- | --- | --- | --- | --- |\n';

/** The page with the line of a folder in the place of its old one; folders stand in the order of the alphabet. */
export function withResult(page: string, { folder, made, killed, equal, date }: MutantResult): string {
  const start = page.indexOf(head);
  if (start < 0) throw new Error('docs/tests.md has no table of faults.');
  const begin = start + head.length;
  const end = begin + (/^(\|.*\n)*/.exec(page.slice(begin))?.[0].length ?? 0);
  const line = `| ${folder} | ${made} | ${Math.round((100 * killed) / made)} % | ${equal} | ${date} |\n`;
  const others = page
    .slice(begin, end)
    .split(/(?<=\n)/)
    .filter((row) => row && !row.startsWith(`| ${folder} |`));
  return page.slice(0, begin) + [...others, line].sort().join('') + page.slice(end);
}

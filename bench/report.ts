/** One bar of methods.md and what was measured against it. */
export interface Bar {
  what: string;
  wanted: string;
  measured: string;
  reached: boolean;
}

export interface Section {
  title: string;
  bars: Bar[];
  table: { head: string[]; rows: string[][] };
  notes: string[];
}

const row = (cells: string[]): string => `| ${cells.join(' | ')} |`;

export function markdownOf(sections: Section[], machine: string): string {
  const parts = [
    '# Bench',
    '',
    `Written by \`npm run bench\`. All figures are from one run on ${machine}; ratios are between things measured in that run.`,
    '',
  ];
  for (const { title, bars, table, notes } of sections) {
    parts.push(`## ${title}`, '');
    parts.push(row(['bar', 'wanted', 'measured', '']), row(['---', '---', '---', '---']));
    for (const bar of bars)
      parts.push(row([bar.what, bar.wanted, bar.measured, bar.reached ? 'reached' : '**not reached**']));
    parts.push('');
    if (table.rows.length > 0) {
      parts.push(row(table.head), row(table.head.map(() => '---')), ...table.rows.map(row), '');
    }
    for (const note of notes) parts.push(`- ${note}`);
    if (notes.length > 0) parts.push('');
  }
  return parts.join('\n');
}

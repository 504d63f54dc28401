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
  /** Small pictures beside docs/bench.md that show what the numbers mean. */
  pictures?: { file: string; caption: string }[];
  notes: string[];
}

const row = (cells: string[]): string => `| ${cells.join(' | ')} |`;

function sectionText({ title, bars, table, pictures = [], notes }: Section): string {
  const lines = [`## ${title}`, ''];
  lines.push(row(['bar', 'wanted', 'measured', '']), row(['---', '---', '---', '---']));
  for (const bar of bars)
    lines.push(row([bar.what, bar.wanted, bar.measured, bar.reached ? 'reached' : '**not reached**']));
  lines.push('');
  if (table.rows.length > 0) lines.push(row(table.head), row(table.head.map(() => '---')), ...table.rows.map(row), '');
  for (const { file, caption } of pictures) lines.push(`![${caption}](${file})`, '', `${caption}.`, '');
  for (const note of notes) lines.push(`- ${note}`);
  return `${lines.join('\n').trimEnd()}\n`;
}

/** The report: newly measured sections in place of their old text, the others as they stood. */
export function markdownOf(sections: Section[], machine: string, before: string): string {
  const kept = new Map<string, string>();
  for (const part of before.split(/^(?=## )/m)) {
    if (part.startsWith('## ')) kept.set(part.slice(3, part.indexOf('\n')), `${part.trimEnd()}\n`);
  }
  for (const section of sections) kept.set(section.title, sectionText(section));
  const head = `# Bench

Written by \`npm run bench\` on ${machine}. Each section comes from one run; ratios are between things measured in that run.
`;
  return [head, ...kept.values()].join('\n');
}

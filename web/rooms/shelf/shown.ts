import type { Project, UnreadableProject } from '../../data/api.ts';

export type ShelfOrder = 'changed' | 'name';

export const nameOf = (project: Project | UnreadableProject): string =>
  'document' in project ? project.document.name : project.name;

/** Letters without their marks, as people search: "cafe" finds "Café". */
const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{Mark}/gu, '')
    .toLocaleLowerCase();

/** Whether every word that is searched is in a project's name or in that of one of its pictures. */
function matches(project: Project | UnreadableProject, words: readonly string[]): boolean {
  const names = 'document' in project ? project.document.pictures.map(({ name }) => name) : [];
  const text = plain([nameOf(project), ...names].join(' '));
  return words.every((word) => text.includes(word));
}

/** The projects that are searched for, those changed last first or by name, numbers in it as numbers. */
export function shownProjects<P extends Project | UnreadableProject>(
  projects: readonly P[],
  search: string,
  order: ShelfOrder,
): P[] {
  const words = plain(search).split(/\s+/).filter(Boolean);
  const found = projects.filter((project) => matches(project, words));
  if (order === 'changed') return found.sort((a, b) => b.updated.localeCompare(a.updated));
  return found.sort((a, b) => nameOf(a).localeCompare(nameOf(b), undefined, { numeric: true, sensitivity: 'base' }));
}

/** Which project and which of its rooms a page shows, told by its path as it stands there: /project/pier-4f2a/stage. */
export interface Place {
  project: string | null;
  room: string;
}

export function placeOf(path: string): Place {
  const [, kind, project, room] = path.split('/');
  return { project: kind === 'project' && project ? project : null, room: room || 'stage' };
}

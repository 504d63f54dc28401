import { exportFormatIds } from '../../core/formats/exports.ts';
import { z } from 'zod';
import { storedStepSchema, type Origin, type StoredStep } from '../../core/document/change-schema.ts';
import type { PatchOperation } from '../../core/document/json-patch.ts';
import { documentSchema, type Document } from '../../core/document/document.ts';
import { finishSchema } from '../../core/document/finish-list.ts';

/** An answer of the server that is not success; its message is meant for the user. */
export class ServerError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly body: unknown,
  ) {
    super(message);
    this.name = 'ServerError';
  }
}

/** The server could not be reached at all. */
export class Unreachable extends Error {
  constructor() {
    super('Clyvo is not answering on this machine. Start it again; nothing you did is lost.');
    this.name = 'Unreachable';
  }
}

const failure = z.object({ message: z.string() });

async function send(path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, init);
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new Unreachable();
  }
  if (response.ok) return response;
  const body: unknown = await response.json().catch(() => null);
  const said = failure.safeParse(body);
  throw new ServerError(
    response.status,
    said.success ? said.data.message : `Clyvo answered without a reason (${response.status}). Try again.`,
    body,
  );
}

async function receive<T>(schema: z.ZodType<T>, path: string, init?: RequestInit): Promise<T> {
  return schema.parse(await (await send(path, init)).json());
}

/** A file as it is, under its name. */
const upload = (file: File): RequestInit => ({
  method: 'POST',
  headers: { 'Content-Type': 'application/octet-stream', 'X-File-Name': encodeURIComponent(file.name) },
  body: file,
});

const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
});

export const projectSchema = z.object({
  id: z.string(),
  revision: z.number(),
  updated: z.string(),
  document: documentSchema,
});
export type Project = z.infer<typeof projectSchema>;

/** A project whose stored state cannot be read. */
export const unreadableSchema = z.object({
  id: z.string(),
  updated: z.string(),
  name: z.string(),
  unreadable: z.string(),
});
export type UnreadableProject = z.infer<typeof unreadableSchema>;

export const listProjects = (): Promise<(Project | UnreadableProject)[]> =>
  receive(z.array(z.union([projectSchema, unreadableSchema])), '/api/projects');

/** A project, with the ids of the changes that were stored after a revision. */
export const newerProjectSchema = projectSchema.extend({ changes: z.array(z.string()) });
export type NewerProject = z.infer<typeof newerProjectSchema>;
export const getProject = (id: string, since?: number): Promise<NewerProject> =>
  receive(newerProjectSchema, `/api/projects/${id}${since === undefined ? '' : `?since=${since}`}`);
export const createProject = (name: string, frame: Document['frame'], seconds: number): Promise<Project> =>
  receive(projectSchema, '/api/projects', json('POST', { name, frame, seconds }));
export const duplicateProject = (id: string): Promise<Project> =>
  receive(projectSchema, `/api/projects/${id}/duplicate`, { method: 'POST' });
export const deleteProject = async (id: string): Promise<void> =>
  void (await send(`/api/projects/${id}`, { method: 'DELETE' }));
export const restoreProject = (id: string): Promise<Project> =>
  receive(projectSchema, `/api/projects/${id}/restore`, { method: 'POST' });

/** A new project of the last state of one that can be read. */
export const recoverProject = (id: string): Promise<Project> =>
  receive(projectSchema, `/api/projects/${id}/recover`, { method: 'POST' });
export const dataUrl = (id: string): string => `/api/projects/${id}/data`;

/** Where a project can be fetched as a bundle. @throws ServerError when it cannot be written */
export async function bundleUrl(id: string, exports: 'all' | 'none'): Promise<string> {
  const url = `/api/projects/${id}/bundle?exports=${exports}`;
  await send(url, { method: 'HEAD' });
  return url;
}

/** Brings in a bundle as a project of its own. */
export const openBundle = (file: File): Promise<Project> => receive(projectSchema, '/api/bundles', upload(file));

const bytes = z.number().nonnegative();
const diskSchema = z.object({ taken: bytes, free: bytes });
/** What the data folder takes, and what is free. */
export const getDisk = (): Promise<z.infer<typeof diskSchema>> => receive(diskSchema, '/api/disk');

const usageSchema = z.object({
  projects: z.array(z.object({ id: z.string(), name: z.string(), files: bytes, exports: bytes })),
  files: bytes,
  exports: bytes,
  earlier: bytes,
  clearable: bytes,
});
/** What fills the data folder; every project and all its steps are looked through. */
export const getUsage = (): Promise<z.infer<typeof usageSchema>> => receive(usageSchema, '/api/disk/usage');

/** Gives back the room that deleted projects and exports take; resolves to the bytes freed. */
export const clearDeleted = async (): Promise<number> =>
  (await receive(z.object({ freed: z.number() }), '/api/clear', { method: 'POST' })).freed;

export interface ChangeRequest {
  /** The change's own id: sent again it is answered as done. */
  change: string;
  revision: number;
  name: string;
  patch: PatchOperation[];
  origin: Origin;
}

/** What led to a revision and can be taken back, newest first. */
export const getSteps = (id: string, until: number): Promise<StoredStep[]> =>
  receive(z.array(storedStepSchema), `/api/projects/${id}/steps?until=${until}`);

/** The revision a change made, and the newest one there is. */
export interface ChangeAnswer {
  revision: number;
  newest: number;
}

/** Sends a change as an RFC 6902 patch. */
export const changeProject = (id: string, request: ChangeRequest, keepalive = false): Promise<ChangeAnswer> =>
  receive(z.object({ revision: z.number(), newest: z.number() }), `/api/projects/${id}`, {
    ...json('PATCH', request),
    keepalive,
  });

const finishSetSchema = z.object({ name: z.string(), finishes: z.array(finishSchema) });
export type FinishSet = z.infer<typeof finishSetSchema>;
export const listFinishSets = (): Promise<FinishSet[]> => receive(z.array(finishSetSchema), '/api/finish-sets');
export const saveFinishSet = async ({ name, finishes }: FinishSet): Promise<void> =>
  void (await send(`/api/finish-sets/${encodeURIComponent(name)}`, json('PUT', finishes)));
export const deleteFinishSet = async (name: string): Promise<void> =>
  void (await send(`/api/finish-sets/${encodeURIComponent(name)}`, { method: 'DELETE' }));

const ingestedSchema = z.object({
  name: z.string(),
  original: z.string(),
  file: z.string(),
  width: z.number(),
  height: z.number(),
  notice: z.string().nullable(),
});
export type IngestedPicture = z.infer<typeof ingestedSchema>;

export function uploadPicture(file: File): Promise<IngestedPicture> {
  return receive(ingestedSchema, '/api/pictures', upload(file));
}

const fontSchema = z.object({ file: z.string(), name: z.string() });

/** Stores a font of one's own. */
export const storeFont = (file: File): Promise<z.infer<typeof fontSchema>> =>
  receive(fontSchema, '/api/fonts', upload(file));

const drawingSchema = z.object({
  file: z.string(),
  name: z.string(),
  box: z.object({ x: z.number(), y: z.number(), width: z.number(), height: z.number() }),
  left: z.array(z.string()),
});

/** Stores a drawing; `left` is what it has that is not shown. */
export const storeDrawing = (file: File): Promise<z.infer<typeof drawingSchema>> =>
  receive(drawingSchema, '/api/drawings', upload(file));

const hashSchema = z.object({ hash: z.string() });

/** Stores a clip byte for byte. */
export const uploadClip = async (file: File): Promise<string> =>
  (await receive(hashSchema, '/api/clips', upload(file))).hash;

/** Stores a sound byte for byte. */
export const uploadSound = async (file: File): Promise<string> =>
  (await receive(hashSchema, '/api/sounds', upload(file))).hash;

/** The bytes of a stored file. */
export const fileBytes = async (hash: string): Promise<ArrayBuffer> => (await send(fileUrl(hash))).arrayBuffer();

export async function uploadPixels(png: Blob): Promise<string> {
  const answer = await receive(hashSchema, '/api/files', {
    method: 'POST',
    headers: { 'Content-Type': 'image/png' },
    body: png,
  });
  return answer.hash;
}

export const fileUrl = (hash: string, width?: number): string => `/api/files/${hash}${width ? `?width=${width}` : ''}`;

export const outputSchema = z.object({
  id: z.string(),
  name: z.string(),
  format: z.enum(exportFormatIds),
  width: z.number(),
  height: z.number(),
  frames: z.number(),
  rate: z.number(),
  bytes: z.number(),
  created: z.string(),
});
export type Output = z.infer<typeof outputSchema>;
export type OutputFacts = Pick<Output, 'name' | 'format' | 'width' | 'height' | 'frames' | 'rate'>;

export const listOutputs = (project: string): Promise<Output[]> =>
  receive(z.array(outputSchema), `/api/projects/${project}/outputs`);

export function storeOutput(project: string, facts: OutputFacts, data: Blob): Promise<Output> {
  const query = new URLSearchParams(Object.entries(facts).map(([key, value]) => [key, String(value)]));
  return receive(outputSchema, `/api/projects/${project}/outputs?${query}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: data,
  });
}

export const deleteOutput = async (id: string): Promise<void> =>
  void (await send(`/api/outputs/${id}`, { method: 'DELETE' }));
export const downloadUrl = (output: Output): string => `/api/outputs/${output.id}/download`;

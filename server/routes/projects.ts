import { Router } from 'express';
import { z } from 'zod';
import { originSchema } from '../../core/document/change-schema.ts';
import { emptyDocument } from '../../core/document/document.ts';
import { longestName } from '../../core/document/schema-parts.ts';
import { limits } from '../../core/document/shot.ts';
import { patchSchema } from '../store/patch.ts';
import type { ProjectStore } from '../store/projects.ts';

const newProject = z.object({
  name: z.string().trim().min(1).max(longestName),
  frame: z.object({
    width: z.number().int().min(16).max(limits.edge),
    height: z.number().int().min(16).max(limits.edge),
    rate: z.number().min(1).max(limits.rate),
  }),
  seconds: z.number().positive().max(120),
});

const changeSchema = z.object({
  change: z.uuid(),
  revision: z.number().int().positive().max(Number.MAX_SAFE_INTEGER),
  name: z.string().min(1).max(longestName),
  patch: patchSchema,
  origin: originSchema.default({ gesture: null, travel: null }),
});

const until = z.coerce.number().int().min(0);
const since = z.coerce.number().int().min(0).optional();

export function projectRoutes(projects: ProjectStore): Router {
  const routes = Router();
  routes.get('/', (_request, response) => {
    response.json(projects.list());
  });
  routes.post('/', (request, response) => {
    const { name, frame, seconds } = newProject.parse(request.body);
    response.status(201).json(projects.create(emptyDocument(name, frame, seconds, 'shot-1')));
  });
  /** The project, and with `since` the ids of the changes after that revision. */
  routes.get('/:id', (request, response) => {
    const { id } = request.params;
    const from = since.parse(request.query.since);
    response.json({ ...projects.get(id), changes: from === undefined ? [] : projects.changesSince(id, from) });
  });
  routes.patch('/:id', (request, response) => {
    response.json(projects.patch(request.params.id, changeSchema.parse(request.body)));
  });
  routes.get('/:id/history', (request, response) => {
    response.json(projects.history(request.params.id, 100));
  });
  /** Changes up to a revision that can be taken back, newest first. */
  routes.get('/:id/steps', (request, response) => {
    response.json(projects.steps(request.params.id, until.parse(request.query.until)));
  });
  /** What is stored, readable or not. */
  routes.get('/:id/data', (request, response) => {
    const { name, text } = projects.text(request.params.id);
    response.attachment(`${name}.json`).type('json').send(text);
  });
  routes.post('/:id/recover', (request, response) => {
    response.status(201).json(projects.recover(request.params.id));
  });
  routes.post('/:id/duplicate', (request, response) => {
    response.status(201).json(projects.duplicate(request.params.id));
  });
  routes.delete('/:id', (request, response) => {
    projects.remove(request.params.id);
    response.status(204).end();
  });
  routes.post('/:id/restore', (request, response) => {
    response.json(projects.restore(request.params.id));
  });
  return routes;
}

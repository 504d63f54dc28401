import { Router } from 'express';
import { z } from 'zod';
import { emptyDocument } from '../../core/scene/document.ts';
import { limits } from '../../core/scene/shot.ts';
import type { ProjectStore } from '../store/projects.ts';

const newProject = z.object({
  name: z.string().trim().min(1).max(120),
  frame: z.object({
    width: z.number().int().min(16).max(limits.edge),
    height: z.number().int().min(16).max(limits.edge),
    rate: z.number().min(1).max(limits.rate),
  }),
  seconds: z.number().positive().max(120),
});

const pointer = z.string().max(400);
const operation = z.discriminatedUnion('op', [
  z.object({ op: z.literal('add'), path: pointer, value: z.unknown() }),
  z.object({ op: z.literal('replace'), path: pointer, value: z.unknown() }),
  z.object({ op: z.literal('remove'), path: pointer }),
  z.object({ op: z.literal('move'), path: pointer, from: pointer }),
  z.object({ op: z.literal('copy'), path: pointer, from: pointer }),
  z.object({ op: z.literal('test'), path: pointer, value: z.unknown() }),
]);

const change = z.object({
  revision: z.number().int().positive(),
  name: z.string().min(1).max(120),
  patch: z.array(operation).min(1).max(20_000),
});

export function projectRoutes(projects: ProjectStore): Router {
  const routes = Router();
  routes.get('/', (_request, response) => {
    response.json(projects.list());
  });
  routes.post('/', (request, response) => {
    const { name, frame, seconds } = newProject.parse(request.body);
    response.status(201).json(projects.create(emptyDocument(name, frame, seconds, 'shot-1')));
  });
  routes.get('/:id', (request, response) => {
    response.json(projects.get(request.params.id));
  });
  routes.patch('/:id', (request, response) => {
    const { revision, name, patch } = change.parse(request.body);
    const { id, revision: next, updated } = projects.patch(request.params.id, revision, name, patch);
    response.json({ id, revision: next, updated });
  });
  routes.get('/:id/history', (request, response) => {
    response.json(projects.history(request.params.id, 100));
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

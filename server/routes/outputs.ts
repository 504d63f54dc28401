import express, { Router } from 'express';
import { UserError } from '../errors.ts';
import type { FileStore } from '../store/files.ts';
import { outputFactsSchema, type OutputStore } from '../store/outputs.ts';
import type { ProjectStore } from '../store/projects.ts';

const mediaTypes = { mp4: 'video/mp4', webm: 'video/webm', gif: 'image/gif', png: 'image/png' } as const;

export function outputRoutes(projects: ProjectStore, outputs: OutputStore, files: FileStore): Router {
  const routes = Router();
  routes.get('/projects/:id/outputs', (request, response) => {
    response.json(outputs.list(projects.get(request.params.id).id));
  });
  routes.post('/projects/:id/outputs', express.raw({ limit: '2gb', type: () => true }), async (request, response) => {
    const project = projects.get(String(request.params.id));
    const facts = outputFactsSchema.parse(request.query);
    if (!Buffer.isBuffer(request.body) || request.body.length === 0)
      throw new UserError(400, 'The exported clip is empty.');
    const file = await files.add(request.body, mediaTypes[facts.format]);
    response.status(201).json(outputs.add(project.id, facts, file.hash));
  });
  routes.get('/outputs/:id/download', (request, response) => {
    const output = outputs.get(request.params.id);
    const name = output.name.replace(/[/\\?%*:|"<>]/g, ' ');
    response.type(mediaTypes[output.format]);
    response.download(files.path(output.file), `${name}.${output.format}`, { dotfiles: 'allow' });
  });
  routes.delete('/outputs/:id', (request, response) => {
    outputs.remove(request.params.id);
    response.status(204).end();
  });
  return routes;
}

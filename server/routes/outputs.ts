import { Router } from 'express';
import { exportFormats } from '../../core/formats/exports.ts';
import { UserError } from '../errors.ts';
import type { FileStore } from '../store/files.ts';
import { outputFactsSchema, type OutputStore } from '../store/outputs.ts';
import type { ProjectStore } from '../store/projects.ts';

const largestOutput = 2 * 1024 ** 3;

export function outputRoutes(projects: ProjectStore, outputs: OutputStore, files: FileStore): Router {
  const routes = Router();
  routes.get('/projects/:id/outputs', (request, response) => {
    response.json(outputs.list(projects.get(request.params.id).id));
  });
  routes.post('/projects/:id/outputs', async (request, response) => {
    const project = projects.get(String(request.params.id));
    const facts = outputFactsSchema.parse(request.query);
    const expected = Number(request.headers['content-length'] ?? 0);
    const file = await files.receive(request, expected, largestOutput, () => {
      return new UserError(413, 'This export is larger than 2 GB. Choose a smaller size or a shorter work area.');
    });
    if (file.bytes === 0) {
      await file.discard();
      throw new UserError(400, 'The exported clip is empty.');
    }
    const { hash } = await file.keep(exportFormats[facts.format].mediaType);
    response.status(201).json(outputs.add(project.id, facts, hash));
  });
  routes.get('/outputs/:id/download', (request, response) => {
    const output = outputs.get(request.params.id);
    files.get(output.file);
    const name = output.name.replace(/[/\\?%*:|"<>]/g, ' ');
    response.type(exportFormats[output.format].mediaType);
    response.download(files.path(output.file), `${name}.${exportFormats[output.format].ending}`, { dotfiles: 'allow' });
  });
  routes.delete('/outputs/:id', (request, response) => {
    outputs.remove(request.params.id);
    response.status(204).end();
  });
  return routes;
}

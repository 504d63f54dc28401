import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import { z } from 'zod';
import { largestBundle, readBundle } from '../bundle/read-bundle.ts';
import { planBundle, writeBundle } from '../bundle/write-bundle.ts';
import { UserError } from '../errors.ts';
import type { FileStore } from '../store/files.ts';
import type { OutputStore } from '../store/outputs.ts';
import type { ProjectStore } from '../store/projects.ts';

const wanted = z.object({ exports: z.enum(['all', 'none']).default('all') });

/** Whole projects with their files, out and in. */
export function bundleRoutes(projects: ProjectStore, outputs: OutputStore, files: FileStore): Router {
  const routes = Router();
  routes.get('/projects/:id/bundle', async (request, response) => {
    const { id, document } = projects.get(request.params.id);
    const { exports } = wanted.parse(request.query);
    const plan = planBundle(files, document, exports === 'all' ? outputs.list(id) : []);
    response.attachment(`${document.name.replace(/[/\\?%*:|"<>]/g, '-')}.clyvo.zip`).type('application/zip');
    if (request.method === 'HEAD') return void response.end();
    await pipeline(writeBundle(plan), response).catch((error: unknown) => {
      // Who turns away in the middle has not met an error; whatever else breaks ends the line, so no half file looks whole.
      const left = error instanceof Error && 'code' in error && error.code === 'ERR_STREAM_PREMATURE_CLOSE';
      if (!left) throw error;
    });
  });
  routes.post('/bundles', async (request, response) => {
    const expected = Number(request.headers['content-length'] ?? 0);
    const file = await files.receive(request, expected, largestBundle, () => {
      return new UserError(413, 'This bundle is larger than 8 GB.');
    });
    const project = await readBundle(file.path, files, projects, outputs).finally(() => file.discard());
    response.status(201).json(project);
  });
  return routes;
}

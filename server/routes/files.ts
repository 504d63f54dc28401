import express, { Router } from 'express';
import sharp from 'sharp';
import { z } from 'zod';
import { UserError } from '../errors.ts';
import { clipTypeOf, ingestPicture, largestClip, largestUpload } from '../ingest.ts';
import type { FileStore } from '../store/files.ts';

const hash = z.string().regex(/^[0-9a-f]{64}$/);
const width = z.coerce.number().int().min(16).max(2048).optional();

export function fileRoutes(files: FileStore): Router {
  const routes = Router();
  const body = express.raw({ limit: largestUpload, type: () => true });

  /** A picture from outside. */
  routes.post('/pictures', body, async (request, response) => {
    const fileName = decodeURIComponent(
      z
        .string()
        .max(2000)
        .parse(request.headers['x-file-name'] ?? 'picture'),
    );
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    response.status(201).json(await ingestPicture(files, bytes, fileName));
  });

  /** A clip from outside, kept as it is; the browser, which has the decoders, has looked at it before. */
  const clipBody = express.raw({ limit: largestClip, type: () => true });
  routes.post('/clips', clipBody, async (request, response) => {
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    const type = clipTypeOf(bytes);
    if (!type) throw new UserError(415, 'This file is not a clip Clyvo can read. Bring in MP4, WebM or MOV.');
    response.status(201).json({ hash: (await files.add(bytes, type)).hash });
  });

  /** Pixels computed by the application itself. */
  routes.post('/files', body, async (request, response) => {
    const type = request.headers['content-type'] ?? '';
    if (type !== 'image/png') throw new UserError(415, 'Only PNG pixels are stored here.');
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    await sharp(bytes)
      .metadata()
      .catch(() => {
        throw new UserError(422, 'The computed picture arrived damaged. Try again.');
      });
    const stored = await files.add(bytes, type);
    response.status(201).json({ hash: stored.hash });
  });

  routes.get('/files/:hash', async (request, response) => {
    const file = files.get(hash.parse(request.params.hash));
    const wanted = width.parse(request.query.width);
    response.set('Cache-Control', 'private, max-age=31536000, immutable');
    if (wanted === undefined) {
      response.type(file.type).sendFile(files.path(file.hash), { dotfiles: 'allow' });
      return;
    }
    const small = await sharp(await files.read(file.hash))
      .resize({ width: wanted, withoutEnlargement: true })
      .webp({ quality: 86 })
      .toBuffer();
    response.type('image/webp').send(small);
  });
  return routes;
}

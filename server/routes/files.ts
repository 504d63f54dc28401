import { Router, type Request } from 'express';
import sharp from 'sharp';
import { z } from 'zod';
import { UserError } from '../errors.ts';
import { ingestDrawing, largestDrawing } from '../ingest-drawing.ts';
import { ingestFont, largestFont } from '../ingest-font.ts';
import { decoding, ingestPicture, largestClip, largestSound, largestUpload, tooLarge } from '../ingest.ts';
import type { FileStore, ReceivedFile } from '../store/files.ts';
import { clipTypeOf, soundTypeOf } from '../type-by-head.ts';

const hash = z.string().regex(/^[0-9a-f]{64}$/);
const width = z.coerce.number().int().min(16).max(2048).optional();

/** The name the sender gave a file. @throws UserError 400 when it is no name */
function fileNameOf(request: Request, otherwise: string): string {
  const given = request.headers['x-file-name'];
  if (given === undefined) return otherwise;
  try {
    return z
      .string()
      .min(1)
      .max(4000)
      .parse(decodeURIComponent(String(given)))
      .normalize('NFC');
  } catch {
    throw new UserError(400, 'The name of this file cannot be read. Rename it and try again.');
  }
}

export function fileRoutes(files: FileStore): Router {
  const routes = Router();
  const receive = (request: Request, most: number, name: string): Promise<ReceivedFile> =>
    files.receive(request, Number(request.headers['content-length'] ?? 0), most, () => tooLarge(name, most));

  /** A picture from outside. */
  routes.post('/pictures', async (request, response) => {
    const name = fileNameOf(request, 'picture');
    const file = await receive(request, largestUpload, name);
    response.status(201).json(await ingestPicture(files, file, name));
  });

  /** Takes in what the browser, which has the decoders, has looked at before; it is kept as it is. */
  const keepAs = (path: string, what: string, most: number, typeOf: (head: Buffer) => string | null, other: string) =>
    routes.post(path, async (request, response) => {
      const name = fileNameOf(request, what);
      const file = await receive(request, most, name);
      const type = typeOf(file.head);
      if (!type) {
        await file.discard();
        throw new UserError(415, `"${name}" is not a ${what} Clyvo can read. Bring in ${other}.`);
      }
      response.status(201).json({ hash: (await file.keep(type)).hash });
    });
  keepAs('/clips', 'clip', largestClip, clipTypeOf, 'MP4, WebM or MOV');
  keepAs('/sounds', 'sound', largestSound, soundTypeOf, 'WAV, MP3, M4A, OGG or FLAC');

  /** A font from outside, kept as it is. */
  routes.post('/fonts', async (request, response) => {
    const name = fileNameOf(request, 'font');
    const file = await receive(request, largestFont, name);
    response.status(201).json(await ingestFont(files, file, name));
  });

  /** A drawing from outside, written anew from what was understood of it. */
  routes.post('/drawings', async (request, response) => {
    const name = fileNameOf(request, 'drawing');
    const file = await receive(request, largestDrawing, name);
    response.status(201).json(await ingestDrawing(files, file, name));
  });

  /** Pixels computed by the application itself. */
  routes.post('/files', async (request, response) => {
    const type = request.headers['content-type'] ?? '';
    if (type !== 'image/png') throw new UserError(415, 'Only PNG pixels are stored here.');
    const file = await receive(request, largestUpload, 'The computed picture');
    const facts = await sharp(file.path)
      .metadata()
      .catch(() => null);
    if (facts?.format !== 'png') {
      await file.discard();
      throw new UserError(422, 'The computed picture arrived damaged. Try again.');
    }
    response.status(201).json({ hash: (await file.keep(type)).hash });
  });

  routes.get('/files/:hash', async (request, response) => {
    const file = files.get(hash.parse(request.params.hash));
    const wanted = width.parse(request.query.width);
    // Only what is given out may be kept by the browser, never an error.
    const keep = { 'Cache-Control': 'private, max-age=31536000, immutable' };
    if (wanted === undefined) {
      await new Promise<void>((resolve, reject) =>
        response
          .type(file.type)
          .sendFile(files.path(file.hash), { dotfiles: 'allow', headers: keep }, (error) =>
            error && !request.destroyed && !response.headersSent ? reject(error) : resolve(),
          ),
      );
      return;
    }
    response
      .type('image/webp')
      .set(keep)
      .send(await smallCopy(files.path(file.hash), wanted));
  });
  return routes;
}

async function smallCopy(path: string, width: number): Promise<Buffer> {
  const damaged = (): never => {
    throw new UserError(422, 'A file of this project is damaged in the data folder. Bring the picture in again.');
  };
  const facts = await sharp(path).metadata().catch(damaged);
  return decoding.take(facts.width * facts.height, () =>
    sharp(path, { failOn: 'none', sequentialRead: true })
      .resize({ width, withoutEnlargement: true })
      .webp({ quality: 86 })
      .toBuffer()
      .catch(damaged),
  );
}

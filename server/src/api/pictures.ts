import express, { Router } from 'express';
import { bodyTypes } from '../access/body-types.js';
import { MOST_BYTES, rasterOf } from '../pictures/decode.js';
import type { ReadingPool } from '../jobs/reading-pool.js';
import { UserError } from '../user-error.js';
import type { Picture } from '@open-kite/contract';
import type { PictureStore } from '../store/pictures.js';

/** Reads an uploaded picture and stores it under its content's hash. */
export async function addPicture(pictures: PictureStore, reading: ReadingPool, bytes: Buffer): Promise<Picture> {
  const { png, source, ...info } = await reading.picture(bytes);
  pictures.add({ ...info, png: Buffer.from(png), source: source && Buffer.from(source) });
  return info;
}

/** Content by hash never changes. */
const FOREVER = 'private, max-age=31536000, immutable';

export function pictureRoutes(pictures: PictureStore, reading: ReadingPool): Router {
  const router = Router();

  // The body is the file itself; its type is found from its content.
  const types = bodyTypes(
    'image/*',
    'application/octet-stream',
    'application/gzip',
    'application/xml',
    'text/xml',
    'text/csv',
    'application/json',
  );
  router.post('/', types, express.raw({ type: () => true, limit: MOST_BYTES }), async (request, response) => {
    const body: unknown = request.body;
    response.status(201).json(await addPicture(pictures, reading, Buffer.isBuffer(body) ? body : Buffer.alloc(0)));
  });

  router.get('/:hash/image', (request, response) => {
    response.set('Cache-Control', FOREVER).type('png').send(pictures.get(request.params.hash).png);
  });

  // The file itself, for vector artwork: nothing in it is run, and it is never shown as a page.
  router.get('/:hash/source', (request, response) => {
    const { source } = pictures.get(request.params.hash);
    if (!source) throw new UserError(404, 'this picture has no source');
    response.set('Cache-Control', FOREVER).set('Content-Disposition', 'attachment').type('text/plain').send(source);
  });

  // Width and height as 32-bit numbers, then RGBA: the exact pixels, whatever a browser does to a PNG.
  router.get('/:hash/pixels', async (request, response) => {
    const { width, height, data } = await rasterOf(pictures.get(request.params.hash).png);
    const head = Buffer.alloc(8);
    head.writeUInt32LE(width, 0);
    head.writeUInt32LE(height, 4);
    response.set('Cache-Control', FOREVER).type('application/octet-stream');
    response.write(head);
    response.end(Buffer.from(data.buffer, data.byteOffset, data.length));
  });

  return router;
}

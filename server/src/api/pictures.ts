import express, { Router } from 'express';
import { decodePicture, hashOf, MOST_BYTES, pngOf, rasterOf } from '../pictures/decode.js';
import { UserError } from '../user-error.js';
import type { Picture } from '@open-kite/contract';
import type { PictureStore } from '../store/pictures.js';

/** Decodes an uploaded picture and stores it under its content's hash. */
export async function addPicture(pictures: PictureStore, bytes: Buffer): Promise<Picture> {
  const decoded = await decodePicture(bytes);
  const hash = hashOf(decoded);
  const { width, height } = decoded.raster;
  const info: Picture = { hash, width, height, kind: decoded.kind };
  pictures.add({ ...info, png: await pngOf(decoded.raster), source: decoded.source ?? null });
  return info;
}

/** Content by hash never changes. */
const FOREVER = 'private, max-age=31536000, immutable';

export function pictureRoutes(pictures: PictureStore): Router {
  const router = Router();

  // The body is the file itself; its type is found from its content.
  router.post('/', express.raw({ type: () => true, limit: MOST_BYTES }), async (request, response) => {
    const body: unknown = request.body;
    response.status(201).json(await addPicture(pictures, Buffer.isBuffer(body) ? body : Buffer.alloc(0)));
  });

  router.get('/:hash/image', (request, response) => {
    response.set('Cache-Control', FOREVER).type('png').send(pictures.get(request.params.hash).png);
  });

  // The file itself, for vector artwork: nothing in it is run, and it is never shown as a page.
  router.get('/:hash/source', (request, response) => {
    const { source } = pictures.get(request.params.hash);
    if (!source) throw new UserError(404, 'this picture is not vector artwork');
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

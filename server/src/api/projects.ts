import express, { Router } from 'express';
import {
  checked,
  ContractError,
  figuresSchema,
  newProjectSchema,
  renameSchema,
  saveSchema,
  shareSchema,
  type Picture,
  type Project,
} from '@open-kite/contract';
import { emptyRecipe, FIRST_PICTURE, parseRecipe, sourcesOf, type Recipe } from '@open-kite/core';
import type { Schema } from 'yup';
import { bodyTypes, jsonBody } from '../access/body-types.js';
import type { PictureStore } from '../store/pictures.js';
import type { ProjectStore, StoredProject } from '../store/projects.js';
import type { DesignPool } from '../jobs/design-pool.js';
import type { ReadingPool } from '../jobs/reading-pool.js';
import { shareOut } from '../projects/share-out.js';
import { understood, UserError } from '../user-error.js';

/** Most bytes of a project archive. */
const MOST_ARCHIVE = '200mb';
/** Most bytes of a packed design. */
const MOST_DESIGN = '64mb';

/** Checks a request. @throws UserError 400 */
export function asked<T>(schema: Schema<T>, value: unknown): T {
  try {
    return checked(schema, value);
  } catch (error) {
    if (error instanceof ContractError) throw new UserError(400, error.message);
    throw error;
  }
}

/** @param designs tells which projects are still being made, and makes what is handed out */
export function projectRoutes(
  projects: ProjectStore,
  pictures: PictureStore,
  reading: ReadingPool,
  designs?: Pick<DesignPool, 'making' | 'archive'>,
): Router {
  const router = Router();
  const json = jsonBody('24mb');
  const answerOf = ({ pictures: hashes, ...project }: StoredProject): Project => ({
    ...project,
    pictures: Object.fromEntries(
      Object.entries(hashes).map(([source, hash]): [string, Picture] => [source, pictures.info(hash)]),
    ),
  });

  /** @throws UserError 404 for a picture that is not stored, 400 where the recipe shows one that is not named */
  const haveAll = (shown: Readonly<Record<string, string>>, recipe: Recipe): void => {
    for (const hash of Object.values(shown)) pictures.info(hash);
    const missing = sourcesOf(recipe).find((source) => !Object.hasOwn(shown, source));
    if (missing) throw new UserError(400, `the recipe shows ${missing}, which is not among the pictures`);
  };

  router.get('/', (_request, response) => {
    response.json(projects.list().map((project) => ({ ...project, making: designs?.making(project.id) ?? false })));
  });

  router.post('/', json, async (request, response) => {
    const body = asked(newProjectSchema, request.body);
    if (body.picture === null) {
      const own = body.recipe ? understood(() => parseRecipe(body.recipe)) : emptyRecipe();
      const shown = body.pictures ?? {};
      haveAll(shown, own);
      response.status(201).json(answerOf(projects.create(body.name.trim(), shown, own)));
      return;
    }
    const picture = pictures.info(body.picture);
    const recipe = body.recipe
      ? understood(() => parseRecipe(body.recipe))
      : await reading.firstRecipe(pictures.get(picture.hash));
    const sources = [...new Set([FIRST_PICTURE, ...sourcesOf(recipe)])];
    const hashes = Object.fromEntries(sources.map((source) => [source, picture.hash]));
    response.status(201).json(answerOf(projects.create(body.name.trim(), hashes, recipe)));
  });

  // An archive as it was taken away: everything in it can be changed again.
  const zip = express.raw({ type: ['application/zip', 'application/octet-stream'], limit: MOST_ARCHIVE });
  router.post('/archive', bodyTypes('application/zip', 'application/octet-stream'), zip, async (request, response) => {
    const body: unknown = request.body;
    if (!Buffer.isBuffer(body) || body.length === 0) throw new UserError(415, 'a project archive must be a ZIP');
    const read = await reading.archive(body);
    const hashes: Record<string, string> = {};
    for (const [source, { png, source: file, ...info }] of Object.entries(read.pictures)) {
      pictures.add({ ...info, png: Buffer.from(png), source: file && Buffer.from(file) });
      hashes[source] = info.hash;
    }
    response
      .status(201)
      .json(answerOf(projects.create(read.name.trim().slice(0, 120) || 'Project', hashes, read.recipe)));
  });

  router.post('/share', json, async (request, response) => {
    const ids = [...new Set(asked(shareSchema, request.body).ids)];
    if (!designs) throw new UserError(503, 'nothing can be shared here');
    // What is not there is said before anything is sent.
    for (const id of ids) projects.pictures(id);
    await shareOut(designs, ids, response);
  });

  router.get('/bin', (_request, response) => {
    response.json(projects.bin());
  });

  router.delete('/bin', (_request, response) => {
    projects.emptyBin();
    response.status(204).end();
  });

  router.delete('/bin/:id', (request, response) => {
    projects.erase(request.params.id);
    response.status(204).end();
  });

  router.get('/:id', (request, response) => {
    response.json(answerOf(projects.get(request.params.id)));
  });

  router.put('/:id', json, (request, response) => {
    const body = asked(saveSchema, request.body);
    const recipe = understood(() => parseRecipe(body.recipe));
    const id = String(request.params['id']);
    const shown = body.pictures ?? projects.pictures(id);
    haveAll(shown, recipe);
    response.json(projects.save(id, { ...body, name: body.name.trim(), recipe }));
  });

  router.delete('/:id', (request, response) => {
    projects.remove(request.params.id);
    response.status(204).end();
  });

  router.post('/:id/restore', (request, response) => {
    projects.restore(request.params.id);
    response.status(204).end();
  });

  router.post('/:id/copy', json, (request, response) => {
    const copied = projects.duplicate(String(request.params['id']));
    response.status(201).json(answerOf(projects.get(copied)));
  });

  router.put('/:id/name', json, (request, response) => {
    projects.rename(String(request.params['id']), asked(renameSchema, request.body).name.trim());
    response.status(204).end();
  });

  router.get('/:id/preview', (request, response) => {
    response.set('Cache-Control', 'private, no-cache').type('png').send(projects.preview(request.params.id));
  });

  router.put('/:id/preview', express.raw({ type: 'image/png', limit: '4mb' }), async (request, response) => {
    const body: unknown = request.body;
    if (!Buffer.isBuffer(body)) throw new UserError(415, 'a preview must be a PNG');
    await reading.checkPreview(body);
    const values: unknown = JSON.parse(request.get('x-figures') ?? '{}');
    projects.setPreview(String(request.params['id']), body, { ...asked(figuresSchema, values) });
    response.status(204).end();
  });

  router.get('/:id/designs/:key', (request, response) => {
    const { id, key } = request.params;
    response.set('Cache-Control', 'private, no-store').type('application/octet-stream').send(projects.design(id, key));
  });

  const packed = express.raw({ type: 'application/octet-stream', limit: MOST_DESIGN });
  router.put('/:id/designs/:key', packed, async (request, response) => {
    const body: unknown = request.body;
    if (!Buffer.isBuffer(body)) throw new UserError(415, 'a design must be packed');
    await reading.checkDesign(body);
    projects.setDesign(String(request.params['id']), String(request.params['key']).slice(0, 80), body);
    response.status(204).end();
  });

  return router;
}

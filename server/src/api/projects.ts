import express, { Router } from 'express';
import { parseRecipe, type Recipe } from '@open-kite/core';
import { array, mixed, number, object, string, ValidationError, type Schema } from 'yup';
import type { PictureStore } from '../store/pictures.js';
import type { HistoryEntry, ProjectStore } from '../store/projects.js';
import { firstRecipeOf } from '../pictures/first-recipe.js';
import { UserError } from '../user-error.js';

const name = string().strict(true).trim().min(1, 'a project needs a name').max(120).required();
const patch = object({
  op: string().oneOf(['add', 'remove', 'replace']).required(),
  path: array(mixed<string | number>().required()).max(12).required(),
});
const created = object({
  name,
  picture: string()
    .matches(/^[0-9a-f]{64}$/, 'picture must be a hash')
    .required(),
  recipe: mixed(),
}).noUnknown();
const whole = number().strict(true).integer().min(0).required();
const saved = object({
  revision: whole,
  name,
  recipe: mixed().required(),
  keep: whole,
  position: whole,
  entries: array(
    object({
      label: string().strict(true).max(80).required(),
      patches: array(patch).max(200).required(),
      inverse: array(patch).max(200).required(),
    }),
  )
    .max(500)
    .required(),
}).noUnknown();
const figures = object({
  stitches: whole,
  threads: whole,
  minutes: number().strict(true).min(0).required(),
}).noUnknown();

function check<T>(schema: Schema<T>, value: unknown): T {
  try {
    return schema.validateSync(value);
  } catch (error) {
    if (error instanceof ValidationError) throw new UserError(400, error.message);
    throw error;
  }
}

function checkRecipe(value: unknown): Recipe {
  try {
    return parseRecipe(value);
  } catch (error) {
    if (error instanceof RangeError) throw new UserError(400, error.message);
    throw error;
  }
}

export function projectRoutes(projects: ProjectStore, pictures: PictureStore): Router {
  const router = Router();
  const json = express.json({ limit: '24mb' });

  router.get('/', (_request, response) => {
    response.json(projects.list());
  });

  router.post('/', json, (request, response) => {
    const body = check(created, request.body);
    const picture = pictures.info(body.picture);
    const recipe = body.recipe ? checkRecipe(body.recipe) : firstRecipeOf(pictures.get(picture.hash));
    response.status(201).json({ ...projects.create(body.name, picture.hash, recipe), picture });
  });

  router.get('/:id', (request, response) => {
    const project = projects.get(request.params.id);
    response.json({ ...project, picture: pictures.info(project.pictureHash) });
  });

  router.put('/:id', json, (request, response) => {
    const body = check(saved, request.body);
    const entries = body.entries as HistoryEntry[];
    response.json(projects.save(String(request.params['id']), { ...body, entries, recipe: checkRecipe(body.recipe) }));
  });

  router.delete('/:id', (request, response) => {
    projects.remove(request.params.id);
    response.status(204).end();
  });

  router.post('/:id/restore', (request, response) => {
    projects.restore(request.params.id);
    response.status(204).end();
  });

  router.get('/:id/preview', (request, response) => {
    response.set('Cache-Control', 'private, no-cache').type('png').send(projects.preview(request.params.id));
  });

  router.put('/:id/preview', express.raw({ type: 'image/png', limit: '4mb' }), (request, response) => {
    const body: unknown = request.body;
    const isPng = Buffer.isBuffer(body) && body.length > 8 && body.readUInt32BE(0) === 0x89504e47;
    if (!isPng) throw new UserError(415, 'a preview must be a PNG');
    const values: unknown = JSON.parse(request.get('x-figures') ?? '{}');
    projects.setPreview(String(request.params['id']), body, check(figures, values));
    response.status(204).end();
  });

  return router;
}

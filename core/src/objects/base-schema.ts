import { boolean, object, string } from 'yup';
import { measure, text } from '../settings/fields.js';

/** Fields every object has. */
export const baseFields = {
  id: text('an id', 40),
  name: string().strict(true).max(120).defined(),
  on: string().strict(true).max(40).nullable().defined(),
  hidden: boolean().strict(true).required(),
  locked: boolean().strict(true).required(),
  group: string().strict(true).max(40).optional(),
};

const part = (name: string) => measure(`place.${name}`, -4000, 4000);
/** An affine map from an object's frame to that of the object it moves with. */
export const placeSchema = object({
  a: part('a'),
  b: part('b'),
  c: part('c'),
  d: part('d'),
  e: part('e'),
  f: part('f'),
})
  .noUnknown('place: not known: ${unknown}')
  .required()
  .test('flat', 'place: nothing is left of the object', ({ a, b, c, d }) => Math.abs(a * d - b * c) > 1e-9);

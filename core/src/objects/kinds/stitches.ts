import { array, object, string } from 'yup';
import { chain, scaleOf } from '../../artwork/matrix.js';
import { measure, namedThread } from '../../settings/fields.js';
import { baseFields, placeSchema } from '../base-schema.js';
import type { StitchesObject } from '../design-object.js';
import { sourceField } from '../source-field.js';
import { objectKind } from './object-kind.js';

/** Threads a list may have. */
const MOST_THREADS = 250;

const schema = object({
  kind: string().required(),
  ...baseFields,
  place: placeSchema,
  source: sourceField(),
  box: object({
    left: measure('box.left', -10_000, 10_000),
    top: measure('box.top', -10_000, 10_000),
    width: measure('box.width', 0, 20_000),
    height: measure('box.height', 0, 20_000),
  })
    .noUnknown('box: not known: ${unknown}')
    .required(),
  threads: array(namedThread().nullable().defined().default(undefined)).required().max(MOST_THREADS),
}).noUnknown('stitches have settings that are not known: ${unknown}');

/** Stitches as a list has them, stitch for stitch. */
export const STITCHES = objectKind<StitchesObject>({
  id: 'stitches',
  name: 'Stitches',
  hint: 'a stitch list, sewn exactly as it is; it can be moved, turned and recoloured',
  schema: schema as never,
  needs: () => [],
  // Stitches that were stretched would be sewn too far apart: they are moved, turned and mirrored only.
  placed: (stitches, by) =>
    Math.abs(scaleOf(by) - 1) > 1e-6 ? undefined : { ...stitches, place: chain(by, stitches.place) },
});

import type { MeasuredCloth } from '@open-kite/core';
import { array, mixed, object, string, type Schema } from 'yup';

/** A fabric of the user's own: a known one, and what was measured on it. Its name is that of the measurements. */
export interface OwnFabric {
  readonly id: string;
  readonly fabric: string;
  readonly hex: string;
  readonly measured: MeasuredCloth;
}

/** A fabric of one's own before it is kept. */
export type NewFabric = Omit<OwnFabric, 'id'>;

const fields = {
  fabric: string().strict(true).required('fabric is missing').max(40),
  hex: string()
    .strict(true)
    .required('hex is missing')
    .matches(/^#[0-9a-f]{6}$/i, 'hex must be a colour like #f4f1ea'),
  // Core checks it, at both ends: its schema is too large to be loaded with the shelf.
  measured: mixed<MeasuredCloth>()
    .required('measured is missing')
    .test('object', 'measured must be an object', (value) => typeof value === 'object'),
};

export const newFabricSchema = object(fields).noUnknown('a fabric has no "${unknown}"') as unknown as Schema<NewFabric>;

export const ownFabricSchema = object({
  id: string().strict(true).required(),
  ...fields,
}) as unknown as Schema<OwnFabric>;

export const ownFabricsSchema = array(ownFabricSchema).required() as unknown as Schema<OwnFabric[]>;

/** A simulated cloth of the practice machine. */
export interface PracticeClothName {
  readonly id: string;
  readonly name: string;
  readonly fabric: string;
}

export const practiceClothsSchema = array(
  object({ id: string().required(), name: string().required(), fabric: string().required() }),
).required() as unknown as Schema<PracticeClothName[]>;

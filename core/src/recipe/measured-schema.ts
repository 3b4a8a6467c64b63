import { array, object, ValidationError } from 'yup';
import { measure, text } from '../settings/fields.js';
import { MOST_PULLS, type MeasuredCloth } from '../stitches/measured-cloth.js';

/** Cloth neither gives nor grows by more than this at one end, in mm. */
const MOST_MM = 3;
/** Longest row that is measured. */
const LONGEST_ROW_MM = 100;

const pull = (name: string) => measure(`cloth.measured.${name}`, -MOST_MM, MOST_MM);

const row = object({
  lengthMm: measure('cloth.measured.lengthMm', 0.3, LONGEST_ROW_MM),
  acrossMm: pull('acrossMm'),
  downMm: pull('downMm'),
  slantMm: pull('slantMm'),
}).noUnknown('cloth.measured.pull: not known: ${unknown}');

/** What was measured on a cloth. */
export const measuredSchema = object({
  name: text('cloth.measured.name'),
  pull: array(row)
    .required()
    .min(1, 'cloth.measured: no length of row was measured')
    .max(MOST_PULLS, `cloth.measured: at most ${MOST_PULLS} lengths of row`)
    .test('rising', 'cloth.measured: lengths of row must rise', (rows) =>
      (rows ?? []).every(({ lengthMm }, i, all) => i === 0 || lengthMm > all[i - 1].lengthMm),
    ),
  pushMm: pull('pushMm'),
  gapMm: measure('cloth.measured.gapMm', 0, 2 * MOST_MM)
    .nullable()
    .defined()
    .default(undefined),
}).noUnknown('cloth.measured: not known: ${unknown}');

/**
 * Checks what a file says was measured on a cloth.
 * @throws RangeError whose message names the figure and what is allowed
 */
export function parseMeasured(value: unknown): MeasuredCloth {
  try {
    return measuredSchema.validateSync(value, { strict: true, abortEarly: true });
  } catch (error) {
    if (error instanceof ValidationError) throw new RangeError(error.message);
    throw error;
  }
}

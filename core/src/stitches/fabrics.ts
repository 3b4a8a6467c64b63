/** A fabric and what it asks of the stitches. */
export interface Fabric {
  readonly id: string;
  readonly name: string;
  readonly hex: string;
  /** Pull compensation on each side of a row, in mm. */
  readonly compensationMm: number;
  readonly stretchPercent: number;
  readonly stabiliser: string;
  readonly topping: string;
  readonly needle: string;
}

const fabric = (
  id: string,
  name: string,
  hex: string,
  compensationMm: number,
  stretchPercent: number,
  stabiliser: string,
  topping: string,
  needle: string,
): Fabric => ({ id, name, hex, compensationMm, stretchPercent, stabiliser, topping, needle });

/** Fabrics the application knows, from still to lively. */
export const FABRICS: readonly Fabric[] = [
  fabric('felt', 'Wool felt', '#e4dccb', 0.1, 1, 'tear-away, light', 'none', '80/12 sharp'),
  fabric('poplin', 'Poplin', '#f3f1ec', 0.15, 2, 'tear-away, medium', 'none', '75/11 sharp'),
  fabric('quilting-cotton', 'Quilting cotton', '#f4f1ea', 0.2, 2, 'tear-away, medium', 'none', '75/11 sharp'),
  fabric('linen', 'Linen', '#e6dcc6', 0.2, 2, 'tear-away, medium', 'none', '80/12 sharp'),
  fabric('twill', 'Cotton twill', '#d9d2c3', 0.2, 2, 'tear-away, medium', 'none', '80/12 sharp'),
  fabric('denim', 'Denim', '#4a5c74', 0.2, 3, 'tear-away, medium', 'none', '90/14 sharp'),
  fabric('canvas', 'Sail canvas', '#e9e1cf', 0.15, 1, 'tear-away, heavy', 'none', '90/14 sharp'),
  fabric('satin-cloth', 'Satin cloth', '#ece4e6', 0.2, 3, 'cut-away, light', 'none', '70/10 sharp'),
  fabric('softshell', 'Softshell', '#3c4650', 0.25, 8, 'cut-away, medium', 'none', '80/12 sharp'),
  fabric('jersey', 'Jersey', '#e8e6e1', 0.35, 25, 'cut-away, medium', 'film', '75/11 ball point'),
  fabric('pique', 'Pique', '#f0efea', 0.35, 20, 'cut-away, medium', 'film', '75/11 ball point'),
  fabric('towelling', 'Towelling', '#f1ece2', 0.35, 10, 'cut-away, medium', 'film', '80/12 ball point'),
  fabric('fleece', 'Fleece', '#c9ced1', 0.45, 20, 'cut-away, heavy', 'film', '80/12 ball point'),
  fabric('stretch', 'Stretch knit', '#dcdde2', 0.45, 60, 'cut-away, heavy', 'film', '70/10 ball point'),
];

/**
 * Looks a fabric up.
 * @throws RangeError if there is none of that name; the message lists those there are.
 */
export function fabricOf(id: string): Fabric {
  const found = FABRICS.find((f) => f.id === id);
  if (!found) throw new RangeError(`fabric: there is no "${id}"; known are ${FABRICS.map((f) => f.id).join(', ')}`);
  return found;
}

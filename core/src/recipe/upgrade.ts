import { PLAIN_LIGHT } from '../picture/light.js';

type Plain = Readonly<Record<string, unknown>>;

const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Brings a recipe of an earlier version up to date: what it did not know takes the value that changes nothing.
 * Anything else is given back as it is.
 */
export function upgradeRecipe(value: unknown): unknown {
  return toVersion4(toVersion3(toVersion2(value)));
}

/** Grain, corners, compensation and overlap of one's own, and travel that is hidden. */
function toVersion4(value: unknown): unknown {
  if (!isPlain(value) || value['version'] !== 3) return value;
  const { stitches, order } = value;
  if (!isPlain(stitches) || !isPlain(order)) return value;
  return {
    ...value,
    version: 4,
    stitches: {
      satinSpacingMm: stitches['spacingMm'],
      pattern: 'brick',
      corners: 'mitre',
      compensationMm: null,
      overlapMm: null,
      ...stitches,
    },
    order: { hideTravel: true, ...order },
  };
}

/** Satin, vector artwork and drawing by hand. */
function toVersion3(value: unknown): unknown {
  if (!isPlain(value) || value['version'] !== 2 || !isPlain(value['pieces'])) return value;
  return { ...value, version: 3, pieces: { satinBelowMm: 0, keepBelowMm: 4, drawn: [], ...value['pieces'] } };
}

/** Masks, light, and decisions on colours and pieces. */
function toVersion2(value: unknown): unknown {
  if (!isPlain(value) || value['version'] !== 1) return value;
  const { picture, colours, pieces } = value;
  if (!isPlain(picture) || !isPlain(colours) || !isPlain(pieces)) return value;
  return {
    ...value,
    version: 2,
    picture: {
      turn: 0,
      mirror: false,
      mask: null,
      keptMasks: [],
      groundHex: null,
      groundTolerance: 3,
      groundEverywhere: false,
      ...picture,
    },
    light: PLAIN_LIGHT,
    colours: { stashOnly: false, distinct: true, decisions: [], ...colours },
    pieces: { decisions: [], ...pieces },
  };
}

import { PLAIN_LIGHT } from '../picture/light.js';
import { toVersion7 } from './to-objects.js';

type Plain = Readonly<Record<string, unknown>>;

const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Brings a recipe of an earlier version up to date: what it did not know takes the value that changes nothing.
 * Anything else is given back as it is.
 */
export function upgradeRecipe(value: unknown): unknown {
  return upgradeRecipeTo(value, 7);
}

/** What leads from one version to the next, from 1 to 2 on. */
const STEPS = [toVersion2, toVersion3, toVersion4, toVersion5, toVersion6, toVersion7];

/** The same up to a version. */
export function upgradeRecipeTo(value: unknown, version: number): unknown {
  return STEPS.slice(0, version - 1).reduce((recipe, step) => step(recipe), value);
}

/** What version 5 said of renderings where nothing was said. */
const NO_RENDERING = {
  values: {},
  threads: {},
  mix: [],
  strokes: [],
  lines: [],
  border: { kind: 'none', widthMm: 3, hex: '#22304a' },
};

/** Changes of a grid by hand. */
function toVersion6(value: unknown): unknown {
  if (!isPlain(value) || value['version'] !== 5 || !isPlain(value['rendering'])) return value;
  return { ...value, version: 6, rendering: { grid: null, ...value['rendering'] } };
}

/** Renderings, and a limit on stitches. */
function toVersion5(value: unknown): unknown {
  if (!isPlain(value) || value['version'] !== 4) return value;
  return { method: 'pieces', rendering: NO_RENDERING, budget: null, ...value, version: 5 };
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

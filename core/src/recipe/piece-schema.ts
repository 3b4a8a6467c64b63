import { MOST_COPIES, type DrawnPiece } from '../pieces/drawn.js';
import { GRADIENT_STOPS } from '../artwork/artwork.js';
import { PIECE_DECISIONS, type PieceDecision } from '../pieces/piece-decisions.js';
import { isStitchKind, STITCH_KINDS } from '../stitches/kinds/index.js';
import { isAllowed } from '../stitches/stitch-kind.js';
import { fabricNamed } from '../stitches/fabrics.js';
import { UNDERLAYS } from '../stitches/underlay.js';

/** Points and paths a drawn piece may have. */
const MOST_NODES = 4000;
const MOST_PATHS = 200;

type Check = (value: unknown) => boolean;

const isNumber =
  (least: number, most: number): Check =>
  (value) =>
    typeof value === 'number' && value >= least && value <= most;
const isText: Check = (value) => typeof value === 'string' && value.length > 0 && value.length <= 80;
const isHex: Check = (value) => typeof value === 'string' && /^#[0-9a-f]{6}$/i.test(value);
const isFlag: Check = (value) => typeof value === 'boolean';
const isKind: Check = isStitchKind;
const isPasses: Check = (value) => value === 0 || value === 1 || value === 2 || value === 3;

/** An object of just these parts. */
const isObject =
  (parts: Readonly<Record<string, Check>>): Check =>
  (value) => {
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
    const given = value as Record<string, unknown>;
    const names = Object.keys(parts);
    return names.every((name) => parts[name](given[name])) && Object.keys(given).every((name) => names.includes(name));
  };

const either =
  (...checks: Check[]): Check =>
  (value) =>
    checks.some((check) => check(value));

const isList =
  (check: Check, least: number, most: number): Check =>
  (value) =>
    Array.isArray(value) && value.length >= least && value.length <= most && value.every(check);

const place = { hex: isHex, u: isNumber(-10, 10), v: isNumber(-10, 10) };
const isPlace = isObject(place);
const isAnchor = isObject({ ...place, share: isNumber(0, 1) });
const isDrawnName = isObject({ drawn: isText });
const isRef = either(isAnchor, isDrawnName);
const isChoice = either(
  isObject({ like: isPlace }),
  isObject({ hex: isHex }),
  isObject({ chart: isText, code: isText }),
);

/** Guide lines a piece may have, and points of one. */
const MOST_GUIDES = 24;
const MOST_GUIDE_POINTS = 200;
const isLine = isList(isNumber(-20, 20), 4, MOST_GUIDE_POINTS * 2);

/** Whether some stitch kind has an option that takes the value; every kind has a fabric, underlay and compensation. */
function isOption(name: string, value: unknown): boolean {
  if (name === 'underlay') return value === 'fabric' || UNDERLAYS.some((underlay) => underlay === value);
  if (name === 'fabric') return fabricNamed(value) !== undefined;
  if (name === 'compensationMm') return isNumber(0, 1)(value);
  return STITCH_KINDS.some(({ options }) => Object.hasOwn(options, name) && isAllowed(options[name], value));
}

const isOptionSet: Check = (value) =>
  typeof value === 'object' &&
  value !== null &&
  !Array.isArray(value) &&
  Object.entries(value).every(([name, option]) => isOption(name, option));

const isStop = isObject({
  at: isNumber(0, 1),
  paint: either(
    isObject({ hex: isHex }),
    isObject({ chart: isText, code: isText }),
    isObject({ bare: (v) => v === true }),
  ),
});

const isGradient: Check = isObject({
  id: isText,
  shape: (value) => value === 'linear' || value === 'radial',
  way: isList(isNumber(-20, 20), 4, 4),
  stops: (value) =>
    isList(isStop, ...GRADIENT_STOPS)(value) &&
    (value as { at: number }[]).every(({ at }, i, all) => i === 0 || at >= all[i - 1].at),
  layers: (value) => value === 'over' || value === 'beside',
});

/** What each part of a decision must be. */
const PARTS: Readonly<Record<string, Check>> = {
  as: isKind,
  passes: isPasses,
  cut: isFlag,
  set: isOptionSet,
  lines: (value) =>
    isList(isLine, 1, MOST_GUIDES)(value) && (value as number[][]).every((line) => line.length % 2 === 0),
  fill: either((value) => value === null, isGradient),
  u: isNumber(-20, 20),
  v: isNumber(-20, 20),
  before: either(isRef, (value) => value === 'first' || value === 'last'),
};

/** Whether something read from outside is a decision on a piece. */
export function isPieceDecision(value: unknown): value is PieceDecision {
  const kind = (value as { kind?: unknown } | null)?.kind;
  if (typeof kind !== 'string' || !Object.hasOwn(PIECE_DECISIONS, kind)) return false;
  const parts: Record<string, Check> = { kind: () => true, at: isRef };
  for (const name of PIECE_DECISIONS[kind as PieceDecision['kind']]) {
    // `to` is a thread of one kind of decision and a piece of the other.
    parts[name] = name === 'to' ? (kind === 'thread' ? isChoice : isRef) : PARTS[name];
  }
  return isObject(parts)(value);
}

const isNode = isList(isNumber(-20, 20), 6, 6);
const isPath = isObject({ closed: isFlag, nodes: isList(isNode, 2, MOST_NODES) });
const isDrawn = isObject({
  id: isText,
  role: (value) => value === 'piece' || value === 'hole',
  paths: isList(isPath, 1, MOST_PATHS),
  widthMm: isNumber(0.1, 20),
  as: either(isKind, (value) => value === 'auto'),
  passes: isPasses,
  paint: isChoice,
  copies: isObject({
    count: (value) => Number.isInteger(value) && isNumber(1, MOST_COPIES)(value),
    radiusMm: isNumber(0, 200),
  }),
  replaces: either(isAnchor, (value) => value === null),
});

/** Whether something read from outside is a piece drawn by hand. */
export function isDrawnPiece(value: unknown): value is DrawnPiece {
  return isDrawn(value);
}

import { RENDER_METHODS } from '../photo/methods/index.js';
import { isAllowed, type OptionValues } from '../stitches/stitch-kind.js';
import type { LineDecision, MixDecision, NamedThread } from './recipe.js';

const MOST_STROKE_NUMBERS = 400;

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isHex = (value: unknown): boolean => typeof value === 'string' && /^#[0-9a-f]{6}$/i.test(value);
const isText = (value: unknown): boolean => typeof value === 'string' && value.length > 0 && value.length <= 80;
const hasOnly = (value: Record<string, unknown>, names: readonly string[]): boolean =>
  Object.keys(value).every((name) => names.includes(name));

/** Whether something read from outside names a thread. */
export function isNamedThread(value: unknown): value is NamedThread {
  if (!isObject(value)) return false;
  if ('hex' in value) return hasOnly(value, ['hex']) && isHex(value['hex']);
  return hasOnly(value, ['chart', 'code']) && isText(value['chart']) && isText(value['code']);
}

/** Whether something read from outside is a decision on a thread of a mix. */
export function isMixDecision(value: unknown): value is MixDecision {
  if (!isObject(value)) return false;
  switch (value['kind']) {
    case 'drop':
    case 'first':
    case 'last':
      return hasOnly(value, ['kind', 'hex']) && isHex(value['hex']);
    case 'swap':
      return hasOnly(value, ['kind', 'hex', 'to']) && isHex(value['hex']) && isNamedThread(value['to']);
    case 'keep':
      return hasOnly(value, ['kind', 'thread']) && isNamedThread(value['thread']);
    default:
      return false;
  }
}

/** Whether something read from outside sets options of renderings, each within its limits. */
export function isRenderValues(value: unknown): value is Record<string, OptionValues> {
  if (!isObject(value)) return false;
  return Object.entries(value).every(([id, options]) => {
    const method = RENDER_METHODS.find((m) => m.id === id);
    return (
      method !== undefined &&
      isObject(options) &&
      Object.entries(options).every(
        ([name, option]) => Object.hasOwn(method.options, name) && isAllowed(method.options[name], option),
      )
    );
  });
}

/** Whether something read from outside is a line of places. */
export const isStroke = (value: unknown): value is readonly number[] =>
  Array.isArray(value) &&
  value.length >= 4 &&
  value.length % 2 === 0 &&
  value.length <= MOST_STROKE_NUMBERS &&
  value.every((v) => typeof v === 'number' && Math.abs(v) <= 20);

const KINDS = ['delete', 'thin', 'recolour'];

/** Whether something read from outside is a change of lines; only what is recoloured names a thread. */
export function isLineDecision(value: unknown): value is LineDecision {
  if (!isObject(value) || !hasOnly(value, ['kind', 'threads', 'area', 'to'])) return false;
  const { kind, threads, area, to } = value;
  const named = Array.isArray(threads) && threads.length <= 60 && threads.every(isHex);
  const placed = Array.isArray(area) && (area.length === 0 || (area.length >= 6 && isStroke(area)));
  return (
    typeof kind === 'string' &&
    KINDS.includes(kind) &&
    named &&
    placed &&
    (kind === 'recolour' ? isNamedThread(to) : to === undefined)
  );
}

import { LIMITS, PIECES_METHOD, renderMethodOf, renderValues, type LimitName, type PictureView } from '@open-kite/core';
import type { Draft } from '../../project/history';

/** A setting that try-outs can differ in. */
export interface Axis {
  readonly id: string;
  readonly label: string;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly unit: string;
  readonly read: (recipe: PictureView) => number;
  readonly write: (recipe: Draft<PictureView>, value: number) => void;
}

const limited = (
  id: LimitName,
  label: string,
  step: number,
  unit: string,
  read: Axis['read'],
  write: Axis['write'],
): Axis => ({ id, label, least: LIMITS[id][0], most: LIMITS[id][1], step, unit, read, write });

const COUNT = (usual: number): Axis =>
  limited(
    'count',
    'Threads at most',
    1,
    '',
    ({ colours }) => (colours.count === 'auto' ? usual : colours.count),
    ({ colours }, value) => (colours.count = Math.round(value)),
  );

/** Settings of a recipe's method that try-outs can be made of. */
export function axesOf(recipe: PictureView, suggestedColours: number): Axis[] {
  const method = recipe.method === PIECES_METHOD ? undefined : renderMethodOf(recipe.method);
  if (!method) {
    return [
      COUNT(suggestedColours),
      limited(
        'spacingMm',
        'Row spacing',
        0.1,
        'mm',
        ({ stitches }) => stitches.spacingMm,
        ({ stitches }, v) => (stitches.spacingMm = v),
      ),
      limited(
        'angle',
        'Row angle',
        30,
        '°',
        ({ stitches }) => stitches.angle,
        ({ stitches }, v) => (stitches.angle = v),
      ),
      limited(
        'smallestMm2',
        'Smallest piece',
        1,
        'mm²',
        ({ pieces }) => pieces.smallestMm2,
        ({ pieces }, v) => (pieces.smallestMm2 = v),
      ),
      limited(
        'satinBelowMm',
        'Satin up to',
        1,
        'mm',
        ({ pieces }) => pieces.satinBelowMm,
        ({ pieces }, v) => (pieces.satinBelowMm = v),
      ),
    ];
  }
  const axes = Object.entries(method.options).flatMap(([name, option]): Axis[] => {
    if (option.type !== 'number') return [];
    const span = option.most - option.least;
    return [
      {
        id: name,
        label: option.label,
        least: option.least,
        most: option.most,
        step: Math.max(option.step, Number((span / 12).toPrecision(1))),
        unit: option.unit,
        read: (r) => Number(renderValues(method, r.rendering.values[method.id] ?? {})[name]),
        write: (r, value) => {
          const values = (r.rendering.values[method.id] ??= {});
          values[name] = value;
          // Millimetres count only where no grade is chosen.
          if ((name === 'spacingMm' || name === 'pitchMm') && method.id === 'rows') values['grade'] = 'own';
        },
      },
    ];
  });
  return method.threads.from === 'mix' || method.threads.from === 'colours'
    ? [COUNT(method.threads.usual), ...axes]
    : axes;
}

/** Three values around the present one, within the limits. */
export function valuesAround(axis: Axis, recipe: PictureView): number[] {
  const now = axis.read(recipe);
  const from = Math.max(axis.least, Math.min(now - axis.step, axis.most - 2 * axis.step));
  return [0, 1, 2].map((k) => Number((from + k * axis.step).toFixed(3)));
}

/**
 * Reads a list of numbers as somebody types it.
 * @returns undefined where something in it is no number or out of the limits
 */
export function parseValues(text: string, axis: Axis): number[] | undefined {
  const parts = text
    .split(/[;,\s]+/)
    .filter((part) => part !== '')
    .map(Number);
  const good = parts.every((value) => Number.isFinite(value) && value >= axis.least && value <= axis.most);
  return good && parts.length > 0 ? [...new Set(parts)] : undefined;
}

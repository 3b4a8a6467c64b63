import { IDENTITY } from '../artwork/matrix.js';
import { hoopToSource, type Placement } from '../picture/frame.js';

type Plain = Readonly<Record<string, unknown>>;

const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const listOf = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);

const PICTURE = 'picture-1';
const BORDER = 'border';

/**
 * Version 7: a recipe of one picture becomes a stack of objects. What was drawn lies on the picture and moves with it,
 * a border is an outline of it, and decisions name the object whose piece they mean.
 */
export function toVersion7(value: unknown): unknown {
  if (!isPlain(value) || value['version'] !== 6) return value;
  const { method, picture, light, colours, pieces, stitches, order, rendering, budget, clothHex, ...rest } = value;
  if (!isPlain(picture) || !isPlain(pieces) || !isPlain(stitches) || !isPlain(rendering)) return value;
  const { decisions, drawn, ...pieceSettings } = pieces;
  const { fabric, ...shared } = stitches;
  const { border, ...renderings } = rendering;
  const idOf = namesFor(listOf(drawn));
  return {
    // What is not known is said to be not known, in any version.
    ...rest,
    version: 7,
    cloth: { fabric, hex: clothHex },
    objects: [
      {
        kind: 'picture',
        id: PICTURE,
        name: '',
        on: null,
        hidden: false,
        locked: false,
        source: PICTURE,
        method,
        picture: { xMm: 0, yMm: 0, beyondHex: null, ...picture },
        light,
        colours,
        pieces: pieceSettings,
        rendering: {
          ...renderings,
          threads: namedThreads(method, renderings['threads']),
          values: fittedTones(renderings['values']),
        },
      },
      ...outlineOf(border),
      ...listOf(drawn).map((shape) => shapeOf(shape, picture, idOf)),
    ],
    decisions: Array.isArray(decisions) ? decisions.map((decision) => renamed(decision, idOf)) : decisions,
    stitches: shared,
    order,
    budget,
  };
}

/** Threads that methods sewed with where none were named: others are usual since, and the colours of a design stay. */
const USUAL_THEN: Plain = {
  rows: ['#22304a'],
  inks: ['#f3c816', '#c8286e', '#1d86b8', '#23262b'],
};

function namedThreads(method: unknown, threads: unknown): unknown {
  if (typeof method !== 'string' || !isPlain(threads) || Object.hasOwn(threads, method)) return threads;
  const then = listOf(Object.hasOwn(USUAL_THEN, method) ? USUAL_THEN[method] : []);
  return then.length > 0 ? { ...threads, [method]: then.map((hex) => ({ hex })) } : threads;
}

/** Tonal rows drew tones together by the darkest and the lightest; that is one of several ways since. */
function fittedTones(values: unknown): unknown {
  if (!isPlain(values) || !isPlain(values['rows'])) return values;
  const { rows } = values;
  const isSet = 'darkest' in rows || 'lightest' in rows;
  return isSet ? { ...values, rows: { tones: 'fitted', ...rows } } : values;
}

/** Ids of drawn pieces as those of objects: one that an object has already gets another. */
function namesFor(drawn: readonly unknown[]): (name: string) => string {
  const taken = new Set([PICTURE, BORDER]);
  const ids = new Map<string, string>();
  for (const shape of drawn) {
    const name = isPlain(shape) && typeof shape['id'] === 'string' ? shape['id'] : '';
    let id = name.slice(0, 36);
    for (let n = 2; taken.has(id); n++) id = `${name.slice(0, 32)}-${n}`;
    taken.add(id);
    if (!ids.has(name)) ids.set(name, id);
  }
  return (name) => ids.get(name) ?? name;
}

function outlineOf(border: unknown): unknown[] {
  if (!isPlain(border) || border['kind'] === 'none') return [];
  const { kind, widthMm, hex, ...rest } = border;
  const base = { id: BORDER, name: '', on: PICTURE, hidden: false, locked: false };
  return [{ kind: 'outline', ...base, ...rest, of: PICTURE, offsetMm: 0, widthMm, as: kind, paint: { hex } }];
}

function shapeOf(shape: unknown, picture: Plain, idOf: (name: string) => string): unknown {
  if (!isPlain(shape)) return shape;
  const { id, copies, replaces, paths, ...rest } = shape;
  const ring = ringOf(copies, picture);
  return {
    kind: 'shape',
    id: typeof id === 'string' ? idOf(id) : id,
    name: '',
    on: PICTURE,
    hidden: false,
    locked: false,
    place: IDENTITY,
    ...rest,
    paths: ring.shift ? shifted(paths, ring.shift) : paths,
    copies: ring.copies,
    replaces: isPlain(replaces) ? { object: PICTURE, anchor: replaces } : replaces,
  };
}

/** Rings were given in mm around the place of the shape, which jumped up to become the first copy: now it starts there. */
function ringOf(copies: unknown, picture: Plain): { copies: unknown; shift?: readonly [number, number] } {
  if (!isPlain(copies)) return { copies };
  const { count, radiusMm, ...rest } = copies;
  const placement = picture as unknown as Placement;
  if (typeof radiusMm !== 'number' || !(placement.widthMm > 0) || !(placement.heightMm > 0)) return { copies };
  const made = { ...rest, count, radius: Math.min(400, radiusMm / placement.widthMm) };
  if (typeof count !== 'number' || count < 2) return { copies: made };
  const from = hoopToSource({ ...placement, mask: null }, 0, 0);
  const to = hoopToSource({ ...placement, mask: null }, 0, -radiusMm);
  return { copies: made, shift: [to.u - from.u, to.v - from.v] };
}

function shifted(paths: unknown, [du, dv]: readonly [number, number]): unknown {
  return listOf(paths).map((path) => {
    if (!isPlain(path)) return path;
    const nodes = listOf(path['nodes']).map((node) =>
      Array.isArray(node) && node.length === 6 ? [Number(node[0]) + du, Number(node[1]) + dv, ...node.slice(2)] : node,
    );
    return { ...path, nodes };
  });
}

/** A decision with its pieces named by their objects. */
function renamed(decision: unknown, idOf: (name: string) => string): unknown {
  if (!isPlain(decision)) return decision;
  const ref = (at: unknown): unknown => {
    if (!isPlain(at)) return at;
    if ('drawn' in at && typeof at['drawn'] === 'string') return drawnRef(at['drawn'], idOf);
    return 'share' in at ? { object: PICTURE, anchor: at } : at;
  };
  const { at, to, before, ...rest } = decision;
  return {
    ...rest,
    at: ref(at),
    ...(to === undefined ? {} : { to: decision['kind'] === 'join' ? ref(to) : to }),
    ...(before === undefined ? {} : { before: ref(before) }),
  };
}

/** `d1`, `d1/2` for its second copy, `border cover` for a step of a border. */
function drawnRef(drawn: string, idOf: (name: string) => string): unknown {
  if (drawn === BORDER) return { object: BORDER };
  if (drawn.startsWith(`${BORDER} `)) return { object: BORDER, part: drawn.slice(BORDER.length + 1) };
  const [base, part] = drawn.split('/');
  return part === undefined ? { object: idOf(base) } : { object: idOf(base), part };
}

import { lazy, mixed, type Schema } from 'yup';
import type { DesignObject } from '../design-object.js';
import { LETTERS } from './letters.js';
import { COPIES } from './copies.js';
import type { ObjectKind } from './object-kind.js';
import { OUTLINE } from './outline.js';
import { PICTURE } from './picture.js';
import { STITCHES } from './stitches.js';
import { SHAPE } from './shape.js';

/** All kinds of objects. A new one is a file beside this one and a line here: everything else reads this list. */
export const OBJECT_KINDS: readonly ObjectKind[] = [PICTURE, SHAPE, LETTERS, OUTLINE, STITCHES, COPIES];

const BY_ID: ReadonlyMap<string, ObjectKind> = new Map(OBJECT_KINDS.map((kind) => [kind.id, kind]));

/** The kind of an object. */
export const kindOf = (object: DesignObject): ObjectKind => BY_ID.get(object.kind) as ObjectKind;

const unknown = mixed<DesignObject>().test('kind', '', (value, context) => {
  const kind = (value as { kind?: unknown } | null | undefined)?.kind;
  const said = typeof kind === 'string' ? `there is no kind of object "${kind.slice(0, 40)}"` : 'an object has no kind';
  return context.createError({ message: `objects: ${said}; known are ${[...BY_ID.keys()].join(', ')}` });
});

/** An object of any kind, read from outside. */
export const objectSchema = lazy((value: unknown): Schema<DesignObject> => {
  const kind = (value as { kind?: unknown } | null)?.kind;
  const known = typeof kind === 'string' ? BY_ID.get(kind) : undefined;
  return (known?.schema ?? unknown) as Schema<DesignObject>;
});

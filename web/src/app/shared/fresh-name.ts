/** The first name after a base, counted from 1, that is not taken yet. */
export function freshName(taken: Iterable<string | undefined>, base: string): string {
  const known = new Set(taken);
  let n = 1;
  while (known.has(`${base}${n}`)) n++;
  return `${base}${n}`;
}

/** The id of a shape that is new among the objects of a design. */
export const freshShapeId = (objects: readonly { readonly id: string }[] = []): string =>
  freshName(
    objects.map(({ id }) => id),
    'd',
  );

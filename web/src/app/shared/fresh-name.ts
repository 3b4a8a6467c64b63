/** The first name after a base, counted from 1, that is not taken yet. */
export function freshName(taken: Iterable<string | undefined>, base: string): string {
  const known = new Set(taken);
  let n = 1;
  while (known.has(`${base}${n}`)) n++;
  return `${base}${n}`;
}

/**
 * Kerning by hand after a text was changed: what was said of letters that are still there stays with them.
 * @param pairs room before a letter in mm, by the letter's place in the text
 */
export function pairsAfter(
  before: string,
  after: string,
  pairs: Readonly<Record<string, number>>,
): Readonly<Record<string, number>> {
  const [old, now] = [before, after].map((text) => [...text.normalize('NFC')]);
  let start = 0;
  while (start < old.length && start < now.length && old[start] === now[start]) start++;
  let end = 0;
  const most = Math.min(old.length, now.length) - start;
  while (end < most && old[old.length - 1 - end] === now[now.length - 1 - end]) end++;
  const moved = Object.entries(pairs).flatMap(([at, mm]): [string, number][] => {
    const place = Number(at);
    if (place < start) return [[at, mm]];
    return place >= old.length - end ? [[String(place + now.length - old.length), mm]] : [];
  });
  return Object.fromEntries(moved);
}

/** Letters of a text between which room can be given by hand: each with the one before it on its line. */
export function kernable(text: string): { readonly place: number; readonly before: string; readonly letter: string }[] {
  const characters = [...text.normalize('NFC')];
  return characters.flatMap((letter, place) => {
    const before = characters[place - 1];
    return before === undefined || /\s/.test(letter) || before === '\n' ? [] : [{ place, before, letter }];
  });
}

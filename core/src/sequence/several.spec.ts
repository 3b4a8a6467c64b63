import { seededRandom } from '../geometry/chance.js';
import { fillOf, firstOfSeveral, layOut } from './several.js';
import { BEGIN_PLACES, END_PLACES, withNeedlePlaces } from './needle-places.js';
import { figuresOf } from './figures.js';
import {
  CHANGE,
  COMMANDS,
  END,
  JUMP,
  NO_PIECE,
  STITCH,
  stitchBounds,
  STOP,
  StitchWriter,
  TRIM,
  type StitchList,
} from './stitch-list.js';

type Row = readonly [command: number, x: number, y: number, thread: number];

function listOf(rows: readonly Row[]): StitchList {
  const writer = new StitchWriter();
  for (const [command, x, y, thread] of rows) writer.add(x, y, command, thread, command === STITCH ? thread : NO_PIECE);
  return writer.finish();
}

/** Two threads and a stop: 10 mm across, 6 mm down. */
const PATCH: readonly Row[] = [
  [JUMP, -5, -3, 0],
  [STITCH, -5, -3, 0],
  [STITCH, 5, -3, 0],
  [TRIM, 5, -3, 0],
  [STOP, 5, -3, 0],
  [JUMP, 5, 3, 0],
  [STITCH, 5, 3, 0],
  [TRIM, 5, 3, 0],
  [CHANGE, 5, 3, 1],
  [JUMP, 0, 0, 1],
  [STITCH, 0, 0, 1],
  [STITCH, 1, 1, 1],
  [TRIM, 1, 1, 1],
  [END, 0, 0, 1],
];

const saidOf = ({ count, command, x, y, thread }: StitchList): string[] =>
  Array.from({ length: count }, (_, i) => `${COMMANDS[command[i]]} ${x[i]} ${y[i]} ${thread[i]}`);

describe('layOut', () => {
  it('sews every thread for all copies before the next, and waits once for all', () => {
    const { stitches } = layOut(listOf(PATCH), { across: 3, down: 2, gapMm: 4 });
    const figures = figuresOf(stitches, 2);
    expect(figures.stitches).toBe(6 * 5);
    expect(figures.threadChanges).toBe(1);
    expect([...stitches.command].filter((c) => c === STOP).length).toBe(1);
    expect(figures.trims).toBe(6 * 3);
    // Three of 10 mm and two gaps of 4 mm; two of 6 mm and one gap.
    expect(stitchBounds(stitches)).toEqual({ left: -5, top: -3, right: 33, bottom: 13 });
  });

  it('goes there and back, so that the needle never travels farther than to the next copy', () => {
    const { stitches } = layOut(listOf(PATCH), { across: 4, down: 3, gapMm: 2 });
    let farthest = 0;
    for (let i = 1; i < stitches.count; i++) {
      if (stitches.command[i] !== JUMP) continue;
      farthest = Math.max(farthest, Math.hypot(stitches.x[i] - stitches.x[i - 1], stitches.y[i] - stitches.y[i - 1]));
    }
    // Across one is 12 mm; inside one the way is 10 mm at most.
    expect(farthest).toBeLessThanOrEqual(12 + 10);
  });

  it('gives the first one back', () => {
    const list = listOf(PATCH);
    for (const several of [
      { across: 2, down: 1, gapMm: 0 },
      { across: 3, down: 3, gapMm: 5 },
    ]) {
      const { stitches } = layOut(list, several);
      expect(saidOf(firstOfSeveral(stitches, several))).toEqual(saidOf(list));
      const begun = withNeedlePlaces(stitches, 'middle', undefined);
      expect(saidOf(firstOfSeveral(begun, several))).toEqual(saidOf(list));
    }
  });

  it('ties and cuts between copies where the list itself does not, and tells where a row went', () => {
    const random = seededRandom(77);
    for (let round = 0; round < 30; round++) {
      const rows: Row[] = [];
      const length = 4 + Math.floor(random() * 30);
      for (let i = 0; i < length; i++) {
        const command = [STITCH, STITCH, STITCH, JUMP, TRIM, CHANGE, STOP][Math.floor(random() * 7)];
        rows.push([command, Math.round(random() * 40), Math.round(random() * 40), Math.floor(random() * 3)]);
      }
      rows.push([END, 0, 0, 0]);
      const list = listOf(rows);
      const several = { across: 1 + Math.floor(random() * 3), down: 2, gapMm: 1 };
      const { stitches, placesOf } = layOut(list, several);
      const needles = ({ command }: StitchList): number => [...command].filter((c) => c === STITCH).length;
      expect(needles(stitches))
        .withContext(`round ${round}`)
        .toBe(needles(list) * several.across * 2);
      expect(needles(firstOfSeveral(stitches, several))).toBe(needles(list));
      rows.forEach(([command, x, y], row) => {
        if (command !== STITCH) return;
        for (const place of placesOf(row)) {
          expect(stitches.command[place.row]).toBe(STITCH);
          expect([stitches.x[place.row], stitches.y[place.row]])
            .withContext(`round ${round}, row ${row}`)
            .toEqual([x + place.x, y + place.y].map(Math.fround));
        }
      });
    }
  });

  it('refuses more stitches than any machine takes', () => {
    const writer = new StitchWriter();
    for (let i = 0; i < 6000; i++) writer.add(i % 50, 0, STITCH, 0, 0);
    expect(() => layOut(writer.finish(), { across: 20, down: 20, gapMm: 0 })).toThrowError(RangeError, /400 times/);
  });
});

describe('fillOf', () => {
  const box = { left: -20, top: -10, right: 20, bottom: 10 };

  it('fills a hoop with as many as there is room for, and no more', () => {
    const hoop = { widthMm: 100, heightMm: 100, round: false };
    expect(fillOf(hoop, box, 10)).toEqual({ across: 2, down: 3, gapMm: 10 });
    expect(fillOf({ ...hoop, widthMm: 89.9 }, box, 10).across).toBe(1);
    expect(fillOf({ ...hoop, widthMm: 30 }, box, 10)).toEqual({ across: 1, down: 3, gapMm: 10 });
  });

  it('keeps the corners of all of them inside a round hoop', () => {
    for (const acrossMm of [60, 100, 120, 180]) {
      const { across, down } = fillOf({ widthMm: acrossMm, heightMm: acrossMm, round: true }, box, 4);
      expect(Math.hypot(across * 44 - 4, down * 24 - 4)).toBeLessThanOrEqual(acrossMm);
    }
    expect(fillOf({ widthMm: 120, heightMm: 120, round: true }, box, 4)).toEqual({ across: 2, down: 3, gapMm: 4 });
  });
});

describe('withNeedlePlaces', () => {
  it('leaves a list as it is where nothing is said', () => {
    const list = listOf(PATCH);
    expect(withNeedlePlaces(list, undefined, undefined)).toBe(list);
  });

  it('begins at every place there is, without a thread, and ends at every other', () => {
    const list = listOf(PATCH);
    const begins = BEGIN_PLACES.slice(1).map(({ id }) => saidOf(withNeedlePlaces(list, id, undefined))[0]);
    expect(begins).toEqual(['jump 0 0 0', 'jump -5 -3 0']);
    const ends = END_PLACES.map(({ id }) => saidOf(withNeedlePlaces(list, undefined, id)).at(-1));
    expect(ends).toEqual(['end 0 0 1', 'end -5 -3 1', 'end -5 -3 1', 'end 1 1 1']);
  });
});

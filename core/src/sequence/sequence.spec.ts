import type { Piece } from '../pieces/piece.js';
import { PLAIN_STITCHES, pieceOf } from '../test/pieces.js';
import { rectangle } from '../test/regions.js';
import { seededRandom } from '../geometry/chance.js';
import { figuresOf, stitchLength, threadRunsOf } from './figures.js';
import { layering, sewingOrder, threadRuns } from './order.js';
import { sewPieces } from './sew.js';
import type { SewSettings } from './sew-settings.js';
import { CHANGE, END, JUMP, STITCH, StitchWriter, TRIM, type StitchList } from './stitch-list.js';

function piece(i: number, thread: number, x: number, y: number, size: number, neighbours: number[] = []): Piece {
  return pieceOf([rectangle(x, y, size, size)], {
    id: `p${i + 1}`,
    thread,
    neighbours: neighbours.map((n) => ({ piece: n, borderMm: size })),
  });
}

const settings: SewSettings = {
  stitches: PLAIN_STITCHES,
  angleStep: 30,
  overlapMm: 0,
  trimOverMm: 3,
  hideTravel: true,
  trims: 'beyond',
  tie: 'line',
};

function sew(pieces: Piece[], order: number[]): StitchList {
  const steps = sewPieces(pieces, order, settings);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

describe('order', () => {
  it('sews the larger of two touching pieces first, and lines over fills', () => {
    const pieces = [
      piece(0, 0, 0, 0, 5, [1]),
      piece(1, 1, 5, 0, 20, [0, 2]),
      { ...piece(2, 0, 0, 20, 30, [1]), kind: 'running', family: 'line' as const },
    ];
    expect(layering(pieces)).toEqual([[1], [], [1]]);
    const order = sewingOrder(pieces, 1);
    expect(order.indexOf(1)).toBe(0);
  });

  it('needs the fewest thread runs the layering allows', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const random = seededRandom(seed);
      const n = 7;
      const links: number[][] = Array.from({ length: n }, () => []);
      for (let a = 0; a < n; a++) {
        for (let b = a + 1; b < n; b++) {
          if (random() >= 0.35) continue;
          links[a].push(b);
          links[b].push(a);
        }
      }
      const pieces = links.map((l, i) => piece(i, Math.floor(random() * 3), i * 30, 0, 5 + random() * 10, l));
      const before = layering(pieces);
      const runs = threadRuns(pieces, before);
      expect(runs.flat().sort()).toEqual([...Array(n).keys()]);
      const seen = new Set<number>();
      for (const i of runs.flat()) {
        for (const b of before[i]) expect(seen.has(b)).withContext(`seed ${seed}`).toBeTrue();
        seen.add(i);
      }
      expect(runs.length).withContext(`seed ${seed}`).toBe(fewestRuns(pieces, before));
    }
  });

  /** Breadth-first search over sets of finished pieces: exact, for small designs. */
  function fewestRuns(pieces: Piece[], before: number[][]): number {
    const all = (1 << pieces.length) - 1;
    let states = new Set([0]);
    for (let runs = 0; ; runs++) {
      if (states.has(all)) return runs;
      const next = new Set<number>();
      for (const state of states) {
        for (let t = 0; t < 3; t++) {
          let done = state;
          for (let again = true; again;) {
            again = false;
            pieces.forEach((p, i) => {
              if (p.thread === t && !(done & (1 << i)) && before[i].every((b) => done & (1 << b))) {
                done |= 1 << i;
                again = true;
              }
            });
          }
          if (done !== state) next.add(done);
        }
      }
      states = next;
    }
  }

  it('takes the nearest piece next inside a run', () => {
    const pieces = [piece(0, 0, 0, 0, 4), piece(1, 0, 100, 0, 4), piece(2, 0, 8, 0, 4)];
    const order = sewingOrder(pieces, 1);
    expect(Math.abs(order.indexOf(0) - order.indexOf(2))).toBe(1);
  });
});

describe('order on several needles', () => {
  /** Seconds between the pieces: a change with its trim, or a trim over a long way. */
  const seconds = (pieces: readonly Piece[], order: readonly number[]): number =>
    order.slice(1).reduce((sum, i, k) => {
      const [a, b] = [pieces[order[k]], pieces[i]];
      const far = Math.hypot(a.anchor.x - b.anchor.x, a.anchor.y - b.anchor.y) > 14;
      return sum + (a.thread !== b.thread ? 15 : far ? 7 : 0);
    }, 0);

  it('changes thread where that saves more trims than it costs, and is never slower than on one', () => {
    // Six far groups of three red pieces and a blue one that has to wait for the first of them.
    const pieces = Array.from({ length: 6 }, (_, g) => [
      piece(g * 2, 0, g * 300, 0, 9, [g * 2 + 1]),
      piece(g * 2 + 1, 1, g * 300 + 10, 0, 8, [g * 2]),
    ]).flat();
    for (const list of [pieces, pieces.slice(0, 6)]) {
      expect(seconds(list, sewingOrder(list, 6))).toBeLessThanOrEqual(seconds(list, sewingOrder(list, 1)));
    }
  });

  it('keeps the layering', () => {
    const touching = [piece(0, 0, 0, 0, 5, [1]), piece(1, 1, 5, 0, 20, [0])];
    expect(sewingOrder(touching, 6)).toEqual([1, 0]);
  });
});

/** Stitches of a tie: beside the run, back there, and along the run. */
const TIE_MM = [0.754, 0.599, 0.764];

describe('sewPieces', () => {
  const list = sew(
    [piece(0, 0, 0, 0, 10), piece(1, 0, 11, 0, 10), piece(2, 0, 60, 0, 10), piece(3, 1, 60, 20, 10)],
    [0, 1, 2, 3],
  );
  const rows = (command: number): number[] => [...list.command.keys()].filter((i) => list.command[i] === command);

  it('cuts the thread on long ways and changes, and nowhere else', () => {
    expect(rows(TRIM).length).toBe(3);
    expect(rows(CHANGE).length).toBe(1);
    expect(rows(JUMP).length).toBe(3);
    expect(rows(END)).toEqual([list.count - 1]);
  });

  it('ties in after every jump and off before every trim with three short stitches', () => {
    for (const jump of rows(JUMP)) {
      expect(list.command[jump + 1]).toBe(STITCH);
      expect(stitchLength(list, jump + 1)).toBe(0);
      for (const [k, mm] of TIE_MM.entries()) expect(stitchLength(list, jump + 2 + k)).toBeCloseTo(mm, 2);
    }
    for (const trim of rows(TRIM)) {
      for (const [k, mm] of TIE_MM.entries()) expect(stitchLength(list, trim - 3 + k)).toBeCloseTo(mm, 2);
    }
  });

  it('never jumps inside a piece', () => {
    for (const jump of rows(JUMP)) {
      const earlier = [...list.piece.subarray(0, jump)];
      expect(earlier).not.toContain(list.piece[jump]);
    }
  });

  it('ends an empty design at once', () => {
    const empty = sew([], []);
    expect(empty.count).toBe(1);
    expect(figuresOf(empty, 0).stitches).toBe(0);
  });
});

describe('figuresOf', () => {
  it('counts and measures what is in the list', () => {
    const writer = new StitchWriter();
    writer.add(0, 0, JUMP, 0, 0);
    writer.add(0, 0, STITCH, 0, 0);
    writer.add(3, 4, STITCH, 0, 0);
    writer.add(3, 4.2, STITCH, 0, 0);
    writer.add(3, 4.2, TRIM, 0, 0xffff);
    writer.add(3, 4.2, CHANGE, 1, 0xffff);
    writer.add(-10, 0, STITCH, 1, 1);
    writer.add(0, 0, END, 1, 0xffff);
    const list = writer.finish();
    const figures = figuresOf(list, 2);
    expect(figures).toEqual(
      jasmine.objectContaining({ stitches: 4, jumps: 1, trims: 1, threadChanges: 1, widthMm: 13, heightMm: 4.2 }),
    );
    expect(figures.longestStitchMm).toBeCloseTo(13.662, 3);
    expect(figures.shortStitchShare).toBe(0.25);
    expect(figures.minutes.oneNeedle).toBeCloseTo(4 / 750 + 7 / 60 + 1, 1);
    expect(figures.threads[0].stitches).toBe(3);
    expect(threadRunsOf(list)).toEqual([
      { thread: 0, from: 0, to: 5, stitches: 3 },
      { thread: 1, from: 5, to: 8, stitches: 1 },
    ]);
  });

  it('keeps what it writes beyond its first room', () => {
    const writer = new StitchWriter();
    for (let i = 0; i < 3000; i++) writer.add(i / 1000, -i / 1000, STITCH, 0, 0);
    const list = writer.finish();
    expect(list.count).toBe(3000);
    expect(list.x[2999]).toBeCloseTo(2.999, 5);
    expect(Object.is(list.y[0], 0)).toBeTrue();
  });
});

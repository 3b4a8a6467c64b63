import {
  densityOf,
  figuresOf,
  ringsOf,
  segmentsOf,
  stitchKindOf,
  stitchLength,
  type Design,
  type Points,
  type Segments,
} from '@open-kite/core';
import { ringCoverage } from '@open-kite/core/testing';

const [STITCH, JUMP, TRIM, CHANGE] = [0, 1, 2, 3];

/** A place worth looking at, in mm, and how bad it is there. */
export interface Spot {
  readonly x: number;
  readonly y: number;
  readonly value: number;
}

/** What a design's stitches are worth, measured on the stitches alone. */
export interface HandFigures {
  readonly sewnMm2: number;
  readonly over4: number;
  readonly over5: number;
  readonly most: Spot;
  /** Needle points, and those with three or more others within 0.2 mm. */
  readonly points: number;
  readonly crowded: number;
  readonly hole: Spot & { readonly longMm: number };
  /** Holes over 0.1 mm2. */
  readonly holes: number;
  readonly stitches: number;
  readonly under05: number;
  readonly trims: number;
  readonly pieces: number;
  readonly sameTrims: number;
  readonly nearTrims: number;
  readonly changes: number;
  readonly minutesMany: number;
}

export function handFigures(design: Design): HandFigures {
  const { stitches: list } = design;
  const segments = segmentsOf(list);
  const { covers, columns, left, top, cellMm } = densityOf(segments);
  let [any, over4, over5, at] = [0, 0, 0, 0];
  covers.forEach((c, i) => {
    if (c > 0.3) any++;
    if (c > 4) over4++;
    if (c > 5) over5++;
    if (c > covers[at]) at = i;
  });
  const figures = figuresOf(list, design.threads.length);
  let [under05, sameTrims, nearTrims] = [0, 0, 0];
  for (let i = 1; i < list.count; i++) {
    const length = stitchLength(list, i);
    if (length > 0 && length < 0.5) under05++;
    if (list.command[i] !== TRIM) continue;
    let next = i + 1;
    while (next < list.count && list.command[next] !== JUMP && list.command[next] !== CHANGE) next++;
    if (next >= list.count || list.command[next] === CHANGE) continue;
    sameTrims++;
    if (Math.hypot(list.x[next] - list.x[i], list.y[next] - list.y[i]) < 5) nearTrims++;
  }
  return {
    sewnMm2: any * cellMm * cellMm,
    over4: over4 * cellMm * cellMm,
    over5: over5 * cellMm * cellMm,
    most: {
      x: left + ((at % columns) + 0.5) * cellMm,
      y: top + (Math.floor(at / columns) + 0.5) * cellMm,
      value: covers[at],
    },
    ...crowding(design),
    ...holesOf(design, segments),
    stitches: figures.stitches,
    under05,
    trims: figures.trims,
    pieces: design.pieces.length,
    sameTrims,
    nearTrims,
    changes: figures.threadChanges,
    minutesMany: figures.minutes.multiNeedle,
  };
}

const NEAR_MM = 0.2;

function crowding({ stitches: list }: Design): { points: number; crowded: number } {
  const cells = new Map<string, number[]>();
  const key = (x: number, y: number): string => `${Math.floor(x / NEAR_MM)} ${Math.floor(y / NEAR_MM)}`;
  let points = 0;
  for (let i = 0; i < list.count; i++) {
    if (list.command[i] !== STITCH) continue;
    points++;
    const k = key(list.x[i], list.y[i]);
    const cell = cells.get(k);
    if (cell) cell.push(i);
    else cells.set(k, [i]);
  }
  let crowded = 0;
  for (let i = 0; i < list.count; i++) {
    if (list.command[i] !== STITCH) continue;
    let others = -1;
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        for (const j of cells.get(key(list.x[i] + dx * NEAR_MM, list.y[i] + dy * NEAR_MM)) ?? []) {
          if (Math.hypot(list.x[j] - list.x[i], list.y[j] - list.y[i]) <= NEAR_MM) others++;
        }
      }
    }
    if (others >= 3) crowded++;
  }
  return { points, crowded };
}

const PER_MM = 12;
/** Places nearer to an edge than this belong to it. */
const EDGE_MM = 0.15;
const HALF_THREAD_MM = 0.2;

/** Pixels that thread covers, over a box. */
export function painted(segments: Segments, left: number, top: number, width: number, height: number): Uint8Array {
  const done = new Uint8Array(width * height);
  const r = HALF_THREAD_MM * PER_MM;
  for (let s = 0; s < segments.count; s++) {
    const [ax, ay, bx, by] = [0, 1, 2, 3].map((k) => (segments.ends[s * 4 + k] - (k % 2 === 0 ? left : top)) * PER_MM);
    const [dx, dy] = [bx - ax, by - ay];
    const square = dx * dx + dy * dy || 1;
    const y1 = Math.min(height - 1, Math.ceil(Math.max(ay, by) + r));
    const x1 = Math.min(width - 1, Math.ceil(Math.max(ax, bx) + r));
    for (let y = Math.max(0, Math.floor(Math.min(ay, by) - r)); y <= y1; y++) {
      for (let x = Math.max(0, Math.floor(Math.min(ax, bx) - r)); x <= x1; x++) {
        const t = Math.min(1, Math.max(0, ((x + 0.5 - ax) * dx + (y + 0.5 - ay) * dy) / square));
        if ((ax + dx * t - x - 0.5) ** 2 + (ay + dy * t - y - 0.5) ** 2 <= r * r) done[y * width + x] = 1;
      }
    }
  }
  return done;
}

/** Bare places inside what is sewn as satin or closed fill. */
function holesOf(design: Design, segments: Segments): { hole: Spot & { longMm: number }; holes: number } {
  const solid = design.pieces.filter(({ kind, family, choices }) => {
    const spacing = choices.values['spacingMm'];
    return family !== 'line' && stitchKindOf(kind).covers && !(typeof spacing === 'number' && spacing > 0.6);
  });
  const none = { hole: { x: 0, y: 0, value: 0, longMm: 0 }, holes: 0 };
  if (solid.length === 0) return none;
  const left = Math.min(...solid.map((p) => p.bounds.left)) - 1;
  const top = Math.min(...solid.map((p) => p.bounds.top)) - 1;
  const width = Math.ceil((Math.max(...solid.map((p) => p.bounds.right)) + 1 - left) * PER_MM);
  const height = Math.ceil((Math.max(...solid.map((p) => p.bounds.bottom)) + 1 - top) * PER_MM);
  const inside = new Uint8Array(width * height);
  for (const piece of solid) {
    const rings = ringsOf(piece).map((ring): Points => ring.map((v, i) => (v - (i % 2 === 0 ? left : top)) * PER_MM));
    ringCoverage(rings, width, height).forEach((c, i) => {
      if (c >= 250) inside[i] = 1;
    });
  }
  const edge = Math.round(EDGE_MM * PER_MM);
  const done = painted(segments, left, top, width, height);
  const bare = new Uint8Array(width * height);
  const isDeep = (i: number): boolean =>
    [edge, -edge, edge * width, -edge * width].every((step) => inside[i + step] === 1);
  for (let i = 0; i < bare.length; i++) bare[i] = inside[i] && !done[i] && isDeep(i) ? 1 : 0;
  let hole = none.hole;
  let holes = 0;
  const queue: number[] = [];
  for (let i = 0; i < bare.length; i++) {
    if (!bare[i]) continue;
    queue.length = 0;
    queue.push(i);
    bare[i] = 0;
    let [x0, x1, y0, y1] = [width, 0, height, 0];
    for (const at of queue) {
      const [x, y] = [at % width, Math.floor(at / width)];
      [x0, x1, y0, y1] = [Math.min(x0, x), Math.max(x1, x), Math.min(y0, y), Math.max(y1, y)];
      for (const next of [at + 1, at - 1, at + width, at - width]) {
        if (!bare[next]) continue;
        bare[next] = 0;
        queue.push(next);
      }
    }
    const area = queue.length / PER_MM ** 2;
    if (area > 0.1) holes++;
    if (area <= hole.value) continue;
    const longMm = Math.hypot(x1 - x0 + 1, y1 - y0 + 1) / PER_MM;
    hole = { x: left + (x0 + x1) / 2 / PER_MM, y: top + (y0 + y1) / 2 / PER_MM, value: area, longMm };
  }
  return { hole, holes };
}

/** mm2 lost at each corner of the ends of a bar, in front of the line its last stitches reach in the middle. */
export function cornersLost(design: Design, box: { x: number; y: number; w: number; h: number }): number {
  const segments = segmentsOf(design.stitches);
  const [width, height] = [Math.ceil(box.w * PER_MM), Math.ceil(box.h * PER_MM)];
  const done = painted(segments, box.x, box.y, width, height);
  let bare = 0;
  const third = Math.floor(width / 3);
  for (const down of [true, false]) {
    const rowOf = (k: number): number => (down ? k : height - 1 - k);
    let first = 0;
    const isSewn = (row: number): boolean => {
      let count = 0;
      for (let x = third; x < width - third; x++) count += done[row * width + x];
      return count > (width - 2 * third) * 0.8;
    };
    while (first < height / 2 && !isSewn(rowOf(first))) first++;
    for (let k = first; k < Math.min(first + width, height / 2); k++) {
      for (let x = 0; x < width; x++) bare += done[rowOf(k) * width + x] ? 0 : 1;
    }
  }
  return bare / PER_MM ** 2 / 4;
}

const FAR_ROWS_MM = 2;

/** Turns from row to row at the edge of fills: all, and those over 0.9 mm. */
export function rowTurns(design: Design): [all: number, long: number] {
  const { stitches: list, pieces } = design;
  let [all, long] = [0, 0];
  for (let i = 2; i + 1 < list.count; i++) {
    const piece = pieces[list.piece[i]];
    if (list.command[i] !== STITCH || list.command[i - 1] !== STITCH || list.command[i + 1] !== STITCH) continue;
    if (piece?.family !== 'area' || list.piece[i - 1] !== list.piece[i]) continue;
    // A turn: what comes before and after it run in opposite directions.
    const [ax, ay] = [list.x[i - 1] - list.x[i - 2], list.y[i - 1] - list.y[i - 2]];
    const [bx, by] = [list.x[i + 1] - list.x[i], list.y[i + 1] - list.y[i]];
    const cosine = (ax * bx + ay * by) / (Math.hypot(ax, ay) * Math.hypot(bx, by) || 1);
    if (cosine > -0.97 || Math.min(Math.hypot(ax, ay), Math.hypot(bx, by)) < 0.6) continue;
    // Rows of an underlay stand far apart.
    if (stitchLength(list, i) > FAR_ROWS_MM) continue;
    all++;
    if (stitchLength(list, i) > 0.9) long++;
  }
  return [all, long];
}

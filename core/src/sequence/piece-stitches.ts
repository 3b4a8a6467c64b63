import { distance, type Points } from '../geometry/vector.js';
import type { Piece } from '../pieces/piece.js';
import { stitchPiece, type Reach, type StitchSettings } from '../stitches/generate.js';
import type { Way } from '../stitches/stitch-kind.js';

/** Stitches of single pieces under what they were made from: a change of one piece makes only that one again. */
export class PieceStitches {
  private before = new Map<string, Points[]>();
  private now = new Map<string, Points[]>();
  /** Pieces made since the last round began. */
  made = 0;

  /** Begins a new design; what neither it nor the one before it used is forgotten. */
  begin(): void {
    this.before = this.now.size > 0 ? this.now : this.before;
    this.now = new Map();
    this.made = 0;
  }

  /** @param angle of its rows, in place of what the settings say of all */
  get(piece: Piece, settings: StitchSettings, angle: number, way: Way, reachKey: string, reach: () => Reach): Points[] {
    const said = `${piece.kind} ${piece.passes} ${angle} ${named(piece.choices)} ${named(settings)} ${JSON.stringify(way)}`;
    const key = `${shapeKey(piece)} ${reachKey} ${said}`;
    let runs = this.now.get(key) ?? this.before.get(key);
    if (!runs) {
      runs = stitchPiece(piece, { ...settings, angle }, way, reach());
      this.made++;
    }
    this.now.set(key, runs);
    return runs;
  }
}

const names = new WeakMap<object, string>();

/** What an object holds, as text; it is the same for hundreds of pieces. */
function named(object: object): string {
  let name = names.get(object);
  if (name === undefined) names.set(object, (name = JSON.stringify(object)));
  return name;
}

const keys = new WeakMap<Piece['outline'], string>();

/** A name for the shape of a piece: equal shapes, equal names. */
export function shapeKey(piece: Piece): string {
  let key = keys.get(piece.outline);
  if (key === undefined) {
    key = `${piece.outline.length} ${hashOf(piece.outline.map(({ points }) => points))}`;
    keys.set(piece.outline, key);
  }
  return piece.family === 'area'
    ? key
    : `${key} ${hashOf([...piece.paths.map(({ points }) => points), ...ladderOf(piece)])}`;
}

/** Columns of one outline differ by how their corners are sewn: their length tells. */
function ladderOf({ columns }: Piece): Points[] {
  return columns.map(({ rungs, spine }) => {
    const n = spine.length;
    return [
      rungs.length,
      distance(rungs[0], rungs[1], rungs[2], rungs[3]),
      spine[0],
      spine[1],
      spine[n - 2],
      spine[n - 1],
    ];
  });
}

/** FNV-1a over coordinates in micrometres, twice with different seeds. */
function hashOf(runs: readonly Points[]): string {
  let a = 0x811c9dc5;
  let b = 0x1b873593;
  let count = 0;
  for (const run of runs) {
    for (const v of run) {
      const n = Math.round(v * 1000);
      a = Math.imul(a ^ n, 0x01000193);
      b = Math.imul(b ^ (n + count), 0x85ebca6b);
      count++;
    }
    a = Math.imul(a ^ run.length, 0x01000193);
  }
  return `${(a >>> 0).toString(36)}${(b >>> 0).toString(36)}${count.toString(36)}`;
}

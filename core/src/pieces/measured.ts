import type { Point, Points } from '../geometry/vector.js';
import type { Centreline } from '../trace/centreline.js';
import type { Columns } from '../trace/columns.js';
import type { Corners } from '../trace/spine-stretches.js';

/** What is known of an area's form; the dear parts are made when somebody asks. */
export interface Measured {
  /** Widest place in mm, and its middle. */
  readonly widestMm: number;
  readonly anchor: Point;
  readonly line: () => Centreline;
  readonly columns: (corners: Corners) => Columns;
  /** Its longer axis. */
  readonly axis: () => Points;
}

/** The same of an area that lies elsewhere. */
export function measuredAt({ widestMm, anchor, line, columns, axis }: Measured, dx: number, dy: number): Measured {
  const moved = (points: Points): Points => points.map((v, i) => v + (i % 2 === 0 ? dx : dy));
  return {
    widestMm,
    anchor: { x: anchor.x + dx, y: anchor.y + dy },
    line: once(() => ({ ...line(), paths: line().paths.map(moved) })),
    columns: oncePer((corners) => {
      const made = columns(corners);
      return {
        ...made,
        columns: made.columns.map((column) => ({
          ...column,
          rungs: moved(column.rungs),
          spine: moved(column.spine),
        })),
      };
    }),
    axis: once(() => moved(axis())),
  };
}

/** Makes something when it is first asked for. */
export function once<T>(work: () => T): () => T {
  let made: { value: T } | undefined;
  return () => (made ??= { value: work() }).value;
}

/** Makes something for each key when it is first asked for. */
export function oncePer<K, T>(work: (key: K) => T): (key: K) => T {
  const made = new Map<K, T>();
  return (key) => {
    let value = made.get(key);
    if (value === undefined) made.set(key, (value = work(key)));
    return value;
  };
}

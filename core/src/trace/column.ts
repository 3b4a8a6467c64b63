import type { Points } from '../geometry/vector.js';

/** A column of satin: a ladder of rungs across a shape. */
export interface Column {
  /** Rungs from the column's start to its end, four numbers each: left end, right end. */
  readonly rungs: Points;
  readonly closed: boolean;
  /** Middle line, from edge to edge: the way the needle takes below the satin. */
  readonly spine: Points;
  /** Whether its start and its end lie at the edge of the shape, and not against another column. */
  readonly free?: readonly [start: boolean, end: boolean];
}

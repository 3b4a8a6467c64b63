// How many tiles are kept, and when they are asked for and told of, in milliseconds: frames come first.

/** Pixels of tiles that are kept, at most. */
export const MOST_KEPT = 1e7;

/** How long the needle must rest before the moment is drawn finely. */
export const REST_MS = 160;
/**
 * How long the scale must rest before sharp tiles are drawn: after a single step hardly at all, while steps follow each
 * other for some frames, so that a zoom on its way asks for none.
 */
export const STILL_MS = 3;
export const ZOOMING_MS = 55;
/** While the cloth is moved, one tile at a time is drawn: frames come first. */
export const MOVING_MS = 90;
/** Tiles that come within this time are painted at once. */
export const TOGETHER_MS = 50;
/** How long a design must rest before the whole of it is drawn small: it takes a worker longer than any tile. */
export const REST_OVERVIEW_MS = 400;

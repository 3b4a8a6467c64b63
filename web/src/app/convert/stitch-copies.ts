import type { StitchList } from '@open-kite/core';

export const copyStitches = ({ count, x, y, command, thread, piece }: StitchList): StitchList => ({
  count,
  x: x.slice(),
  y: y.slice(),
  command: command.slice(),
  thread: thread.slice(),
  piece: piece.slice(),
});

/** What a list is made of, to be handed on without a copy. */
export const buffersOf = ({ x, y, command, thread, piece }: StitchList): ArrayBuffer[] =>
  [x, y, command, thread, piece].map(({ buffer }) => buffer as ArrayBuffer);

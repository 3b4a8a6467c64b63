import { defaultRecipe, type Design, type DesignObject } from '@open-kite/core';
import { smallDesign } from '../../test/rig';
import { PieceNames } from './piece-names';

describe('PieceNames', () => {
  let design: Design;
  const objects: readonly DesignObject[] = defaultRecipe(320, 240).objects;
  /** Another result with the same pieces in another order, made anew. */
  const reversed = (): Design => ({
    ...design,
    pieces: [...design.pieces].reverse().map((piece, i) => ({ ...piece, partOf: i })),
  });

  beforeAll(async () => (design = await smallDesign()));

  it('calls pieces by the colour of their thread and a number', () => {
    const names = new PieceNames();
    const all = design.pieces.map((_, i) => names.nameOf(design, i, objects));
    expect(new Set(all).size).toBe(design.pieces.length);
    for (const name of all) expect(name).toMatch(/^[A-Z][a-z ]+ \d+$/);
  });

  it('keeps them for the same pieces of another result', () => {
    const names = new PieceNames();
    const all = design.pieces.map((_, i) => names.nameOf(design, i, objects));
    const other = reversed();
    expect(other.pieces.map((_, i) => names.nameOf(other, i, objects))).toEqual([...all].reverse());
    expect(design.pieces.map((_, i) => names.nameOf(design, i, objects))).toEqual(all);
  });

  it('says another colour for another thread, and never one name for two', () => {
    const names = new PieceNames();
    const before = design.pieces.map((_, i) => names.nameOf(design, i, objects));
    const red: Design = { ...reversed(), threads: design.threads.map((thread) => ({ ...thread, hex: '#c21f26' })) };
    const after = red.pieces.map((_, i) => names.nameOf(red, i, objects));
    expect(new Set(after).size).toBe(after.length);
    for (const name of after) expect(name).toMatch(/^Red \d+$/);
    expect(before.some((name) => after.includes(name))).toBeFalse();
  });
});

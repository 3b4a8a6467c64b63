import { defaultRecipe } from '@open-kite/core';
import { change, redo, undo, type Timeline } from './history';

const start = (): Timeline => ({ recipe: defaultRecipe(100, 100), entries: [], position: 0, shared: 0 });
const angle = (line: Timeline, value: number, joined = false): Timeline =>
  change(line, 'row angle', (r) => (r.stitches.angle = value), joined);

/** Seeded random numbers, for the long walk below. */
const chance = (seed: number) => (): number => {
  seed = (seed * 1664525 + 1013904223) >>> 0;
  return seed / 4294967296;
};

describe('history', () => {
  it('undoes and redoes', () => {
    const one = angle(start(), 40);
    const two = change(one, 'row spacing', (r) => (r.stitches.spacingMm = 0.7), false);
    const back = undo(undo(two));
    expect(back.recipe).toEqual(start().recipe);
    expect(redo(redo(back)).recipe).toEqual(two.recipe);
    expect(undo(back)).toBe(back);
    expect(redo(two)).toBe(two);
  });

  it('makes one entry of a slider on its way, holding only where it ended', () => {
    let line = angle(start(), 21);
    for (let v = 22; v <= 60; v++) line = angle(line, v, true);
    expect(line.entries.length).toBe(1);
    expect(line.entries[0].patches.length).toBe(1);
    expect(undo(line).recipe.stitches.angle).toBe(20);
    expect(redo(undo(line)).recipe.stitches.angle).toBe(60);
  });

  it('does not join another setting, nor what was undone', () => {
    const line = angle(angle(start(), 30), 40);
    expect(line.entries.length).toBe(2);
    const branched = angle(undo(line), 50, true);
    expect(branched.entries.length).toBe(2);
    expect(undo(branched).recipe.stitches.angle).toBe(30);
  });

  it('knows what the server no longer holds', () => {
    const saved: Timeline = { ...angle(angle(start(), 30), 40), shared: 2 };
    expect(angle(saved, 50).shared).toBe(2);
    expect(angle(saved, 50, true).shared).toBe(1);
    expect(angle(undo(saved), 50).shared).toBe(1);
  });

  it('stays the same where a change changes nothing', () => {
    const line = angle(start(), 30);
    expect(angle(line, 30)).toBe(line);
  });

  it('comes back to every earlier state after a long walk of changes', () => {
    const random = chance(7);
    let line = start();
    const seen: string[] = [JSON.stringify(line.recipe)];
    for (let i = 0; i < 200; i++) {
      line = change(
        line,
        `step ${i}`,
        (r) => {
          const [picture] = r.objects;
          if (picture.kind !== 'picture') return;
          if (random() < 0.3) picture.colours.count = random() < 0.5 ? 'auto' : 1 + Math.floor(random() * 60);
          else if (random() < 0.5) picture.colours.charts = random() < 0.5 ? ['a'] : ['b', 'c'];
          else picture.picture.widthMm = 10 + Math.floor(random() * 300);
        },
        false,
      );
      if (line.entries.length === seen.length) seen.push(JSON.stringify(line.recipe));
    }
    for (let i = seen.length - 1; i > 0; i--) {
      expect(JSON.stringify(line.recipe)).toBe(seen[i]);
      line = undo(line);
    }
    for (const state of seen.slice(1)) {
      line = redo(line);
      expect(JSON.stringify(line.recipe)).toBe(state);
    }
  });
});

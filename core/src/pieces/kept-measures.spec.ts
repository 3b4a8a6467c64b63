import { rectangle } from '../test/regions.js';
import { measureForm, type Form } from './kept-measures.js';
import type { Measured } from './measured.js';

describe('measureForm', () => {
  it('measures a form that comes again once, another place or line of it anew, and lets go of what is large', () => {
    let times = 0;
    const made = {} as Measured;
    const measure = (): Measured => (times++, made);
    const form = (x: number, widthMm?: number): Form => ({
      rings: [rectangle(x, 3, 4, 9.125)],
      line: widthMm === undefined ? undefined : { widthMm, paths: [] },
    });
    for (const area of [form(0), form(0), form(0.001), form(0, 1), form(0, 1.2), form(0, 1)])
      measureForm(area, measure);
    expect(times).toBe(4);
    const large = (x: number): Form => ({ rings: [rectangle(x, 0, 300, 300)], line: undefined });
    for (const x of [0, 1, 0]) measureForm(large(x), measure);
    expect(times).toBe(7);
    measureForm(large(0), measure);
    expect(times).toBe(7);
  });
});

import { hiddenFaces } from './hidden-faces.js';

describe('what matters most, and is too small for its rows', () => {
  const ring = (high: number): number[] => [0, 0, 20, 0, 20, high, 0, high];

  it('is said with its size and its place, from fewer rows on than show eyes and mouth', () => {
    const [problem, ...others] = hiddenFaces([ring(24), ring(31)], 1.2);
    expect(others).toEqual([]);
    expect(problem.text).toContain('24 mm high');
    expect(problem.text).toContain('From 30 mm on');
    expect([problem.x, problem.y]).toEqual([10, 12]);
  });

  it('is large enough where rows are closer', () => {
    expect(hiddenFaces([ring(24)], 0.9)).toEqual([]);
    expect(hiddenFaces([], 1.2)).toEqual([]);
  });
});

import { freshName } from './fresh-name';

describe('freshName', () => {
  it('fills the first gap, and counts from 1', () => {
    expect(freshName([], 'd')).toBe('d1');
    expect(freshName(['d1', undefined, 'd3', 'group-2'], 'd')).toBe('d2');
    expect(freshName(['group-1'], 'group-')).toBe('group-2');
  });
});

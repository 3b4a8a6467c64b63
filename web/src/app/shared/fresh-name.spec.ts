import { freshName, freshShapeId } from './fresh-name';

describe('freshName', () => {
  it('fills the first gap, and counts from 1', () => {
    expect(freshName([], 'd')).toBe('d1');
    expect(freshName(['d1', undefined, 'd3', 'group-2'], 'd')).toBe('d2');
    expect(freshName(['group-1'], 'group-')).toBe('group-2');
  });
});

describe('freshShapeId', () => {
  it('is new among the objects, and there without any', () => {
    expect(freshShapeId([{ id: 'd1' }, { id: 'picture-1' }])).toBe('d2');
    expect(freshShapeId()).toBe('d1');
  });
});

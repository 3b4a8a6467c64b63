import { toEnd, toEndWithPauses } from './pauses.js';

describe('steps', () => {
  function* counting(to: number): Generator<number, string> {
    for (let k = 1; k <= to; k++) yield k / to;
    return `counted to ${to}`;
  }

  it('are taken to their end at once', () => {
    expect(toEnd(counting(3))).toBe('counted to 3');
    expect(toEnd(counting(0))).toBe('counted to 0');
  });

  it('are taken with a pause after each', async () => {
    const shares: number[] = [];
    const end = await toEndWithPauses(counting(4), async (share) => void shares.push(share));
    expect(end).toBe('counted to 4');
    expect(shares).toEqual([0.25, 0.5, 0.75, 1]);
  });

  it('go no further once a pause stops them', async () => {
    const shares: number[] = [];
    const stopped = toEndWithPauses(counting(4), async (share) => {
      shares.push(share);
      if (share === 0.5) throw new Error('stopped');
    });
    await expectAsync(stopped).toBeRejectedWithError('stopped');
    expect(shares).toEqual([0.25, 0.5]);
  });
});

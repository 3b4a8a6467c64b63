import sharp from 'sharp';
import { createReadingPool, type ReadingPool } from './reading-pool.js';

const picture = (width: number, height: number): Promise<Buffer> =>
  sharp({ create: { width, height, channels: 3, background: '#204060' } })
    .png()
    .toBuffer();

describe('the reading pool', () => {
  let pool: ReadingPool;
  afterEach(() => pool.close());

  it('reads pictures side by side, and says of each what is wrong with it', async () => {
    pool = createReadingPool();
    const good = await picture(30, 20);
    const bad = Buffer.from('no picture');
    const results = await Promise.allSettled([good, bad, good, bad, good].map((bytes) => pool.picture(bytes)));
    expect(results.map(({ status }) => status).join()).toBe('fulfilled,rejected,fulfilled,rejected,fulfilled');
    const [first, second] = results;
    if (first?.status !== 'fulfilled' || second?.status !== 'rejected') throw new Error('not as expected');
    expect([first.value.width, first.value.height, first.value.kind]).toEqual([30, 20, 'raster']);
    expect(second.reason).toEqual(jasmine.objectContaining({ status: 422, name: 'UserError' }));
    const recipe = await pool.firstRecipe(first.value);
    expect(recipe.objects.length).toBe(1);
  });

  it('reads an upload once: the recipe it starts with is kept for a while', async () => {
    pool = createReadingPool();
    pool.getReady();
    const read = await pool.picture(await picture(30, 20));
    // Without its pixels nobody could read it again.
    const bare = { ...read, png: new Uint8Array(0) };
    expect((await pool.firstRecipe(bare)).objects.length).toBe(1);
    for (let i = 1; i <= 16; i++) await pool.picture(await picture(30 + i, 20));
    await expectAsync(pool.firstRecipe(bare)).toBeRejected();
    expect(await pool.firstRecipe(read)).toEqual(await pool.firstRecipe(read));
  });

  it('stops what takes too long, and goes on with the next', async () => {
    pool = createReadingPool([1, 60_000]);
    await expectAsync(pool.picture(await picture(900, 900))).toBeRejectedWithError(/takes too long/);
    // Large pictures have more time, and the thread that was stopped is replaced.
    const large = await pool.picture(await picture(3200, 2600));
    expect(large.width).toBe(3200);
  });

  it('keeps the server free meanwhile', async () => {
    pool = createReadingPool();
    const large = await picture(3200, 2600);
    await pool.picture(await picture(10, 10));
    let longest = 0;
    let last = performance.now();
    const timer = setInterval(() => {
      const now = performance.now();
      longest = Math.max(longest, now - last);
      last = now;
    }, 5);
    const from = performance.now();
    await pool.picture(large);
    clearInterval(timer);
    // Read on the server's own thread, it would take all of the time.
    expect(longest).toBeLessThan(Math.max(250, (performance.now() - from) / 2));
  });

  it('throws packed designs and previews back that are none', async () => {
    pool = createReadingPool();
    await expectAsync(pool.checkDesign(Buffer.from('nonsense'))).toBeRejectedWithError(/cannot be read/);
    await expectAsync(pool.checkPreview(Buffer.from('nonsense'))).toBeRejectedWithError(/must be a PNG/);
    const png = await picture(40, 30);
    await expectAsync(pool.checkPreview(png)).toBeResolved();
    await expectAsync(pool.checkPreview(png.subarray(0, 50))).toBeRejectedWithError(/damaged/);
    await expectAsync(pool.checkPreview(Buffer.concat([png.subarray(0, 8), Buffer.alloc(99)]))).toBeRejected();
    await expectAsync(pool.checkPreview(await picture(2000, 2000))).toBeRejectedWithError(/too large/);
  });
});

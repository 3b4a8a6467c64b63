import type { MachineJob, OwnFabric } from '@open-kite/contract';
import {
  convert,
  fabricOf,
  findCorners,
  learnCloth,
  measureSewn,
  overlayOf,
  placesOf,
  testCard,
  writeStitchList,
  type MeasuredCloth,
} from '@open-kite/core';
import { decodePicture } from './pictures/decode.js';
import { serve, type RunningServer } from './serve.js';
import { asking } from './test/asking.js';

const MINE: MeasuredCloth = {
  name: 'Fair shirt',
  pull: [{ lengthMm: 4, acrossMm: 0.5, downMm: 0.3, slantMm: 0.4 }],
  pushMm: 0.3,
  gapMm: null,
};

describe('fabrics of the user', () => {
  let server: RunningServer;
  beforeAll(async () => (server = await serve({ port: 0, data: ':memory:', logLevel: 'silent' })));
  afterAll(() => server.close());

  const ask = asking(() => server.address);
  const names = async (): Promise<string[]> =>
    ((await ask('GET', '/fabrics')).body as OwnFabric[]).map(({ measured }) => measured.name);

  it('are kept, changed, taken out and put back', async () => {
    const made = await ask('POST', '/fabrics', { fabric: 'jersey', hex: '#e8e6e1', measured: MINE });
    expect(made.status).toBe(201);
    const { id, ...kept } = made.body as OwnFabric;
    expect(kept).toEqual({ fabric: 'jersey', hex: '#e8e6e1', measured: MINE });
    await ask('POST', '/fabrics', { ...kept, measured: { ...MINE, name: 'Apron' } });
    expect(await names()).toEqual(['Apron', 'Fair shirt']);
    const renamed = await ask('PUT', `/fabrics/${id}`, { ...kept, measured: { ...MINE, name: 'Zip top' } });
    expect(renamed.status).toBe(200);
    expect(await names()).toEqual(['Apron', 'Zip top']);
    expect((await ask('DELETE', `/fabrics/${id}`)).status).toBe(204);
    expect(await names()).toEqual(['Apron']);
    expect((await ask('POST', `/fabrics/${id}/restore`)).status).toBe(204);
    expect(await names()).toEqual(['Apron', 'Zip top']);
  });

  it('are refused with what is wrong', async () => {
    const refused: readonly [unknown, RegExp][] = [
      [{ fabric: 'paper', hex: '#ffffff', measured: MINE }, /no "paper"/],
      [{ fabric: 'jersey', hex: 'white', measured: MINE }, /colour like/],
      [{ fabric: 'jersey', hex: '#ffffff', measured: { ...MINE, pushMm: 12 } }, /at most 3/],
      [{ fabric: 'jersey', hex: '#ffffff' }, /measured is missing/],
      [{ fabric: 'jersey', hex: '#ffffff', measured: MINE, more: 1 }, /more/],
    ];
    for (const [body, message] of refused) {
      const { status, body: answer } = await ask('POST', '/fabrics', body);
      expect(status).toBe(400);
      expect((answer as { error: string }).error).toMatch(message);
    }
    expect((await ask('PUT', '/fabrics/none', { fabric: 'jersey', hex: '#ffffff', measured: MINE })).status).toBe(404);
    expect((await ask('DELETE', '/fabrics/none')).status).toBe(404);
  });

  it('are learnt from a card that the practice machine has sewn and photographed', async () => {
    const card = await convert({
      recipe: testCard({ fabric: 'jersey', hex: fabricOf('jersey').hex }),
      pictures: {},
      charts: [],
    });
    await ask('PUT', '/machine', { needles: 1, hoop: '130x180', speed: 1000, timeScale: 100_000 });
    const sent = await fetch(`${server.address}/api/machine/jobs`, {
      method: 'POST',
      headers: { 'content-type': 'text/csv' },
      body: writeStitchList(card),
    });
    const { id } = (await sent.json()) as { id: string };
    expect((await ask('GET', `/machine/jobs/${id}/photo?cloth=fair-shirt`)).status).toBe(409);
    await ask('POST', `/machine/jobs/${id}/actions`, { action: 'start' });
    for (let i = 0; i < 200; i++) {
      if (((await ask('GET', `/machine/jobs/${id}`)).body as MachineJob).state === 'done') break;
      await new Promise((resolve) => setTimeout(resolve, 25));
    }
    expect((await ask('GET', `/machine/jobs/${id}/photo?cloth=paper`)).status).toBe(400);
    expect((await ask('GET', `/machine/jobs/${id}/photo?cloth=fair-shirt&seed=x`)).status).toBe(400);
    const photo = await fetch(`${server.address}/api/machine/jobs/${id}/photo?cloth=fair-shirt&seed=9`);
    expect(photo.headers.get('content-type')).toBe('image/png');
    const { raster } = await decodePicture(Buffer.from(await photo.arrayBuffer()));
    const corners = findCorners(card, raster);
    if (!corners) return fail('no corners');
    const learnt = learnCloth('Fair shirt', measureSewn(card, raster, overlayOf(placesOf(card), corners)));
    const seven = learnt?.pull.find(({ lengthMm }) => Math.abs(lengthMm - 7) < 0.3);
    expect(seven?.acrossMm).toBeGreaterThan((seven?.downMm ?? 0) + 0.15);
    const cloths = (await ask('GET', '/machine/cloths')).body as { id: string; fabric: string }[];
    expect(cloths.find((cloth) => cloth.id === 'fair-shirt')?.fabric).toBe('jersey');
    // How they give is for the card to find out.
    expect(Object.keys(cloths[0] ?? {}).sort()).toEqual(['fabric', 'id', 'name']);
  });
});

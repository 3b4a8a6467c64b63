import type { StashEntry } from '@open-kite/core';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { serve, type RunningServer } from './serve.js';
import { asking } from './test/asking.js';
import type { CupboardChart } from '@open-kite/contract';

const thread = (code: string, hex = '#112233') => ({ code, name: `Thread ${code}`, hex, weight: 40, finish: 'plain' });

describe('the cupboard', () => {
  let server: RunningServer;

  beforeAll(async () => (server = await serve({ port: 0, data: ':memory:', logLevel: 'silent' })));
  afterAll(() => server.close());

  const ask = asking(() => server.address);
  const charts = async (): Promise<CupboardChart[]> => (await ask('GET', '/charts')).body as CupboardChart[];
  const create = async (name: string): Promise<CupboardChart> =>
    (await ask('POST', '/charts', { name, threads: [thread('A')] })).body as CupboardChart;

  it('shows shipped charts first; they cannot be changed', async () => {
    const all = await charts();
    expect(all.map((c) => [c.id, c.own]).slice(0, 3)).toEqual([
      ['dunegrass', false],
      ['lanternsilk', false],
      ['saltline', false],
    ]);
    expect((await ask('PUT', '/charts/saltline', { revision: 1, name: 'Mine', threads: [] })).status).toBe(404);
    expect((await ask('DELETE', '/charts/saltline')).status).toBe(404);
  });

  it('takes off the drawer what was sewn: metres first, then spools, and gives them back', async () => {
    const entry = { chart: 'saltline', code: 'SL-0101', spools: 3, lowAt: 1 };
    await ask('PUT', '/stash', { entries: [entry] });
    const sew = async (metres: number, code = entry.code): Promise<number | undefined> => {
      const threads = [{ chart: 'saltline', code, metres }];
      const { status, body } = await ask('POST', '/stash/sewn', { threads, spoolM: 1000 });
      expect(status).toBe(200);
      return (body as StashEntry[]).find((each) => each.code === entry.code)?.spools;
    };
    expect(await sew(600)).toBe(3);
    expect(await sew(600)).toBe(2);
    // What was taken by mistake is given back, spool and all.
    expect(await sew(-600)).toBe(3);
    expect(await sew(300)).toBe(3);
    expect(await sew(100)).toBe(2);
    expect(await sew(50_000)).toBe(0);
    expect(await sew(5, 'not in the drawer')).toBe(0);
    for (const body of [{}, { threads: [], spoolM: 0 }, { threads: [{ chart: 'a', code: 'b' }], spoolM: 1000 }]) {
      expect((await ask('POST', '/stash/sewn', body)).status).toBe(400);
    }
    await ask('PUT', '/stash', { entries: [{ ...entry, spools: 0, lowAt: 0 }] });
  });

  it('makes a chart, saves it, and refuses a save that is stale', async () => {
    const chart = await create('Jacket');
    expect(chart.own).toBeTrue();
    const content = { name: 'Jacket, lined', threads: [thread('B'), thread('A', '#445566')] };
    const saved = await ask('PUT', `/charts/${chart.id}`, { ...content, revision: chart.revision });
    expect(saved.body).toEqual(jasmine.objectContaining({ ...content, revision: 2 }));
    const stale = await ask('PUT', `/charts/${chart.id}`, { ...content, revision: 1 });
    expect([stale.status, (stale.body as { revision: number }).revision]).toEqual([409, 2]);
    expect((await charts()).find((c) => c.id === chart.id)?.threads.map((t) => t.code)).toEqual(['B', 'A']);
  });

  it('refuses bad charts with one sentence, and keeps what there was', async () => {
    const chart = await create('Kept');
    const bad: [unknown, string][] = [
      [{ revision: 1, name: '', threads: [] }, 'a chart needs a name'],
      [{ revision: 1, name: 'x', threads: [thread('A'), thread('A')] }, 'the code "A" is used twice'],
      [{ revision: 1, name: 'x', threads: [thread('A', 'teal')] }, '"teal" is not a colour like #1f2d2c'],
      [{ revision: 'one', name: 'x', threads: [] }, 'a chart is saved with the revision it was read with'],
      [{ revision: 1, name: 'x', threads: [], owner: 'me' }, 'a chart has no "owner"'],
    ];
    for (const [body, message] of bad) {
      const answer = await ask('PUT', `/charts/${chart.id}`, body);
      expect([answer.status, (answer.body as { error: string }).error]).toEqual([400, message]);
    }
    expect((await charts()).find((c) => c.id === chart.id)).toEqual(chart);
  });

  it('takes a chart out, still knows it for projects that use it, and puts it back', async () => {
    const chart = await create('Gone');
    expect((await ask('DELETE', `/charts/${chart.id}`)).status).toBe(204);
    expect((await charts()).at(-1)).toEqual({ ...chart, deleted: true });
    expect((await ask('POST', `/charts/${chart.id}/restore`)).status).toBe(204);
    expect((await charts()).find((c) => c.id === chart.id)?.deleted).toBeFalse();
    expect((await ask('POST', '/charts/own-none/restore')).status).toBe(404);
  });

  it('counts spools, all entries of a request or none', async () => {
    const set = (entries: unknown): Promise<{ status: number; body: unknown }> => ask('PUT', '/stash', { entries });
    const entry = (code: string, spools: number, lowAt = 0): StashEntry => ({ chart: 'saltline', code, spools, lowAt });
    expect((await set([entry('SL-1', 3, 1), entry('SL-2', 1)])).body).toEqual([entry('SL-1', 3, 1), entry('SL-2', 1)]);
    expect((await set([entry('SL-1', 9), entry('SL-2', -4)])).status).toBe(400);
    expect((await set([entry('SL-1', 9), { code: 'SL-2', spools: 1, lowAt: 0 }])).status).toBe(400);
    expect((await set('all')).status).toBe(400);
    expect((await ask('GET', '/stash')).body).toEqual([entry('SL-1', 3, 1), entry('SL-2', 1)]);
    expect((await set([entry('SL-2', 0)])).body).toEqual([entry('SL-1', 3, 1)]);
    expect((await set([entry('SL-1', 0, 2)])).body).toEqual([entry('SL-1', 0, 2)]);
  });

  it('is all there after a restart', async () => {
    const data = mkdtempSync(join(tmpdir(), 'open-kite-cupboard-'));
    try {
      const first = await serve({ port: 0, data, logLevel: 'silent' });
      const { id } = first.stores.cupboard.create({ name: 'Winter', threads: [thread('W-1')] });
      first.stores.cupboard.setStash([{ chart: id, code: 'W-1', spools: 2, lowAt: 1 }]);
      await first.close();
      const second = await serve({ port: 0, data, logLevel: 'silent' });
      expect(second.stores.cupboard.charts().map((c) => c.name)).toEqual(['Winter']);
      expect(second.stores.cupboard.stash()).toEqual([{ chart: id, code: 'W-1', spools: 2, lowAt: 1 }]);
      await second.close();
    } finally {
      rmSync(data, { recursive: true, force: true });
    }
  });
});

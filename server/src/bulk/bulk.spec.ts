import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import type { BulkRun } from '@open-kite/contract';
import { newLetters } from '@open-kite/core';
import { serve, type RunningServer } from '../serve.js';

/** A small picture of two colours. */
const picture = (hex: string, width = 120, height = 90): Promise<Buffer> =>
  sharp({ create: { width, height, channels: 3, background: '#ffffff' } })
    .composite([{ input: { create: { width: 50, height: 40, channels: 3, background: hex } }, left: 20, top: 20 }])
    .png()
    .toBuffer();

describe('a bulk run', () => {
  let folder: string;
  let server: RunningServer;
  const start = async (): Promise<void> => {
    server = await serve({ port: 0, data: folder, logLevel: 'silent' });
  };
  const ask = async (method: string, path: string, body?: unknown): Promise<{ status: number; run: BulkRun }> => {
    const raw = Buffer.isBuffer(body);
    const answer = await fetch(`${server.address}/api${path}`, {
      method,
      headers: body === undefined ? {} : { 'content-type': raw ? 'application/octet-stream' : 'application/json' },
      body: body === undefined ? undefined : raw ? body : JSON.stringify(body),
    });
    const text = await answer.text();
    return { status: answer.status, run: (text === '' ? {} : JSON.parse(text)) as BulkRun };
  };
  const begin = async (project: string | null = null): Promise<string> =>
    (await ask('POST', '/bulk', { name: 'Badges', project })).run.id;
  const finished = async (id: string): Promise<BulkRun> => {
    for (let i = 0; i < 400; i++) {
      const { run } = await ask('GET', `/bulk/${id}`);
      if (run.items.every(({ state }) => state === 'done' || state === 'failed')) return run;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error('the run does not end');
  };

  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'kite-bulk-'));
    await start();
  });
  afterEach(async () => {
    await server.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('makes a project of each picture, and says which files are none', async () => {
    const id = await begin();
    await ask('POST', `/bulk/${id}/files?name=first-sail.png`, await picture('#c04020'));
    await ask('POST', `/bulk/${id}/files?name=broken.png`, Buffer.from('no picture at all'));
    await ask('POST', `/bulk/${id}/files?name=second.png`, await picture('#204080'));
    const run = await finished(id);
    expect(run.items.map(({ name, state }) => [name, state])).toEqual([
      ['first-sail.png', 'done'],
      ['broken.png', 'failed'],
      ['second.png', 'done'],
    ]);
    expect(run.items[1]?.error).toContain('not a picture that can be read');
    expect(run.items[0]?.figures?.stitches).toBeGreaterThan(100);
    const sheet = await fetch(`${server.address}/api/bulk/${id}/contact-sheet`);
    const { width, height } = await sharp(Buffer.from(await sheet.arrayBuffer())).metadata();
    expect([width, height]).toEqual([520, 300]);
  });

  it('takes the settings of a project, at its size', async () => {
    const hash = server.stores.pictures;
    void hash;
    const uploaded = (await ask('POST', '/pictures', await picture('#208040'))).run as unknown as { hash: string };
    const made = (await ask('POST', '/projects', { name: 'Model', picture: uploaded.hash })).run as unknown as {
      id: string;
    };
    const id = await begin(made.id);
    await ask('POST', `/bulk/${id}/files?name=high.png`, await picture('#803060', 60, 120));
    const [item] = (await finished(id)).items;
    const { recipe } = server.stores.projects.get(item?.project ?? '');
    const [object] = recipe.objects;
    expect(object?.kind === 'picture' && [object.picture.widthMm, object.picture.heightMm]).toEqual([50, 100]);
  });

  it('sews a list of names in the letters of a project, beside what else is in it', async () => {
    const { hash } = (await ask('POST', '/pictures', await picture('#208040'))).run as unknown as { hash: string };
    const made = (await ask('POST', '/projects', { name: 'Badge', picture: hash })).run as unknown as { id: string };
    const id = await begin(made.id);
    const refused = await ask('POST', `/bulk/${id}/names`, { names: ['Ada'] });
    expect(refused.status).toBe(422);
    expect(JSON.stringify(refused.run)).toContain('no letters');
    const { recipe } = server.stores.projects.get(made.id);
    const letters = newLetters('letters-1', { text: 'Name', heightMm: 10, pairs: { 1: 0.4 } }, { hex: '#203040' });
    const model = server.stores.projects.create(
      'Badge with a name',
      { 'picture-1': hash },
      {
        ...recipe,
        objects: [...recipe.objects, letters],
      },
    );
    const run = await begin(model.id);
    expect((await ask('POST', `/bulk/${run}/names`, { names: ['Mira', 'Jun \u{1f600}', 'Øyvind'] })).status).toBe(201);
    const items = (await finished(run)).items;
    expect(items.map(({ name, state }) => [name, state])).toEqual([
      ['Mira', 'done'],
      ['Jun \u{1f600}', 'failed'],
      ['Øyvind', 'done'],
    ]);
    expect(items[1]?.error).toContain('\u{1f600}');
    const first = server.stores.projects.get(items[0]?.project ?? '');
    expect(first.name).toBe('Mira');
    expect(first.pictures).toEqual({ 'picture-1': hash });
    expect(first.recipe.objects.map((object) => (object.kind === 'letters' ? object.text : object.kind))).toEqual([
      'picture',
      'Mira',
    ]);
    for (const names of [[], [''], ['a'.repeat(201)], 'Mira']) {
      expect((await ask('POST', `/bulk/${run}/names`, { names })).status)
        .withContext(String(names))
        .toBe(400);
    }
  });

  it('stops when asked, goes on when asked, and after a restart', async () => {
    const id = await begin();
    await ask('POST', `/bulk/${id}/cancel`, {});
    await ask('POST', `/bulk/${id}/files?name=a.png`, await picture('#c04020'));
    expect((await ask('GET', `/bulk/${id}`)).run.items[0]?.state).toBe('waiting');
    await server.close();
    await start();
    expect((await ask('GET', `/bulk/${id}`)).run.cancelled).toBe(true);
    await ask('POST', `/bulk/${id}/resume`, {});
    await server.close();
    await start();
    const run = await finished(id);
    expect(run.items.map(({ state }) => state)).toEqual(['done']);
    expect(server.stores.projects.list().length).toBeLessThanOrEqual(2);
  });

  it('refuses what makes no sense', async () => {
    expect((await ask('POST', '/bulk', { name: '', project: null })).status).toBe(400);
    expect((await ask('POST', '/bulk', { name: 'x', project: 'nobody' })).status).toBe(404);
    expect((await ask('POST', '/bulk/nobody/files?name=a.png', Buffer.from('x'))).status).toBe(404);
    const id = await begin();
    expect((await ask('POST', `/bulk/${id}/files`, Buffer.from('x'))).status).toBe(400);
    expect((await ask('GET', `/bulk/${id}/contact-sheet`)).status).toBe(422);
    expect((await ask('DELETE', `/bulk/${id}`)).status).toBe(204);
    expect((await ask('GET', `/bulk/${id}`)).status).toBe(404);
  });
});

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import type { BinnedProject, Project, ProjectSummary } from '@open-kite/contract';
import { pictureOf, readArchive } from '@open-kite/core';
import { serve, type RunningServer } from '../serve.js';

describe('projects on the shelf', () => {
  let folder: string;
  let server: RunningServer;
  let picture: string;

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'kite-shelf-'));
    server = await serve({ port: 0, data: folder, logLevel: 'silent' });
    const png = await sharp({ create: { width: 120, height: 90, channels: 3, background: '#ffffff' } })
      .composite([
        { input: { create: { width: 60, height: 50, channels: 3, background: '#2c6e80' } }, left: 20, top: 20 },
      ])
      .png()
      .toBuffer();
    picture = ((await ask('POST', '/pictures', png)).body as { hash: string }).hash;
  });
  afterAll(async () => {
    await server.close();
    rmSync(folder, { recursive: true, force: true });
  });

  const ask = async (
    method: string,
    path: string,
    body?: unknown,
  ): Promise<{ status: number; body: unknown; raw: Buffer }> => {
    const bytes = Buffer.isBuffer(body);
    const answer = await fetch(`${server.address}/api${path}`, {
      method,
      headers: body === undefined ? {} : { 'content-type': bytes ? 'application/octet-stream' : 'application/json' },
      body: body === undefined ? undefined : bytes ? new Uint8Array(body) : JSON.stringify(body),
    });
    const raw = Buffer.from(await answer.arrayBuffer());
    const json = answer.headers.get('content-type')?.includes('json');
    return { status: answer.status, body: json ? JSON.parse(raw.toString()) : undefined, raw };
  };
  const create = async (name: string): Promise<Project> =>
    (await ask('POST', '/projects', { name, picture })).body as Project;
  const names = async (): Promise<string[]> =>
    ((await ask('GET', '/projects')).body as ProjectSummary[]).map(({ name }) => name);
  const bin = async (): Promise<BinnedProject[]> => (await ask('GET', '/projects/bin')).body as BinnedProject[];
  /** The same at another width, as an editor saves it. */
  const widened = async (project: Project, widthMm: number): Promise<void> => {
    const recipe = structuredClone(project.recipe);
    const shown = pictureOf(recipe) as unknown as { picture: { widthMm: number } };
    const entry = (from: number, to: number) => ({
      op: 'replace' as const,
      path: ['objects', 0, 'picture', 'widthMm'],
      value: from === to ? from : to,
    });
    const before = shown.picture.widthMm;
    shown.picture.widthMm = widthMm;
    const { status } = await ask('PUT', `/projects/${project.id}`, {
      revision: project.revision,
      name: project.name,
      recipe,
      keep: 0,
      position: 1,
      entries: [{ label: 'width', patches: [entry(before, widthMm)], inverse: [entry(widthMm, before)] }],
    });
    expect(status).toBe(200);
  };

  it('are doubled with their history, their picture and their design, under a name of their own', async () => {
    const first = await create('Lantern');
    await widened(first, 42);
    await server.stores.designs.make(first.id);
    const { status, body } = await ask('POST', `/projects/${first.id}/copy`, {});
    expect(status).toBe(201);
    const second = body as Project;
    const source = (await ask('GET', `/projects/${first.id}`)).body as Project;
    expect(second.id).not.toBe(first.id);
    expect(second.name).toBe('Lantern, copy');
    expect([second.recipe, second.history, second.position, second.pictures, second.designKey]).toEqual([
      source.recipe,
      source.history,
      source.position,
      source.pictures,
      source.designKey,
    ]);
    expect(
      (await ask('GET', `/projects/${second.id}/preview`)).raw.equals(
        (await ask('GET', `/projects/${first.id}/preview`)).raw,
      ),
    ).toBeTrue();
    // What is done to one is not done to the other.
    await widened(second, 55);
    expect(((await ask('GET', `/projects/${first.id}`)).body as Project).recipe).toEqual(source.recipe);
    expect(((await ask('POST', `/projects/${second.id}/copy`, {})).body as Project).name).toBe('Lantern, copy 2');
    expect((await ask('POST', '/projects/nobody/copy', {})).status).toBe(404);
  });

  it('are made of a recipe with the pictures it shows, and not without one of them', async () => {
    const { recipe } = await create('Try-out');
    const good = { name: 'Try-out, wide', picture: null, recipe, pictures: { 'picture-1': picture } };
    const { status, body } = await ask('POST', '/projects', good);
    expect(status).toBe(201);
    expect([(body as Project).recipe, Object.keys((body as Project).pictures)]).toEqual([recipe, ['picture-1']]);
    for (const [pictures, code] of [
      [{}, 400],
      [{ 'picture-1': 'f'.repeat(64) }, 404],
      [{ elsewhere: picture }, 400],
    ] as const) {
      expect((await ask('POST', '/projects', { ...good, pictures })).status).toBe(code);
    }
  });

  it('get another name, which an editor that was open hears of', async () => {
    const project = await create('Buoy');
    expect((await ask('PUT', `/projects/${project.id}/name`, { name: '  Harbour buoy ' })).status).toBe(204);
    expect(await names()).toContain('Harbour buoy');
    const late = await ask('PUT', `/projects/${project.id}`, {
      revision: project.revision,
      name: 'Buoy',
      recipe: project.recipe,
      keep: 0,
      position: 0,
      entries: [],
    });
    expect(late.status).toBe(409);
    for (const wrong of [{}, { name: '   ' }, { name: 'x'.repeat(121) }, { name: 'a', more: 1 }]) {
      expect((await ask('PUT', `/projects/${project.id}/name`, wrong)).status).toBe(400);
    }
  });

  it('go into the bin, come back from it, or are deleted for good', async () => {
    const [a, b, c] = [await create('Ring'), await create('Rope'), await create('Reel')];
    for (const { id } of [a, b, c]) expect((await ask('DELETE', `/projects/${id}`)).status).toBe(204);
    expect((await bin()).map(({ id }) => id)).toEqual([c.id, b.id, a.id]);
    expect(await names()).not.toContain('Ring');
    expect((await ask('POST', `/projects/${a.id}/restore`)).status).toBe(204);
    expect(await names()).toContain('Ring');
    expect((await ask('DELETE', `/projects/bin/${b.id}`)).status).toBe(204);
    expect((await ask('POST', `/projects/${b.id}/restore`)).status).toBe(404);
    // What lies on the shelf is not deleted by way of the bin.
    expect((await ask('DELETE', `/projects/bin/${a.id}`)).status).toBe(404);
    expect((await ask('DELETE', '/projects/bin')).status).toBe(204);
    expect(await bin()).toEqual([]);
    expect(await names()).toContain('Ring');
    expect((await ask('GET', `/projects/${c.id}`)).status).toBe(404);
  });

  it('leave the bin for good after a while', async () => {
    const { projects } = server.stores;
    const { id } = await create('Old sail');
    projects.remove(id);
    expect(projects.emptyBin('2001-01-01T00:00:00.000Z')).toBe(0);
    expect(projects.emptyBin(new Date(Date.now() + 1000).toISOString())).toBe(1);
    expect(() => projects.restore(id)).toThrowError(/there is no project/);
  });

  it('are shared out as archives: one as it is, several in a ZIP, as they are now', async () => {
    const [a, b] = [await create('Fair badge'), await create('Fair badge')];
    await server.stores.designs.make(a.id);
    const stored = server.stores.projects.get(a.id).designKey;
    const one = readArchive(new Uint8Array((await ask('POST', '/projects/share', { ids: [a.id] })).raw));
    expect([one.name, one.recipe, one.pictures.length]).toEqual(['Fair badge', a.recipe, 1]);
    expect(one.sewing.stitches.count).toBeGreaterThan(100);
    // Changed since: what is stored of its design is not what is handed out.
    await widened(b, 30);
    await widened(a, 30);
    expect(server.stores.projects.get(a.id).designKey).toBe(stored);
    const files = unzipSync(new Uint8Array((await ask('POST', '/projects/share', { ids: [a.id, b.id, a.id] })).raw));
    expect(Object.keys(files)).toEqual(['fair-badge.kite', 'fair-badge-2.kite']);
    const [changed, other] = Object.values(files).map((bytes) => readArchive(bytes));
    expect(changed && pictureOf(changed.recipe)?.picture.widthMm).toBe(30);
    expect(changed?.sewing.stitches).toEqual(other?.sewing.stitches);
    expect(changed?.sewing.stitches.count).toBeLessThan(one.sewing.stitches.count);
  });

  it('are shared by none who asks for nothing, for too many or for what is not there', async () => {
    const { id } = await create('Alone');
    expect((await ask('POST', '/projects/share', { ids: [] })).status).toBe(400);
    expect((await ask('POST', '/projects/share', { ids: Array.from({ length: 101 }, (_, i) => `p${i}`) })).status).toBe(
      400,
    );
    const { status, body } = await ask('POST', '/projects/share', { ids: [id, 'nobody'] });
    expect(status).toBe(404);
    expect((body as { error: string }).error).toContain('there is no project nobody');
  });
});

import { readdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { defaultRecipe, pictureOf, viewOf, withView, type PictureView, type Recipe } from '@open-kite/core';
import { serve, type RunningServer } from './serve.js';
import { openDatabase } from './store/database.js';

interface Body {
  [key: string]: unknown;
  id: string;
  hash: string;
  revision: number;
  error: string;
  recipe: Recipe;
}

/** A recipe with something else said of its picture, or of the whole. */
function changed(recipe: Recipe, change: (view: PictureView) => Partial<PictureView>): Recipe {
  const picture = pictureOf(recipe);
  if (!picture) throw new Error('no picture');
  const view = viewOf(recipe, picture);
  return withView(recipe, { ...view, ...change(view) });
}

describe('the API', () => {
  let server: RunningServer;
  let png: Buffer;

  const ask = async (
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<{ status: number; body: Body; headers: Headers }> => {
    const raw = Buffer.isBuffer(body) || typeof body === 'string';
    const answer = await fetch(server.address + path, {
      method,
      headers: raw || body === undefined ? headers : { 'content-type': 'application/json', ...headers },
      body: body === undefined ? undefined : raw ? (body as string) : JSON.stringify(body),
    });
    const text = await answer.text();
    const json = answer.headers.get('content-type')?.includes('json');
    return { status: answer.status, headers: answer.headers, body: (json ? JSON.parse(text) : {}) as Body };
  };

  const newProject = async (name = 'Kite'): Promise<Body> => {
    const picture = await ask('POST', '/api/pictures', png);
    const project = await ask('POST', '/api/projects', { name, picture: picture.body.hash });
    expect(project.status).toBe(201);
    return project.body;
  };

  const saveOf = (project: Body, change: Record<string, unknown> = {}): Record<string, unknown> => ({
    revision: project.revision,
    name: 'Kite',
    recipe: project.recipe,
    keep: 0,
    entries: [],
    position: 0,
    ...change,
  });

  const entry = (label: string): unknown => ({
    label,
    patches: [{ op: 'replace', path: ['stitches', 'angle'], value: 5 }],
    inverse: [{ op: 'replace', path: ['stitches', 'angle'], value: 20 }],
  });

  beforeAll(async () => {
    server = await serve({ port: 0, data: ':memory:', logLevel: 'silent' });
    png = await sharp({ create: { width: 40, height: 20, channels: 4, background: '#c8481f' } })
      .png()
      .toBuffer();
  });

  afterAll(() => server.close());

  it('listens on this machine only and sends a strict policy', async () => {
    expect(server.address).toMatch(/^http:\/\/127\.0\.0\.1:/);
    const { headers, status } = await ask('GET', '/api/health');
    expect(status).toBe(200);
    const policy = headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain("script-src 'self'");
    expect(policy).not.toContain('unsafe');
    expect(headers.get('x-powered-by')).toBeNull();
  });

  it('stores a picture once and hands out its exact pixels', async () => {
    const first = await ask('POST', '/api/pictures', png);
    const second = await ask('POST', '/api/pictures', png);
    expect(first.status).toBe(201);
    expect(second.body.hash).toBe(first.body.hash);
    expect(first.body).toEqual(jasmine.objectContaining({ width: 40, height: 20, kind: 'raster' }));
    const pixels = await (await fetch(`${server.address}/api/pictures/${first.body.hash}/pixels`)).arrayBuffer();
    expect([...new Uint32Array(pixels, 0, 2)]).toEqual([40, 20]);
    expect([...new Uint8Array(pixels, 8, 4)]).toEqual([0xc8, 0x48, 0x1f, 255]);
    expect(pixels.byteLength).toBe(8 + 40 * 20 * 4);
  });

  it('keeps the shapes of vector artwork, and the size it asks for', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="30mm" viewBox="0 0 60 30"><rect x="5" y="5" width="20" height="20" fill="#2c6e80"/></svg>';
    const picture = await ask('POST', '/api/pictures', Buffer.from(svg));
    expect(picture.body.kind).toBe('svg');
    const source = await fetch(`${server.address}/api/pictures/${picture.body.hash}/source`);
    expect(source.headers.get('content-type')).toContain('text/plain');
    expect(await source.text()).toBe(svg);
    const project = await ask('POST', '/api/projects', { name: 'Shapes', picture: picture.body.hash });
    expect(pictureOf(project.body.recipe)?.picture).toEqual(jasmine.objectContaining({ widthMm: 60, heightMm: 30 }));
    const raster = await ask('POST', '/api/pictures', png);
    expect((await fetch(`${server.address}/api/pictures/${raster.body.hash}/source`)).status).toBe(404);
  });

  it('answers bad uploads with one sentence and stores nothing', async () => {
    const before = (await ask('GET', '/api/projects')).body;
    const text = await ask('POST', '/api/pictures', Buffer.from('hello'));
    expect(text.status).toBe(422);
    expect(text.body.error).toMatch(/^not a picture that can be read \(/);
    expect(text.body.error).not.toContain('\n');
    expect((await ask('POST', '/api/pictures', png.subarray(0, 60))).status).toBe(422);
    expect((await ask('POST', '/api/pictures')).body.error).toContain('empty');
    expect((await ask('POST', '/api/pictures', Buffer.alloc(49 * 1024 * 1024, 65))).status).toBe(413);
    expect((await ask('GET', '/api/projects')).body).toEqual(before);
    expect((await ask('GET', '/api/health')).status).toBe(200);
  });

  it('makes a project with the default recipe and opens it again', async () => {
    const project = await newProject();
    expect(project.recipe).toEqual(defaultRecipe(200, 100));
    expect(pictureOf(project.recipe)?.picture.heightMm).toBe(50);
    const again = await ask('GET', `/api/projects/${project.id}`);
    expect(again.body.recipe).toEqual(project.recipe);
    expect(again.body['history']).toEqual([]);
  });

  it('has every setting of a rendering again after a restart, and refuses wrong ones', async () => {
    const data = mkdtempSync(join(tmpdir(), 'open-kite-rendering-'));
    const memory = server;
    try {
      server = await serve({ port: 0, data, logLevel: 'silent' });
      const project = await newProject('Photo');
      const path = `/api/projects/${project.id}`;
      const recipe = changed(project.recipe, ({ rendering }) => ({
        method: 'painting',
        budget: 30_000,
        rendering: {
          ...rendering,
          values: { painting: { direction: 'drawn', lineMm: 2 }, cross: { cellMm: 3 } },
          threads: { rows: [{ hex: '#aa3322' }] },
          mix: [{ kind: 'drop', hex: '#112233' }],
          strokes: [[0.1, 0.2, 0.8, 0.9]],
          lines: [{ kind: 'thin', threads: ['#112233'], area: [0, 0, 1, 0, 1, 1] }],
        },
      }));
      expect((await ask('PUT', path, saveOf(project, { recipe }))).status).toBe(200);
      const wrong = changed(recipe, ({ rendering }) => ({
        rendering: { ...rendering, values: { painting: { lineMm: 999 } } },
      }));
      const refused = await ask('PUT', path, saveOf({ ...project, revision: 2 }, { recipe: wrong }));
      expect(refused.status).toBeGreaterThanOrEqual(400);
      expect(refused.body.error).toContain('rendering');
      await server.close();
      server = await serve({ port: 0, data, logLevel: 'silent' });
      expect((await ask('GET', path)).body.recipe).toEqual(recipe);
      await server.close();
    } finally {
      server = memory;
      rmSync(data, { recursive: true, force: true });
    }
  });

  it('saves with history, and refuses a stale save with 409', async () => {
    const project = await newProject();
    const path = `/api/projects/${project.id}`;
    const recipe = { ...project.recipe, stitches: { ...project.recipe.stitches, angle: 5 } };
    const saved = await ask('PUT', path, saveOf(project, { recipe, entries: [entry('a'), entry('b')], position: 2 }));
    expect(saved.status).toBe(200);
    expect(saved.body.revision).toBe(2);
    const stale = await ask('PUT', path, saveOf(project));
    expect(stale.status).toBe(409);
    expect(stale.body.revision).toBe(2);
    expect(stale.body.error).toContain('changed elsewhere');
    const now = await ask('GET', path);
    expect(now.body.recipe.stitches.angle).toBe(5);
    expect(now.body['position']).toBe(2);
    expect((now.body['history'] as { label: string }[]).map((e) => e.label)).toEqual(['a', 'b']);
  });

  it('keeps undone changes until a new one takes their place', async () => {
    const project = await newProject();
    const path = `/api/projects/${project.id}`;
    await ask('PUT', path, saveOf(project, { entries: [entry('a'), entry('b')], position: 2 }));
    await ask('PUT', path, saveOf(project, { revision: 2, keep: 2, position: 1 }));
    let now = (await ask('GET', path)).body;
    expect([now['position'], (now['history'] as unknown[]).length]).toEqual([1, 2]);
    await ask('PUT', path, saveOf(project, { revision: 3, keep: 1, entries: [entry('c')], position: 2 }));
    now = (await ask('GET', path)).body;
    expect((now['history'] as { label: string }[]).map((e) => e.label)).toEqual(['a', 'c']);
  });

  it('refuses wrong numbers, unknown settings, foreign ids and broken JSON', async () => {
    const project = await newProject();
    const path = `/api/projects/${project.id}`;
    const wide = changed(project.recipe, ({ picture }) => ({ picture: { ...picture, widthMm: 1000 } }));
    const tooWide = await ask('PUT', path, saveOf(project, { recipe: wide }));
    expect(tooWide.status).toBe(400);
    expect(tooWide.body.error).toContain('widthMm must be a number from 5 to 400, got 1000');
    expect((await ask('PUT', path, saveOf(project, { position: -1 }))).status).toBe(400);
    expect((await ask('PUT', path, saveOf(project, { keep: 3 }))).status).toBe(400);
    expect((await ask('PUT', path, '{', { 'content-type': 'application/json' })).body.error).toBe(
      'the request is not valid JSON',
    );
    expect((await ask('POST', '/api/projects', { name: '', picture: 'x' })).status).toBe(400);
    expect((await ask('POST', '/api/projects', { name: 'A', picture: 'f'.repeat(64) })).status).toBe(404);
    expect((await ask('GET', '/api/projects/none')).status).toBe(404);
    expect((await ask('GET', '/api/nothing')).body.error).toContain('there is no GET /api/nothing');
    expect((await ask('GET', path)).body.revision).toBe(1);
  });

  it('takes a project off the shelf and puts it back', async () => {
    const project = await newProject('Leaving');
    const names = async (): Promise<string[]> =>
      ((await ask('GET', '/api/projects')).body as unknown as { name: string }[]).map((p) => p.name);
    expect((await ask('DELETE', `/api/projects/${project.id}`)).status).toBe(204);
    expect(await names()).not.toContain('Leaving');
    expect((await ask('GET', `/api/projects/${project.id}`)).status).toBe(404);
    expect((await ask('POST', `/api/projects/${project.id}/restore`)).status).toBe(204);
    expect(await names()).toContain('Leaving');
  });

  it('keeps a preview with its figures for the shelf', async () => {
    const project = await newProject('Seen');
    const path = `/api/projects/${project.id}/preview`;
    expect((await ask('GET', path)).status).toBe(404);
    const figures = { 'x-figures': JSON.stringify({ stitches: 5, threads: 1, minutes: 0.4 }) };
    expect((await ask('PUT', path, png, { 'content-type': 'image/png', ...figures })).status).toBe(204);
    expect((await fetch(server.address + path)).headers.get('content-type')).toContain('image/png');
    const list = (await ask('GET', '/api/projects')).body as unknown as { name: string; figures: object }[];
    expect(list.find((p) => p.name === 'Seen')?.figures).toEqual({ stitches: 5, threads: 1, minutes: 0.4 });
    expect((await ask('PUT', path, 'no png', { 'content-type': 'image/png', ...figures })).status).toBe(415);
  });

  it('hands out the shipped charts', async () => {
    const charts = (await ask('GET', '/api/charts')).body as unknown as { id: string; threads: unknown[] }[];
    expect(charts.map((c) => [c.id, c.threads.length])).toEqual([
      ['dunegrass', 100],
      ['lanternsilk', 400],
      ['saltline', 160],
    ]);
  });

  it('draws charts of grids that are handed over, and says what is wrong with others', async () => {
    const grid = {
      name: 'Quilt block',
      cols: 2,
      rows: 2,
      cellMm: 2.5,
      clothHex: '#f4f1ea',
      threads: [{ code: 'SL-1', name: 'Kelp', hex: '#2f5d50', lengthM: 1 }],
      cells: [32, 4],
      backs: [0, 0],
    };
    const good = await ask('POST', '/api/chart', grid);
    expect(good.status).toBe(200);
    expect(good.headers.get('content-type')).toContain('application/pdf');
    const bad = await ask('POST', '/api/chart', { ...grid, cells: [32, 5] });
    expect(bad.status).toBe(400);
    expect(bad.body.error).toContain('it must have 4 cells, got 5');
    expect((await ask('POST', '/api/chart', '{', { 'content-type': 'application/json' })).status).toBe(400);
  });
});

describe('the store', () => {
  let folder: string;
  beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'open-kite-'))));
  afterEach(() => rmSync(folder, { recursive: true, force: true }));

  it('brings projects back after the server was stopped', async () => {
    const options = { port: 0, data: folder, logLevel: 'silent' };
    const first = await serve(options);
    const png = await sharp({ create: { width: 4, height: 4, channels: 3, background: '#000' } })
      .png()
      .toBuffer();
    const picture = (await (
      await fetch(`${first.address}/api/pictures`, { method: 'POST', body: new Uint8Array(png) })
    ).json()) as { hash: string };
    first.stores.projects.create('Stays', { 'picture-1': picture.hash }, defaultRecipe(4, 4));
    await first.close();
    const second = await serve(options);
    expect(second.stores.projects.list().map((p) => p.name)).toEqual(['Stays']);
    await second.close();
  });

  it('runs each migration once and refuses a store from the future', () => {
    const path = join(folder, 'a.sqlite');
    openDatabase(path).close();
    const db = openDatabase(path);
    const migrations = readdirSync(new URL('../migrations', import.meta.url));
    expect(db.pragma('user_version', { simple: true })).toBe(migrations.length);
    db.pragma('user_version = 99');
    db.close();
    expect(() => openDatabase(path)).toThrowError(/newer version \(99/);
  });

  it('forgets only the oldest changes of a very long history', async () => {
    const running = await serve({ port: 0, data: folder, logLevel: 'silent' });
    const { projects, pictures } = running.stores;
    pictures.add({ hash: 'h', width: 1, height: 1, kind: 'raster', png: Buffer.alloc(1), source: null });
    const recipe = defaultRecipe(1, 1);
    const { id } = projects.create('Long', { 'picture-1': 'h' }, recipe);
    const entries = Array.from({ length: 1200 }, (_, i) => ({ label: `${i}`, patches: [], inverse: [] }));
    projects.save(id, { revision: 1, name: 'Long', recipe, keep: 0, entries, position: 1150 });
    const project = projects.get(id);
    expect([project.history.length, project.history[0]?.label, project.position, project.base]).toEqual([
      1000,
      '200',
      950,
      200,
    ]);
    // Two windows that were handed different numbers count on, each from its own.
    const first = projects.save(id, {
      revision: 2,
      name: 'Long',
      recipe,
      keep: 1150,
      entries: entries.slice(0, 1),
      position: 1151,
    });
    const second = { name: 'Long', recipe, base: 200, entries: entries.slice(0, 1) };
    const { revision } = projects.save(id, { ...second, revision: first.revision, keep: 951, position: 952 });
    const now = projects.get(id);
    expect([now.base + now.history.length, now.base + now.position]).toEqual([1152, 1152]);
    expect(() => projects.save(id, { ...second, revision, keep: 953, position: 954 })).toThrowError(/keeps 1153/);
    await running.close();
    const again = await serve({ port: 0, data: folder, logLevel: 'silent' });
    const kept = again.stores.projects.get(id);
    expect([kept.history.length, kept.base, kept.position, kept.revision]).toEqual([1000, 0, 1000, revision + 1]);
    await again.close();
  });
});

import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defaultRecipe } from '@open-kite/core';
import { serve } from '../serve.js';
import { asking } from '../test/asking.js';
import { UserError } from '../user-error.js';
import { backUpDaily, backupsOf, KEPT_BACKUPS } from './backups.js';
import { openDatabase } from './database.js';
import { createPictureStore } from './pictures.js';
import { createProjectStore } from './projects.js';

describe('the store in trouble', () => {
  let folder: string;
  let path: string;
  const now = (): string => new Date().toISOString();

  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'open-kite-store-'));
    path = join(folder, 'open-kite.sqlite');
  });
  afterEach(() => {
    chmodSync(folder, 0o700);
    rmSync(folder, { recursive: true });
  });

  function filled(): void {
    const db = openDatabase(path);
    const pictures = createPictureStore(db, now);
    const projects = createProjectStore(db, now);
    pictures.add({ hash: 'h', width: 1, height: 1, kind: 'raster', png: Buffer.alloc(200_000, 7), source: null });
    for (let i = 0; i < 20; i++) projects.create(`Kite ${i}`, { 'picture-1': 'h' }, defaultRecipe(1, 1));
    db.close();
  }

  it('says of a damaged file which it is, and where the last backup lies', async () => {
    filled();
    const db = openDatabase(path);
    await backUpDaily(path);
    db.close();
    const bytes = readFileSync(path);
    writeFileSync(path, Buffer.concat([bytes.subarray(0, 4096), Buffer.alloc(bytes.length - 4096, 0xaa)]));
    expect(() => openDatabase(path)).toThrowError(UserError, /is damaged; the last backup is .*backups/);
    writeFileSync(path, 'this is no store at all, but long enough to be taken for one'.repeat(20));
    expect(() => openDatabase(path)).toThrowError(UserError, /open-kite\.sqlite is damaged/);
  });

  it('is read as far as it can be where pages are damaged, and never written', async () => {
    const db = openDatabase(path);
    const projects = createProjectStore(db, now);
    createPictureStore(db, now).add({
      hash: 'h',
      width: 1,
      height: 1,
      kind: 'raster',
      png: Buffer.alloc(9),
      source: null,
    });
    // Long names, so that projects lie on many pages.
    const ids = Array.from(
      { length: 60 },
      (_, i) => projects.create(`Kite ${i} ${'tail '.repeat(100)}`, {}, defaultRecipe(1, 1)).id,
    );
    await backUpDaily(path);
    db.pragma('wal_checkpoint(TRUNCATE)');
    db.close();
    const bytes = readFileSync(path);
    const at = bytes.lastIndexOf('Kite 30 tail');
    expect(at).toBeGreaterThan(4096);
    const page = at - (at % 4096);
    const damaged = Buffer.concat([bytes.subarray(0, page), Buffer.alloc(4096, 0xaa), bytes.subarray(page + 4096)]);
    writeFileSync(path, damaged);

    const server = await serve({ port: 0, data: folder, logLevel: 'silent' });
    const ask = asking(() => server.address);
    expect(server.damage).toMatch(/is damaged; the last backup is/);
    const list = (await ask('GET', '/projects')).body as { id: string }[];
    expect(list.length).toBeGreaterThan(40);
    expect(list.length).toBeLessThan(60);
    const kept = new Set(list.map(({ id }) => id));
    const lost = ids.filter((id) => !kept.has(id));
    expect((await ask('GET', `/projects/${list[0]?.id}`)).status).toBe(200);
    expect((await ask('GET', `/projects/${lost[0]}`)).body).toEqual({
      error: jasmine.stringContaining('cannot be read any more: store:'),
    });
    expect((await ask('GET', '/health')).body).toEqual({ ok: false, damage: server.damage });
    for (const [method, address] of [
      ['DELETE', `/projects/${list[0]?.id}`],
      ['POST', '/projects'],
      ['GET', '/machine'],
    ] as const) {
      expect(await ask(method, address, method === 'POST' ? {} : undefined)).toEqual({
        status: 503,
        body: { error: jasmine.stringContaining('nothing can be kept') },
      });
    }
    await server.close();
    expect(readFileSync(path).equals(damaged)).toBeTrue();
  });

  it('says so where a file stands in the way, or a folder', () => {
    writeFileSync(join(folder, 'file'), '');
    expect(() => openDatabase(join(folder, 'file', 'open-kite.sqlite'))).toThrowError(UserError, /cannot be written/);
    mkdirSync(path);
    expect(() => openDatabase(path)).toThrowError(UserError, /cannot be written/);
  });

  it('is backed up before a migration and once a day, the newest seven', async () => {
    filled();
    const db = openDatabase(path);
    db.exec('DROP INDEX picture_by_age; DROP TABLE shelf_figures');
    for (const later of ['bulk_item', 'bulk_run', 'machine_progress', 'machine_job', 'machine']) {
      db.exec(`DROP TABLE ${later}`);
    }
    db.exec('DROP TABLE own_fabric; ALTER TABLE stash DROP COLUMN used_m');
    db.exec("ALTER TABLE preview ADD COLUMN figures TEXT NOT NULL DEFAULT '{}'");
    db.pragma('user_version = 3');
    db.close();
    openDatabase(path).close();
    expect(backupsOf(path).some((name) => name.includes('-before-4'))).toBeTrue();
    rmSync(path);
    const again = openDatabase(path);
    const from = Date.now();
    for (let day = 1; day <= 10; day++) {
      await backUpDaily(path, new Date(from + day * 86_400_000 + 60_000));
      await backUpDaily(path, new Date(from + day * 86_400_000 + 120_000));
    }
    expect(backupsOf(path).length).toBe(KEPT_BACKUPS);
    const [newest = ''] = backupsOf(path);
    const copy = openDatabase(newest);
    expect(copy.pragma('integrity_check', { simple: true })).toBe('ok');
    copy.close();
    again.close();
  });

  it('belongs to one server at a time', async () => {
    const first = await serve({ port: 0, data: folder, logLevel: 'silent' });
    await expectAsync(serve({ port: 0, data: folder, logLevel: 'silent' })).toBeRejectedWithError(
      UserError,
      /another Open Kite is already using/,
    );
    await first.close();
    const next = await serve({ port: 0, data: folder, logLevel: 'silent' });
    await next.close();
    expect(readdirSync(folder)).toContain('open-kite.sqlite');
  });

  it('forgets uploads no project uses', () => {
    const db = openDatabase(path);
    let at = '2026-05-01T10:00:00.000Z';
    const pictures = createPictureStore(db, () => at);
    const picture = { width: 1, height: 1, kind: 'raster' as const, png: Buffer.alloc(1), source: null };
    pictures.add({ ...picture, hash: 'used' });
    pictures.add({ ...picture, hash: 'unused' });
    const { id } = createProjectStore(db, now).create('Kite', { 'picture-1': 'used' }, defaultRecipe(1, 1));
    createProjectStore(db, now).remove(id);
    at = '2026-05-09T10:00:00.000Z';
    pictures.add({ ...picture, hash: 'new' });
    expect(pictures.sweep('2026-05-02T10:00:00.000Z')).toBe(1);
    expect(() => pictures.info('unused')).toThrowError(UserError);
    expect([pictures.info('used').hash, pictures.info('new').hash]).toEqual(['used', 'new']);
    db.close();
  });
});

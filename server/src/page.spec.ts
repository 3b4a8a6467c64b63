import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { createRaster, defaultRecipe, convert } from '@open-kite/core';
import { createApp } from './app.js';
import { createReadingPool } from './jobs/reading-pool.js';
import { openDatabase } from './store/database.js';
import { createPictureStore } from './store/pictures.js';
import { createCupboardStore } from './store/cupboard.js';
import { createProjectStore } from './store/projects.js';
import { readCharts } from './charts.js';
import { writeWorksheet } from './worksheet.js';

describe('the interface', () => {
  let folder: string;
  let server: Server;
  const reading = createReadingPool();
  let address: string;

  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), 'open-kite-page-'));
    mkdirSync(join(folder, 'web'));
    writeFileSync(join(folder, 'web', 'index.html'), '<kite-root ngCspNonce="CSP_NONCE"></kite-root>');
    writeFileSync(join(folder, 'web', 'main-ABC.js'), '1');
    const db = openDatabase(':memory:');
    const now = (): string => '2026-05-02T10:00:00.000Z';
    const app = createApp({
      pictures: createPictureStore(db, now),
      projects: createProjectStore(db, now),
      cupboard: createCupboardStore(db, now),
      charts: [],
      reading,
      log: pino({ level: 'silent' }),
      webFolder: join(folder, 'web'),
    });
    server = await new Promise((resolve) => {
      const listening = app.listen(0, '127.0.0.1', () => resolve(listening));
    });
    address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });

  afterEach(() => {
    server.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('gives every page address the page, with a nonce that fits its policy and is used once', async () => {
    const nonces = new Set<string>();
    for (const path of ['/', '/project/abc', '/']) {
      const answer = await fetch(address + path);
      const nonce = /ngCspNonce="([^"]+)"/.exec(await answer.text())?.[1] ?? '';
      expect(answer.headers.get('content-security-policy')).toContain(`'nonce-${nonce}'`);
      expect(answer.headers.get('cache-control')).toBe('no-store');
      nonces.add(nonce);
    }
    expect(nonces.size).toBe(3);
    expect(nonces.has('CSP_NONCE')).toBeFalse();
  });

  it('lets files with a hash in their name be kept, and knows what is not there', async () => {
    expect((await fetch(`${address}/main-ABC.js`)).headers.get('cache-control')).toContain('immutable');
    expect((await fetch(`${address}/other.js`)).status).toBe(404);
    expect((await fetch(`${address}/../../etc/passwd`)).status).toBe(200);
    expect(await (await fetch(`${address}/%2e%2e/%2e%2e/etc/passwd`)).text()).not.toContain('root:');
  });
});

describe('readCharts', () => {
  it('names the file and line of a bad entry', () => {
    const folder = mkdtempSync(join(tmpdir(), 'open-kite-charts-'));
    writeFileSync(join(folder, 'bad.csv'), 'code,name,hex,weight,finish\nA,Kelp,green,40,matt\n');
    expect(() => readCharts(folder)).toThrowError(/chart bad\.csv: line 2: "green"/);
    rmSync(folder, { recursive: true });
  });
});

describe('writeWorksheet', () => {
  it('makes a PDF of every design, an empty one too, the same each time', async () => {
    const raster = createRaster(300, 300);
    for (let i = 0; i < 90000; i++) raster.data.set([i % 300 < 150 ? 200 : 20, 60, 60, 255], i * 4);
    for (const picture of [raster, createRaster(300, 300)]) {
      const design = await convert({
        pictures: { 'picture-1': { key: 'k', raster: picture } },
        recipe: defaultRecipe(300, 300),
        charts: [],
      });
      const pdf = await writeWorksheet(design, 'Kite');
      expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
      expect(pdf.subarray(-6).toString()).toContain('%%EOF');
      expect((await writeWorksheet(design, 'Kite')).length).toBe(pdf.length);
    }
  });
});

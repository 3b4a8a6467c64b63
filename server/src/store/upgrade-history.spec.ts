import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Database from 'better-sqlite3';
import { applyPatches, enablePatches, type Patch as ImmerPatch } from 'immer';
import type { HistoryEntry, Patch } from '@open-kite/contract';
import { parseRecipe, upgradeRecipeTo } from '@open-kite/core';
import { OLD_RECIPES } from '@open-kite/core/testing';
import { openDatabase } from './database.js';
import { createProjectStore } from './projects.js';

enablePatches();

const MIGRATIONS = fileURLToPath(new URL('../../migrations', import.meta.url));

/** Changes as an earlier version kept them, on a recipe that was brought up to version 6. */
const CHANGES: readonly HistoryEntry[] = [
  entry('angle', ['stitches', 'angle'], 20, 45),
  entry('light', ['light', 'contrast'], 0, 20),
  {
    label: 'drawn piece',
    patches: [{ op: 'replace', path: ['pieces', 'drawn'], value: [drawn('d9')] }],
    inverse: [{ op: 'replace', path: ['pieces', 'drawn'], value: [] }],
  },
  {
    label: 'border',
    patches: [{ op: 'replace', path: ['rendering', 'border', 'kind'], value: 'satin' }],
    inverse: [{ op: 'replace', path: ['rendering', 'border', 'kind'], value: 'none' }],
  },
  entry('cloth', ['clothHex'], '#f4f1ea', '#223344'),
];

function entry(label: string, path: (string | number)[], before: unknown, after: unknown): HistoryEntry {
  return {
    label,
    patches: [{ op: 'replace', path, value: after }],
    inverse: [{ op: 'replace', path, value: before }],
  };
}

function drawn(id: string): object {
  const nodes = [
    [0.2, 0.2, 0, 0, 0, 0],
    [0.4, 0.2, 0, 0, 0, 0],
    [0.3, 0.4, 0, 0, 0, 0],
  ];
  return {
    id,
    role: 'piece',
    paths: [{ closed: true, nodes }],
    widthMm: 0.8,
    as: 'auto',
    passes: 0,
    paint: { hex: '#aa2233' },
    copies: { count: 1, radiusMm: 15 },
    replaces: null,
  };
}

const apply = (state: unknown, patches: readonly Patch[]): unknown =>
  applyPatches(
    state as object,
    patches.map((patch): ImmerPatch => ({ ...patch, path: [...patch.path] })),
  );

/** A recipe without anything the changes would meet. */
function beginning(recipe: unknown): unknown {
  const six = upgradeRecipeTo(recipe, 6) as Record<string, Record<string, unknown>>;
  return {
    ...six,
    clothHex: '#f4f1ea',
    stitches: { ...six['stitches'], angle: 20 },
    light: { ...six['light'], contrast: 0 },
    pieces: { ...six['pieces'], drawn: [], decisions: [] },
    rendering: { ...six['rendering'], border: { kind: 'none', widthMm: 3, hex: '#22304a' } },
  };
}

describe('a project of an earlier version', () => {
  let folder: string;
  beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'open-kite-old-'))));
  afterEach(() => rmSync(folder, { recursive: true, force: true }));

  /** A store as version 0.1 left it, with one project in it. */
  function oldStore(recipe: unknown, history: readonly HistoryEntry[], position: number): string {
    const path = join(folder, 'open-kite.sqlite');
    const db = new Database(path);
    for (const name of ['001-projects.sql', '002-cupboard.sql']) db.exec(readFileSync(join(MIGRATIONS, name), 'utf8'));
    db.pragma('user_version = 2');
    db.prepare("INSERT INTO picture VALUES ('h', 4, 4, 'raster', x'00', NULL, 'then')").run();
    db.prepare("INSERT INTO project VALUES ('p', 'Old', 'h', ?, 3, ?, 'then', 'then', NULL)").run(
      JSON.stringify(recipe),
      position,
    );
    const insert = db.prepare('INSERT INTO history VALUES (?, ?, ?, ?, ?)');
    history.forEach(({ label, patches, inverse }, i) =>
      insert.run('p', i, label, JSON.stringify(patches), JSON.stringify(inverse)),
    );
    db.close();
    return path;
  }

  for (const old of OLD_RECIPES) {
    it(`opens, and undo leads to its beginning: version ${old.version}, ${old.name}`, () => {
      const states = [beginning(old.recipe)];
      for (const { patches } of CHANGES) states.push(apply(states[states.length - 1], patches));
      const position = 3;
      const db = openDatabase(oldStore(states[position], CHANGES, position));
      const project = createProjectStore(db, () => 'now').get('p');
      expect(project.pictures).toEqual({ 'picture-1': 'h' });
      expect(project.history.map(({ label }) => label)).toEqual(CHANGES.map(({ label }) => label));
      expect(project.position).toBe(position);
      expect(project.recipe).toEqual(parseRecipe(states[position]));
      let back: unknown = project.recipe;
      for (let k = position - 1; k >= 0; k--) {
        back = apply(back, project.history[k]?.inverse ?? []);
        expect(back).withContext(`undone to ${k}`).toEqual(parseRecipe(states[k]));
      }
      let on: unknown = project.recipe;
      for (let k = position; k < CHANGES.length; k++) {
        on = apply(on, project.history[k]?.patches ?? []);
        expect(on)
          .withContext(`made again to ${k + 1}`)
          .toEqual(parseRecipe(states[k + 1]));
      }
      // Opened a second time nothing is left to do.
      expect(createProjectStore(db, () => 'now').get('p')).toEqual(project);
      db.close();
    });
  }

  it('keeps what of its history still fits, where a change does not', () => {
    const states = [beginning(OLD_RECIPES[0]?.recipe)];
    for (const { patches } of CHANGES) states.push(apply(states[states.length - 1], patches));
    const broken = CHANGES.map((change, k) =>
      k === 1 ? { ...change, inverse: [{ op: 'replace' as const, path: ['nowhere', 'at', 'all'], value: 1 }] } : change,
    );
    const db = openDatabase(oldStore(states[4], broken, 4));
    const project = createProjectStore(db, () => 'now').get('p');
    expect(project.history.map(({ label }) => label)).toEqual(['drawn piece', 'border', 'cloth']);
    expect(project.position).toBe(2);
    db.close();
  });

  it('is refused kindly where its recipe is none', () => {
    const db = openDatabase(oldStore({ version: 9 }, [], 0));
    expect(() => createProjectStore(db, () => 'now').get('p')).toThrowError(/cannot be opened: .*newer version/);
    db.close();
  });
});

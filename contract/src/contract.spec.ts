import { checked, ContractError } from './check.js';
import { stashSaveSchema } from './cupboard.js';
import { pictureSchema } from './pictures.js';
import { projectSchema, projectsSchema, saveSchema } from './projects.js';

const HASH = 'a1'.repeat(32);
const picture = { hash: HASH, width: 320, height: 240, kind: 'raster' };
const entry = {
  label: 'left bare',
  patches: [{ op: 'add', path: ['decisions', 0], value: { kind: 'bare' } }],
  inverse: [{ op: 'remove', path: ['decisions', 0] }],
};
const save = { revision: 3, name: 'Pennant', recipe: {}, keep: 0, entries: [entry], position: 1 };
const project = {
  id: 'p1',
  name: 'Pennant',
  revision: 3,
  recipe: {},
  pictures: { 'picture-1': picture },
  history: [entry],
  position: 1,
  base: 0,
  designKey: null,
};

/** What is said against a value; undefined where it is accepted. */
function said(schema: Parameters<typeof checked>[0], value: unknown): string | undefined {
  try {
    checked(schema, value);
    return undefined;
  } catch (error) {
    if (!(error instanceof ContractError)) throw error;
    return error.message;
  }
}

describe('what server and browser say to each other', () => {
  it('is accepted unchanged where it is as agreed', () => {
    expect(checked(saveSchema, save)).toEqual(save as never);
    expect(checked(projectSchema, project)).toEqual(project as never);
    expect(said(saveSchema, { ...save, pictures: { 'picture-2': HASH } })).toBeUndefined();
    const row = { id: 'p1', name: 'P', revision: 0, updatedAt: 'x', hasPreview: false, figures: null, making: true };
    expect(said(projectsSchema, [row])).toBeUndefined();
    expect(said(projectsSchema, [])).toBeUndefined();
  });

  it('is refused in one line where it is not', () => {
    const wrong: readonly [Parameters<typeof checked>[0], unknown, RegExp][] = [
      [saveSchema, { ...save, extra: 1 }, /a save has no "extra"/],
      [saveSchema, { ...save, name: '  ' }, /needs a name/],
      [saveSchema, { ...save, revision: '3' }, /revision/],
      [saveSchema, { ...save, revision: -1 }, /below 0/],
      [saveSchema, { ...save, keep: 0.5 }, /whole/],
      [saveSchema, { ...save, pictures: { elsewhere: HASH } }, /cannot be called "elsewhere"/],
      [saveSchema, { ...save, pictures: { 'picture-1': '../../etc' } }, /named by its hash/],
      [saveSchema, { ...save, entries: Array.from({ length: 2001 }, () => entry) }, /2000/],
      [saveSchema, { ...save, entries: [{ ...entry, patches: [{ op: 'move', path: [] }] }] }, /op/],
      [saveSchema, { ...save, entries: [{ ...entry, patches: [{ op: 'add', path: [{}] }] }] }, /path|mixed/],
      [projectSchema, { ...project, pictures: undefined }, /pictures are missing/],
      [projectSchema, { ...project, designKey: undefined }, /designKey/],
      [pictureSchema, { ...picture, width: 0 }, /width/],
      [pictureSchema, { ...picture, kind: 'gif' }, /kind/],
      [stashSaveSchema, { entries: [{ chart: 'a', code: 'b', spools: 1000, lowAt: 0 }] }, /0 to 999/],
      [projectsSchema, 'nothing', /array/],
      [saveSchema, null, /./],
    ];
    for (const [schema, value, message] of wrong) {
      const words = said(schema, value);
      expect(words).withContext(JSON.stringify(value)?.slice(0, 120)).toMatch(message);
      expect(words).not.toContain('\n');
      expect(words?.length).toBeLessThanOrEqual(300);
    }
  });
});

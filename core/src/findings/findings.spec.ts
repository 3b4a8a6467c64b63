import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { createRaster } from '../picture/raster.js';
import { readSvg } from '../artwork/read-svg.js';
import { parseRecipe, type Recipe } from '../recipe/recipe.js';
import { pictureOf } from '../recipe/view.js';
import { flatRecipe, onePicture } from '../test/flat-recipe.js';
import { findingsOf, repaired } from './findings.js';
import type { Finding } from './finding.js';
import { ignore, isIgnored } from './ignored.js';
import { repairAll } from './repair-all.js';

const ART = readSvg(`<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60">
<rect x="4" y="4" width="34" height="9" fill="#204060"/><rect x="4" y="20" width="30" height="30" fill="#c03020"/>
<rect x="4.5" y="20.5" width="29" height="29" fill="#e0b040"/><path d="M50 10h20v20h-20z" fill="#3f9b62"/>
<circle cx="60" cy="46" r="0.9" fill="#204060"/></svg>`);
const raster = createRaster(160, 120);
raster.data.fill(255);

const run = (recipe: Recipe): Promise<Design> =>
  convert(onePicture({ raster, artwork: ART, pictureKey: 'art', charts: [], recipe }));

describe('findingsOf', () => {
  const base = flatRecipe(160, 120);
  // All rows level, everything kept whole below: what checks are for.
  const recipe = parseRecipe({
    ...base,
    picture: { ...base.picture, widthMm: 80, heightMm: 60 },
    pieces: { ...base.pieces, keepBelowMm: 100, satinBelowMm: 0 },
    stitches: { ...base.stitches, angle: 4, angleStep: 0 },
  });
  let design: Design;
  let found: Finding[];
  beforeAll(async () => {
    design = await run(recipe);
    found = findingsOf(design, design, recipe);
  });

  it('tells the most harmful first, with pieces, places, reasons and repairs', () => {
    const kinds = found.map(({ kind }) => kind);
    expect(kinds).toContain('rows-along-edge');
    expect(kinds).toContain('hidden-piece');
    const levels = found.map(({ level }) => ['problem', 'advice', 'waste'].indexOf(level));
    expect(levels).toEqual([...levels].sort());
    for (const { pieces, why, kind } of found) {
      for (const piece of pieces) expect(design.pieceIds).toContain(piece);
      expect(why.length).withContext(kind).toBeGreaterThan(10);
    }
  });

  it('repairs so that a finding goes away, as something that was said', async () => {
    for (const kind of ['rows-along-edge', 'hidden-piece']) {
      const mine = found.filter((each) => each.kind === kind);
      const next = mine.flatMap(({ repairs }) => repairs.slice(0, 1)).reduce(repaired, recipe);
      expect(parseRecipe(JSON.parse(JSON.stringify(next)))).toEqual(next);
      const after = await run(next);
      expect(after.lostPieceDecisions).toEqual([]);
      expect(findingsOf(after, after, next).filter((each) => each.kind === kind).length)
        .withContext(kind)
        .toBeLessThan(mine.length);
      // The same said twice is said once.
      expect(mine.flatMap(({ repairs }) => repairs.slice(0, 1)).reduce(repaired, next).decisions).toEqual(
        next.decisions,
      );
    }
  });

  it('carries out all repairs that make it better, or only those that change no shape', async () => {
    const none = await repairAll(design, recipe, 'none', run);
    expect(none.recipe).toBe(recipe);
    const safe = await repairAll(design, recipe, 'safe', run);
    const all = await repairAll(design, recipe, 'all', run);
    const count = ({ design: made, recipe: said }: typeof all): number => findingsOf(made, made, said).length;
    expect(count(safe)).toBeLessThan(found.length);
    expect(count(all)).toBeLessThanOrEqual(count(safe));
    expect(all.design.stitches.count).toBeLessThan(design.stitches.count);
    const told = new Set(safe.recipe.decisions.map(({ kind }) => kind));
    expect(told.has('sew')).toBeFalse();
  });

  it('lets a finding be until it gets worse or is another one', () => {
    const [first, second] = found;
    const ignored = ignore(recipe, first);
    const said = parseRecipe(JSON.parse(JSON.stringify({ ...recipe, ignored })));
    expect(isIgnored(first, said)).toBeTrue();
    expect(isIgnored(second, said)).toBeFalse();
    expect(isIgnored({ ...first, harm: first.harm * 1.3 }, said)).toBeFalse();
    if (first.at) expect(isIgnored({ ...first, at: { x: first.at.x + 3, y: first.at.y } }, said)).toBeFalse();
    expect(ignore(said, first)).toEqual(ignored);
    expect(() => parseRecipe({ ...recipe, ignored: [{ kind: 'covers', at: null }] })).toThrowError(/harm is missing/);
  });

  it('leaves the ground bare where that is the repair', () => {
    const next = repaired(recipe, { id: 'bare', label: '', safe: false, bareGround: ['picture-1'] });
    expect(pictureOf(next)?.picture.dropGround).toBeTrue();
    const order = repaired(recipe, {
      id: 'x',
      label: '',
      safe: true,
      order: { trimOverMm: 6 },
      stitches: { overlapMm: 1 },
    });
    expect([order.order.trimOverMm, order.stitches.overlapMm]).toEqual([6, 1]);
  });
});

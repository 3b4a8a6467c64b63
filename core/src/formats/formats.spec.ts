import { finishedSize } from '../picture/frame.js';
import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { defaultRecipe, parseRecipe } from '../recipe/recipe.js';
import { pictureOf } from '../recipe/view.js';
import { flatRecipe, onePicture } from '../test/flat-recipe.js';
import { reportOf } from './report.js';
import { drawSmooth, flatScene } from '../test/draw.js';
import { readArchive, writeArchive } from './archive.js';
import { readDesignJson, writeDesignJson } from './design-json.js';
import { writeGcode } from './gcode.js';
import { writePng } from './png.js';
import { readStitchList, writeStitchList } from './stitch-list-csv.js';
import { writeShapeSvg, writeStitchSvg } from './svg.js';

describe('formats', () => {
  let design: Design;
  const recipe = defaultRecipe(160, 160);

  beforeAll(async () => {
    const { scene, palette } = flatScene(160, 4, 5);
    const { raster } = drawSmooth(scene, palette, 160, 160);
    design = await convert(onePicture({ raster, pictureKey: 'p', recipe, charts: [] }));
  });

  it('write a stitch list that reads back the same', () => {
    const text = writeStitchList(design);
    expect(text.split('\n')[0]).toBe('# open-kite stitches 1');
    expect(text).toContain('\nx_mm,y_mm,command,thread,piece\n');
    expect(text.trimEnd().endsWith(`end,${design.stitches.thread[design.stitches.count - 1]},`)).toBeTrue();
    const read = readStitchList(text);
    expect(read.stitches.count).toBe(design.stitches.count);
    expect(read.stitches.x).toEqual(design.stitches.x);
    expect(read.stitches.command).toEqual(design.stitches.command);
    expect(read.picture).toEqual(design.picture);
    expect(writeStitchList(read)).toBe(text);
  });

  it('refuse a damaged stitch list by line', () => {
    const lines = writeStitchList(design).split('\n');
    const broken = (at: number, text: string): string => lines.map((line, i) => (i === at ? text : line)).join('\n');
    const row = lines.indexOf('x_mm,y_mm,command,thread,piece') + 3;
    expect(() => readStitchList('hello')).toThrowError(RangeError, /line 1/);
    expect(() => readStitchList(broken(row, '1,abc,stitch,0,p1'))).toThrowError(
      RangeError,
      new RegExp(`line ${row + 1}: "abc"`),
    );
    expect(() => readStitchList(broken(row, '1,1,fly,0,p1'))).toThrowError(RangeError, /"fly" is not a command/);
    expect(() => readStitchList(broken(row, '1,1,stitch,99,p1'))).toThrowError(RangeError, /no thread 99/);
  });

  it('write JSON that reads back the same', () => {
    const read = readDesignJson(writeDesignJson(design));
    expect(writeStitchList(read)).toBe(writeStitchList(design));
    expect(() => readDesignJson('{')).toThrowError(RangeError, /not JSON/);
    expect(() => readDesignJson('{"format":"other"}')).toThrowError(RangeError, /"format" must be/);
  });

  it('write an archive that reads back, and notice damage', () => {
    const pictures = [
      { source: 'picture-1', bytes: Uint8Array.of(1, 2, 3), extension: 'png' },
      { source: 'picture-2', bytes: Uint8Array.of(4, 5), extension: 'svg' },
    ];
    const bytes = writeArchive({ name: 'Kite', recipe, design, pictures });
    expect(writeArchive({ name: 'Kite', recipe, design, pictures })).toEqual(bytes);
    const alone = writeArchive({ name: 'Kite', recipe, design, pictures: pictures.slice(0, 1) });
    expect(readArchive(alone).pictures).toEqual(pictures.slice(0, 1));
    const read = readArchive(bytes);
    expect(read.name).toBe('Kite');
    expect(read.recipe).toEqual(recipe);
    expect(read.pictures).toEqual(pictures);
    expect(writeStitchList(read.sewing)).toBe(writeStitchList(design));
    expect(() => readArchive(bytes.subarray(0, bytes.length / 2))).toThrowError(RangeError, /project archive/);
    expect(() => readArchive(Uint8Array.of(80, 75))).toThrowError(RangeError, /project archive/);
  });

  it('write SVG of stitches and of shapes', () => {
    const stitches = writeStitchSvg(design);
    expect(stitches).toContain(`width="${Number((100 + 6).toFixed(2))}mm"`.slice(0, 7));
    expect(stitches.match(/<path/g)?.length).toBeGreaterThan(2);
    const shapes = writeShapeSvg(design);
    expect(shapes.match(/<path/g)?.length).toBe(design.pieces.length);
  });

  it('write G-code with a turn of the needle for every stitch', () => {
    const gcode = writeGcode(design);
    const stitches = reportOf(design, undefined, {}).stitches;
    expect(gcode.match(/^G0 Z1$/gm)?.length).toBe(stitches);
    expect(gcode.trimEnd().endsWith('M30')).toBeTrue();
  });

  it('write a PNG that starts like one', () => {
    const { raster } = drawSmooth(() => 0, [{ r: 1, g: 2, b: 3 }], 5, 4);
    expect([...writePng(raster).subarray(0, 4)]).toEqual([137, 80, 78, 71]);
  });
});

const OUTLINE = {
  kind: 'outline',
  id: 'edge',
  name: '',
  hidden: false,
  locked: false,
  offsetMm: 0,
  widthMm: 3,
  as: 'satin',
  paint: { hex: '#204060' },
};

describe('parseRecipe', () => {
  const fresh = defaultRecipe(1000, 500);
  const recipe = flatRecipe(1000, 500);

  it('accepts what defaultRecipe gives', () => {
    expect(parseRecipe(JSON.parse(JSON.stringify(fresh)))).toEqual(fresh);
    expect(parseRecipe(recipe)).toEqual(fresh);
    const picture = pictureOf(fresh)?.picture;
    expect(picture && finishedSize(picture)).toEqual({ widthMm: 100, heightMm: 50 });
    expect(picture?.dropGround).toBeTrue();
  });

  const refused: readonly [string, unknown, RegExp][] = [
    ['a size that is no number', { ...recipe, picture: { ...recipe.picture, widthMm: 'abc' } }, /widthMm/],
    [
      'a size under the least',
      { ...recipe, picture: { ...recipe.picture, widthMm: -5 } },
      /widthMm must be a number from 5 to 400, got -5/,
    ],
    [
      'no colours',
      { ...recipe, colours: { ...recipe.colours, count: 0 } },
      /whole number from 1 to 60, or auto, got 0/,
    ],
    ['an unknown fabric', { ...recipe, stitches: { ...recipe.stitches, fabric: 'paper' } }, /paper/],
    ['a setting nobody knows', { ...recipe, colour: 3 }, /colour/],
    ['another version', { ...recipe, version: 8 }, /version must be 1 to 7/],
    ['nothing', null, /recipe/],
    ['an object twice', { ...fresh, objects: [...fresh.objects, ...fresh.objects] }, /"picture-1" is there twice/],
    [
      'an object of no kind',
      { ...fresh, objects: [{ kind: 'cloud' }] },
      /no kind of object "cloud"; known are picture/,
    ],
    [
      'an outline of nothing',
      { ...fresh, objects: [{ ...OUTLINE, of: 'gone', on: null }] },
      /"edge" belongs to "gone", which is not there/,
    ],
    ['an outline of itself', { ...fresh, objects: [{ ...OUTLINE, of: 'edge', on: null }] }, /belongs to itself/],
  ];
  for (const [what, value, message] of refused) {
    it(`refuses ${what}`, () => expect(() => parseRecipe(value)).toThrowError(RangeError, message));
  }
});

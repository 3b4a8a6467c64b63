import fc from 'fast-check';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { readSvg } from '../artwork/read-svg.js';
import { parseChart, parseChartFile, parsePalette } from '../colour/chart-files.js';
import { readArchive, writeArchive } from '../formats/archive.js';
import { readDesignJson, writeDesignJson } from '../formats/design-json.js';
import { namesOf } from '../formats/name-list.js';
import { parsePrintedGrid } from '../formats/printed-grid.js';
import { readStitchList, writeStitchList } from '../formats/stitch-list-csv.js';
import type { Design } from '../design/design.js';
import { parseRecipe, type Recipe } from '../recipe/recipe.js';
import { OLD_RECIPES } from './old-recipes.js';
import { wildSvg } from './wild-svg.js';

/** A reader of what people hand over, and files for it that are nearly right. */
export interface FuzzedReader {
  readonly name: string;
  /** Reads one; anything but a RangeError is a fault of ours. */
  readonly read: (value: unknown) => void;
  readonly files: fc.Arbitrary<unknown>;
}

/** What stands where a number, a word or a list was expected. */
const oddValue: fc.Arbitrary<unknown> = fc.oneof(
  fc.jsonValue({ maxDepth: 2 }),
  fc.constantFrom(
    null,
    -1,
    1e308,
    -0,
    0.1,
    4294967296,
    '',
    'NaN',
    '__proto__',
    '#zzzzzz',
    '#123456',
    [],
    {},
    [[]],
    true,
    'a'.repeat(5000),
    JSON.parse('{"__proto__": {"kind": "picture"}, "constructor": 1}') as unknown,
  ),
);

interface Stab {
  readonly at: number;
  readonly how: 'replace' | 'drop' | 'add' | 'twice';
  readonly value: unknown;
}

const stabs = fc.array(
  fc.record({
    at: fc.double({ min: 0, max: 1, noNaN: true, maxExcluded: true }),
    how: fc.constantFrom('replace', 'replace', 'drop', 'add', 'twice'),
    value: oddValue,
  }),
  { minLength: 1, maxLength: 4 },
) as fc.Arbitrary<Stab[]>;

type Holder = Record<string | number, unknown>;

/** Every place of plain data something stands at. */
function placesOf(value: unknown, out: [Holder, string | number][] = []): [Holder, string | number][] {
  if (typeof value !== 'object' || value === null) return out;
  const holder = value as Holder;
  const keys = Array.isArray(value) ? value.slice(0, 40).map((_, i) => i) : Object.keys(value);
  for (const key of keys) {
    out.push([holder, key]);
    placesOf(holder[key], out);
  }
  return out;
}

const copyOf = (value: unknown): unknown => (value === undefined ? undefined : JSON.parse(JSON.stringify(value)));

/** Plain data with a few places changed. */
function stabbed(value: unknown, list: readonly Stab[]): unknown {
  const root = { value: copyOf(value) };
  for (const { at, how, value: given } of list) {
    const odd = copyOf(given);
    const places = placesOf(root);
    // Nothing is left to be changed where all was dropped.
    if (places.length === 0) break;
    const [holder, key] = places[Math.floor(at * places.length)];
    if (how === 'replace') holder[key] = odd;
    else if (how === 'drop' && Array.isArray(holder)) holder.splice(Number(key), 1);
    else if (how === 'drop') Reflect.deleteProperty(holder, key);
    else if (how === 'twice' && Array.isArray(holder)) holder.push(copyOf(holder[Number(key)]));
    else Object.defineProperty(holder, 'extra', { value: odd, enumerable: true, configurable: true, writable: true });
  }
  return root.value;
}

/** Signs that mean something to one of the readers. */
const ODD_TEXT = ['"', ',', '\n', '\r', '\0', '<', '>', '&', '#', '{', '}', '/', '-', '1e999', '\u{1f41f}', 'é', ' '];

const cuts = fc.array(
  fc.record({
    from: fc.double({ min: 0, max: 1, noNaN: true }),
    length: fc.oneof(fc.nat(3), fc.nat(200)),
    put: fc.oneof(fc.constantFrom(...ODD_TEXT), fc.string({ maxLength: 12 })),
  }),
  { minLength: 1, maxLength: 5 },
);

interface Cut {
  readonly from: number;
  readonly length: number;
  readonly put: string;
}

/** A text with a few places cut out and others put in. */
function cutUp(text: string, list: readonly Cut[]): string {
  return list.reduce((now, { from, length, put }) => {
    const at = Math.floor(from * now.length);
    return now.slice(0, at) + put + now.slice(at + length);
  }, text);
}

const text = (sources: readonly string[]): fc.Arbitrary<string> =>
  fc.tuple(fc.constantFrom(...sources), cuts).map(([source, list]) => cutUp(source, list));
/** Words and numbers that stand where another one was expected. */
const ODD_WORDS = [
  '0',
  '-1',
  '1e308',
  '1e-320',
  'NaN',
  '1e999',
  'none',
  'url(#fade)',
  '#loop',
  'inherit',
  '50%',
  '3in',
  'a',
  '-.5.5',
  '0x10',
  'trim',
  'stitch',
  '4294967296',
  '',
];

/** A text with a few of its words and numbers exchanged, so that its grammar holds. */
const words = (sources: readonly string[]): fc.Arbitrary<string> =>
  fc
    .tuple(
      fc.constantFrom(...sources),
      fc.array(
        fc.tuple(
          fc.double({ min: 0, max: 1, noNaN: true }),
          fc.oneof(fc.constantFrom(...ODD_WORDS), fc.double().map(String)),
        ),
        { minLength: 1, maxLength: 6 },
      ),
    )
    .map(([source, list]) =>
      list.reduce((now, [from, word]) => {
        const at = Math.floor(from * now.length);
        // In artwork only values are exchanged: with another name of an element nothing else would be read.
        const begin = source.startsWith('<') ? now.indexOf('="', at) + 2 : at;
        if (begin < at) return now;
        return now.slice(0, begin) + now.slice(begin).replace(/[\w.#%-]+/, () => word);
      }, source),
    );
const data = (sources: readonly unknown[]): fc.Arbitrary<unknown> =>
  fc.tuple(fc.constantFrom(...sources), stabs).map(([source, list]) => stabbed(source, list));

/** An archive with a file changed; its sums are right, so that it is read on. */
function archives(whole: Uint8Array): fc.Arbitrary<unknown> {
  const files = unzipSync(whole);
  const decode = (name: string): string => strFromU8(files[name]);
  const json = (name: string): unknown => JSON.parse(decode(name)) as unknown;
  const manifest = json('manifest.json') as Record<string, unknown>;
  const packed = (name: string, content: string): Uint8Array => {
    const without = { ...manifest, files: {} };
    return zipSync({ ...files, 'manifest.json': strToU8(JSON.stringify(without)), [name]: strToU8(content) });
  };
  return fc.oneof(
    stabs.map((list) => packed('manifest.json', JSON.stringify(stabbed(manifest, list)))),
    stabs.map((list) => packed('recipe.json', JSON.stringify(stabbed(json('recipe.json'), list)))),
    cuts.map((list) => packed('stitches.csv', cutUp(decode('stitches.csv'), list))),
    cuts.map((list) => packed('design.json', cutUp(decode('design.json'), list))),
    fc.tuple(fc.nat(whole.length - 1), fc.nat(255), fc.nat(40)).map(([at, byte, less]) => {
      const bytes = whole.slice(0, Math.max(0, whole.length - less));
      bytes[at % bytes.length] = byte;
      return bytes;
    }),
    fc.uint8Array({ maxLength: 200 }),
  );
}

/**
 * Everything that reads what people hand over.
 * @param design a small one, to begin from
 */
export function fuzzedReaders(design: Design, recipe: Recipe): FuzzedReader[] {
  const chart =
    'code,name,hex,strand\n101,Harbour blue,#204060,40\n102,"Sail, cream",#f0ead8,\n103,Kite red,#c04020,40\n';
  const palette = 'GIMP Palette\nName: Lantern Bay\nColumns: 2\n#\n 32  64  96\tHarbour blue\n192 64 32 Kite red\n';
  const grid = {
    name: 'Kite',
    cols: 3,
    rows: 2,
    cellMm: 2.5,
    clothHex: '#f0ead8',
    threads: [{ code: '101', name: 'Harbour blue', hex: '#204060', lengthM: 2 }],
    cells: [0, 6],
    backs: [],
  };
  const pictures = [{ source: 'picture-1', bytes: Uint8Array.of(1, 2, 3), extension: 'png' }];
  const svgs = Array.from({ length: 12 }, (_, i) => wildSvg(900 + i));
  return [
    {
      name: 'recipe',
      read: (value) => void parseRecipe(value),
      files: data([recipe, ...OLD_RECIPES.map((old) => old.recipe)]),
    },
    { name: 'artwork (SVG)', read: (value) => void readSvg(value as string), files: fc.oneof(text(svgs), words(svgs)) },
    {
      name: 'stitch list (CSV)',
      read: (value) => void readStitchList(value as string),
      files: fc.oneof(text([writeStitchList(design)]), words([writeStitchList(design)])),
    },
    {
      name: 'design (JSON)',
      read: (value) => void readDesignJson(value as string),
      files: fc.oneof(
        text([writeDesignJson(design)]),
        data([JSON.parse(writeDesignJson(design))]).map((value) => JSON.stringify(value)),
      ),
    },
    {
      name: 'archive (ZIP)',
      read: (value) => void readArchive(value as Uint8Array),
      files: archives(writeArchive({ name: 'Kite', recipe, design, pictures })),
    },
    {
      name: 'thread chart (CSV)',
      read: (value) => void [parseChart(value as string), parseChartFile(value as string)],
      files: text([chart]),
    },
    { name: 'palette', read: (value) => void parsePalette(value as string), files: text([palette]) },
    { name: 'names (CSV)', read: (value) => void namesOf(value as string), files: text(['name\nMira\n"Oru, Kell"\n']) },
    { name: 'printed grid (JSON)', read: (value) => void parsePrintedGrid(value), files: data([grid]) },
  ];
}

/** Something a reader answered that is none of its own errors. */
export interface ReaderFault {
  readonly error: string;
  readonly file: string;
}

/** Reads so many files; gives the smallest it failed on, and the longest any took in ms. */
export function fuzzReader(
  { read, files }: FuzzedReader,
  count: number,
  seed: number,
  now: () => number = () => 0,
): { readonly fault: ReaderFault | undefined; readonly slowestMs: number; readonly refused: number } {
  let [slowestMs, refused] = [0, 0];
  const result = fc.check(
    fc.property(files, (file) => {
      const from = now();
      try {
        read(file);
      } catch (error) {
        if (
          !(error instanceof RangeError) ||
          /call stack|Invalid (array|string|typed array) length/.test(error.message)
        )
          throw error;
        refused++;
      } finally {
        slowestMs = Math.max(slowestMs, now() - from);
      }
    }),
    { numRuns: count, seed },
  );
  const { failed, counterexample, errorInstance } = result;
  const shown = (file: unknown): string => (typeof file === 'string' ? file : JSON.stringify(file)).slice(0, 2000);
  const fault = failed ? { error: String(errorInstance), file: shown(counterexample?.[0]) } : undefined;
  return { fault, slowestMs, refused };
}

import { seededRandom } from '../geometry/chance.js';
import { STITCH, StitchWriter } from '../sequence/stitch-list.js';
import type { Sewing } from '../sequence/sewing.js';
import { readDesignJson } from './design-json.js';
import { plainNumber } from './plain-number.js';
import { readStitchList, writeStitchList } from './stitch-list-csv.js';

const NAMES = ['Kelp', 'Red, warm', 'the "good" one', ' edge ', "d'or", 'é, #', '"', 'a,b,"c"'];

function sewing(random: () => number): Sewing {
  const name = (): string => NAMES[Math.floor(random() * NAMES.length)];
  const threads = Array.from({ length: 3 }, () => ({
    code: name(),
    name: name(),
    hex: '#203040',
    chart: 'own',
    deltaE: 0,
  }));
  const writer = new StitchWriter();
  for (let i = 0; i < 20; i++) writer.add(Math.round(random() * 5e4) / 1000, i, STITCH, i % 3, i % 2);
  const pieceIds = ['piece 1', 'sail, "2"'];
  return {
    fabric: { id: 'pique', hex: '#f4f1ea' },
    picture: null,
    threads,
    stitches: writer.finish(),
    pieceIds,
  } as never;
}

describe('a stitch list', () => {
  it('comes back whole, whatever threads and pieces are called', () => {
    const random = seededRandom(3);
    for (let i = 0; i < 40; i++) {
      const design = sewing(random);
      const read = readStitchList(writeStitchList(design));
      const trimmed = design.threads.map((t) => ({ ...t, code: t.code.trim(), name: t.name.trim() }));
      expect([...read.threads]).toEqual(trimmed);
      expect([...read.pieceIds]).toEqual([...design.pieceIds]);
      expect([...read.stitches.x]).toEqual([...design.stitches.x]);
      expect([...read.stitches.piece]).toEqual([...design.stitches.piece]);
    }
  });

  it('is refused where it is not as it must be, with the line', () => {
    const good = writeStitchList(sewing(seededRandom(1)));
    const bad: [string, RegExp][] = [
      ['', /line 1 must be/],
      ['# open-kite stitches 2\n', /line 1 must be/],
      ['# open-kite stitches 1\n', /no rows/],
      [good.replace('x_mm', 'x'), /line \d+: expected the column names/],
      [good + '1,2,fly,0,\n', /"fly" is not a command/],
      [good + '1,2,stitch,9,\n', /there is no thread 9/],
      [good + 'x,2,stitch,0,\n', /"x" is not a number/],
      [good + '1,2,stitch\n', /is not a number|no thread/],
      [good.replace('#203040', 'blue'), /"blue" is not a colour/],
      ['\n'.repeat(1000), /line 1 must be/],
    ];
    for (const [text, message] of bad) expect(() => readStitchList(text)).toThrowError(RangeError, message);
  });

  it('is the same however its rows are written', () => {
    const good = writeStitchList(sewing(seededRandom(5)));
    const [head, rows] = [good.slice(0, good.indexOf('x_mm')), good.slice(good.indexOf('x_mm')).split('\n')];
    const plain = readStitchList(good);
    const ways: ((row: string) => string)[] = [
      (row) => row + '\r',
      (row) => `  ${row} `,
      (row) => row.replace(/^([^,]+),/, '"$1",'),
      (row) => row.replace(/^(\d+\.\d+),/, '$1e0,'),
    ];
    for (const way of ways) {
      const other = readStitchList(head + rows.map((row, i) => (i === 0 || row === '' ? row : way(row))).join('\n'));
      expect([...other.stitches.x]).toEqual([...plain.stitches.x]);
      expect([...other.stitches.piece]).toEqual([...plain.stitches.piece]);
      expect(other.stitches.count).toBe(plain.stitches.count);
    }
  });

  it('has plain numbers read as they always are, and leaves the others', () => {
    const random = seededRandom(11);
    for (let i = 0; i < 3000; i++) {
      const said = ((random() - 0.5) * 10 ** Math.floor(random() * 6)).toFixed(Math.floor(random() * 6));
      expect(Object.is(plainNumber(`a${said}b`, 1, 1 + said.length), Number(said)))
        .withContext(said)
        .toBeTrue();
    }
    for (const odd of ['', '-', '.', '.5', '5.', '1e3', ' 1', '1 ', '--1', '1.2.3', '0x1', '1234567890123'])
      expect(plainNumber(odd, 0, odd.length))
        .withContext(odd)
        .toBeNaN();
  });
});

describe('design JSON that is read', () => {
  const file = {
    format: 'open-kite design',
    version: 1,
    fabric: { id: 'pique', hex: '#f4f1ea' },
    picture: null,
    threads: [{ code: 'a,b', name: 'Red, "warm"', hex: '#c03020', chart: 'own', deltaE: 1.5 }],
    stitches: { x: [0, 1], y: [0, 2], command: ['stitch', 'end'], thread: [0, 0], piece: ['sail, 2', null] },
  };

  it('keeps names with commas and quotes', () => {
    const pieces = { ...file.stitches, piece: ['sail, 2', ''] };
    const read = readDesignJson(JSON.stringify({ ...file, stitches: pieces }));
    expect(read.threads[0]).toEqual({ code: 'a,b', name: 'Red, "warm"', hex: '#c03020', chart: 'own', deltaE: 1.5 });
    expect([...read.pieceIds]).toEqual(['sail, 2']);
    expect([...read.stitches.x]).toEqual([0, 1]);
  });

  it('says what is wrong in one sentence', () => {
    const bad: [unknown, RegExp][] = [
      [null, /design: /],
      [[], /"format" must be/],
      [{ ...file, format: 'x' }, /"format" must be "open-kite design"/],
      [{ ...file, version: 2 }, /version 2 is not known/],
      [{ ...file, fabric: undefined }, /fabric/],
      [{ ...file, threads: 'x' }, /threads/],
      [{ ...file, threads: [{ ...file.threads[0], hex: 'red' }] }, /thread 0: "red" is not a colour/],
      [{ ...file, stitches: { ...file.stitches, x: 5 } }, /stitches\.x must be a list/],
      [{ ...file, stitches: { ...file.stitches, x: [0] } }, /differ in length/],
      [{ ...file, stitches: { ...file.stitches, command: ['fly', 'end'] } }, /stitch 0: "fly" is not a command/],
      [{ ...file, stitches: { ...file.stitches, y: [0, 'high'] } }, /stitch 1: "high" is not a number/],
      [file, /"null" is not the name of a piece/],
    ];
    for (const [value, message] of bad) {
      expect(() => readDesignJson(JSON.stringify(value))).toThrowError(RangeError, message);
    }
    expect(() => readDesignJson('{')).toThrowError(RangeError, /not JSON/);
  });
});

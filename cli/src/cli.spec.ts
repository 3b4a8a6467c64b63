import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createRaster, defaultRecipe, writePng } from '@open-kite/core';
import { decodePicture } from '@open-kite/server';
import { kite, ROOT } from './test/kite.js';

const CREST = join(ROOT, 'demo/artwork/crest.png');

describe('open-kite', () => {
  let folder: string;
  const at = (name: string): string => join(folder, name);
  beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'open-kite-cli-'))));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('converts into every format, with a report of the fixed shape', async () => {
    const endings = ['kite', 'csv', 'json', 'svg', 'png', 'gcode', 'pdf'];
    const { code, err } = await kite(
      'convert',
      CREST,
      '--colours',
      '6',
      '--width',
      '100',
      ...endings.flatMap((e) => ['--out', at(`a.${e}`)]),
      '--report',
      at('r.json'),
    );
    expect(err).toBe('');
    expect(code).toBe(0);
    for (const ending of endings) expect(readFileSync(at(`a.${ending}`)).length).toBeGreaterThan(1000);
    const report = JSON.parse(readFileSync(at('r.json'), 'utf8')) as Record<string, unknown>;
    const keys = [
      'stitches',
      'jumps',
      'trims',
      'threadChanges',
      'widthMm',
      'heightMm',
      'longestStitchMm',
      'shortStitchShare',
      'minutes',
      'threads',
      'pieces',
      'findings',
      'likeness',
      'seconds',
    ];
    expect(Object.keys(report).sort()).toEqual(keys.sort());
    expect(report['stitches']).toBeGreaterThan(5000);
    expect(report['longestStitchMm']).toBeLessThanOrEqual(12);
    expect(report['shortStitchShare']).toBeLessThan(0.01);
    const { total } = report['seconds'] as { total: number };
    expect(total).toBeGreaterThan(0);
  });

  it('reports the same figures from every form of a design', async () => {
    await kite('convert', CREST, '--width', '50', '--out', at('f.kite'), '--out', at('f.csv'), '--out', at('f.json'));
    const reports = await Promise.all(['kite', 'csv', 'json'].map((e) => kite('report', at(`f.${e}`), '--json')));
    const [kiteReport, csv, json] = reports.map(({ out }) => JSON.parse(out) as Record<string, unknown>);
    expect(csv?.['stitches']).toBe(kiteReport?.['stitches']);
    expect(json?.['minutes']).toEqual(kiteReport?.['minutes']);
    expect(kiteReport?.['likeness']).not.toBeNull();
    expect(csv?.['likeness']).toBeNull();
    expect((await kite('report', at('f.csv'))).out).toContain('stitches');
    // An archive tells how it came about: its findings have pieces and repairs.
    const list = (kiteReport?.['findings'] as { list: { repairs: unknown[] }[] }).list;
    expect(Array.isArray(list)).toBeTrue();
  });

  it('finds what would go wrong, tells where, and repairs it when asked', async () => {
    const art = `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60">
<rect x="4" y="4" width="60" height="9" fill="#204060"/><rect x="4" y="20" width="30" height="30" fill="#c03020"/></svg>`;
    writeFileSync(at('faults.svg'), art);
    const level = { ...defaultRecipe(320, 240, { widthMm: 80, heightMm: 60 }) };
    writeFileSync(
      at('level.json'),
      JSON.stringify({ ...level, stitches: { ...level.stitches, angle: 3, angleStep: 0 } }),
    );
    interface Found {
      findings: { advice: number; list: { kind: string; at: object | null; repairs: { label: string }[] }[] };
    }
    const found = async (repair: string): Promise<Found['findings']> => {
      const given = ['convert', at('faults.svg'), '--recipe', at('level.json'), '--quiet', '--repair', repair];
      const { code, err } = await kite(...given, '--out', at(`${repair}.kite`), '--report', at(`${repair}.json`));
      expect(code).withContext(err).toBe(0);
      return (JSON.parse(readFileSync(at(`${repair}.json`), 'utf8')) as Found).findings;
    };
    const none = await found('none');
    expect(none.list.filter(({ kind }) => kind === 'rows-along-edge').length).toBe(2);
    expect(none.list[0]?.repairs[0]?.label).toContain('Turn its rows');
    expect((await found('safe')).list.some(({ kind }) => kind === 'rows-along-edge')).toBeFalse();
    const { out } = await kite('report', at('none.kite'));
    expect(out).toMatch(/advice +Rows along an edge at -?\d+\.\d, -?\d+\.\d mm: .* \(repair: Turn its rows/);
    expect((await kite('convert', at('faults.svg'), '--repair', 'some', '--out', at('x.csv'))).code).toBe(2);
  });

  it('renders every look', async () => {
    await kite('convert', CREST, '--width', '50', '--out', at('g.csv'));
    for (const look of ['sewn', 'line', 'density', 'forecast']) {
      expect(
        (await kite('render', at('g.csv'), '--out', at(`${look}.png`), '--px-per-mm', '4', '--look', look)).code,
      ).toBe(0);
      expect(readFileSync(at(`${look}.png`)).readUInt32BE(16)).toBe(224);
    }
    expect(readFileSync(at('forecast.png')).equals(readFileSync(at('sewn.png')))).toBeFalse();
  });

  it('gives the same bytes twice', async () => {
    const args = [
      'convert',
      CREST,
      '--chart',
      'saltline,dunegrass',
      '--fabric',
      'pique',
      '--ground',
      'keep',
      '--width',
      '50',
    ];
    const names = ['h.kite', 'h.csv'];
    const made = async (): Promise<Buffer[]> => {
      await kite(...args, ...names.flatMap((name) => ['--out', at(name)]));
      return names.map((name) => readFileSync(at(name)));
    };
    const [first, second] = [await made(), await made()];
    names.forEach((name, k) =>
      expect(second[k]?.equals(first[k] ?? Buffer.of()))
        .withContext(name)
        .toBeTrue(),
    );
  });

  it('scales down what no hoop holds, and says so', async () => {
    const { code, err } = await kite('convert', CREST, '--width', '900', '--out', at('large.csv'), '--quiet');
    expect(code).toBe(0);
    expect(err.trim()).toBe('open-kite: crest.png: 900 x 900 mm is more than a hoop holds; made 400 x 400 mm');
    expect(readFileSync(at('large.csv'), 'utf8')).toContain('# picture_mm,-200.0,-200.0,400.0,400.0');
  });

  it('takes masks, light and decisions from a recipe, and threads of the drawer from a file', async () => {
    const recipe = defaultRecipe(1000, 1000);
    const mask = { shape: 'heart', x: 0, y: 0, widthMm: 60, heightMm: 56, turn: 0 } as const;
    const objects = recipe.objects.map((object) =>
      object.kind === 'picture'
        ? {
            ...object,
            picture: { ...object.picture, mask },
            light: { ...object.light, contrast: 10 },
            colours: { ...object.colours, stashOnly: true, charts: ['saltline'] },
          }
        : object,
    );
    const made = { ...recipe, objects };
    writeFileSync(at('recipe.json'), JSON.stringify(made));
    writeFileSync(at('drawer.csv'), 'chart,code,spools\nsaltline,SL-0402,2\nsaltline,SL-0806,1\nsaltline,SL-1407,0\n');
    const args = ['convert', CREST, '--recipe', at('recipe.json'), '--quiet', '--out', at('heart.csv')];
    const { code, err } = await kite(...args, '--stash', at('drawer.csv'));
    expect([code, err]).toEqual([0, '']);
    const lines = readFileSync(at('heart.csv'), 'utf8').split('\n');
    const threads = lines.filter((line) => line.startsWith('# thread,')).map((line) => line.split(',')[2]);
    expect([...new Set(threads)].sort()).toEqual(['SL-0402', 'SL-0806']);
    expect(lines.find((line) => line.startsWith('# size_mm,'))).toMatch(/^# size_mm,(59|60)\.\d,(55|56)\.\d$/);
    const without = await kite(...args.slice(0, -1), at('none.csv'));
    expect(without.code).toBe(2);
    expect(without.err.trim()).toBe(
      'open-kite: stash: only threads of the drawer are to be used, and there is none in it',
    );
    writeFileSync(at('drawer.csv'), 'saltline\n');
    expect((await kite(...args, '--stash', at('drawer.csv'))).err.trim()).toBe(
      'open-kite: drawer.csv: line 1: chart and code are needed',
    );
  });

  it('stays within a budget', async () => {
    await kite('convert', CREST, '--budget', '6000', '--out', at('b.csv'), '--report', at('b.json'));
    const { stitches } = JSON.parse(readFileSync(at('b.json'), 'utf8')) as { stitches: number };
    expect(stitches).toBeLessThanOrEqual(6000);
    expect(stitches).toBeGreaterThan(5500);
  });

  it('converts a folder, and goes on after a bad picture', async () => {
    const pictures = mkdtempSync(at('in-'));
    writeFileSync(join(pictures, 'a.png'), readFileSync(join(ROOT, 'demo/artwork/quilt-block.png')));
    writeFileSync(join(pictures, 'b.png'), 'no picture');
    const { code, err } = await kite('batch', pictures, '--out', at('batch'));
    expect(code).toBe(2);
    expect(err).toContain('b.png: not a picture that can be read');
    expect(readdirSync(at('batch'))).toEqual(['a.kite']);
  });

  it('traces shapes alone, one path a piece', async () => {
    await kite('trace', CREST, '--out', at('t.svg'), '--colours', '6');
    const svg = readFileSync(at('t.svg'), 'utf8');
    expect(svg.match(/<path /g)?.length).toBeGreaterThan(20);
    expect(svg).toContain('viewBox="-50 -50 100 100"');
  });

  it('reduces a picture to the colours asked for, at its own size', async () => {
    for (const [name, ...flags] of [
      ['own', '--colours', '4'],
      ['chart', '--colours', '4', '--chart', 'saltline'],
    ]) {
      expect((await kite('reduce', CREST, '--out', at(`${name}.png`), ...flags)).code).toBe(0);
      const { raster } = await decodePicture(readFileSync(at(`${name}.png`)));
      expect([raster.width, raster.height]).toEqual([1000, 1000]);
      expect(new Set(new Uint32Array(raster.data.buffer, raster.data.byteOffset, 1e6)).size).toBe(4);
    }
  });

  /** Starts the server and waits for the address it prints. */
  function serve(...args: string[]): Promise<{ child: ChildProcess; address: string }> {
    const child = spawn(process.execPath, [join(ROOT, 'cli/bin/open-kite.js'), 'serve', '--port', '0', ...args]);
    return new Promise((resolve, reject) => {
      let said = '';
      child.stdout.on('data', (part: Buffer) => {
        said += part.toString();
        const address = /ready at (http:\/\/127\.0\.0\.1:\d+)/.exec(said)?.[1];
        if (address) resolve({ child, address });
      });
      child.on('exit', (code) => reject(new Error(`serve ended with ${code}: ${said}`)));
    });
  }

  it('serves, and loses nothing when it is killed in the middle of its work', async () => {
    const data = at('store');
    const first = await serve('--data', data);
    const picture = (await (
      await fetch(`${first.address}/api/pictures`, { method: 'POST', body: readFileSync(CREST) })
    ).json()) as {
      hash: string;
    };
    const send = (method: string, path: string, body: object): Promise<Response> =>
      fetch(first.address + path, {
        method,
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
    const made = (await (await send('POST', '/api/projects', { name: 'Kept', picture: picture.hash })).json()) as {
      id: string;
      recipe: { stitches: { angle: number } };
    };
    const { recipe } = made;
    recipe.stitches.angle = 77;
    const save = { revision: 1, name: 'Kept', recipe, keep: 0, entries: [], position: 0 };
    expect((await send('PUT', `/api/projects/${made.id}`, save)).status).toBe(200);
    // A second picture is on its way when the process dies.
    const cut = fetch(`${first.address}/api/pictures`, { method: 'POST', body: readFileSync(CREST) }).catch(
      () => undefined,
    );
    first.child.removeAllListeners('exit');
    first.child.kill('SIGKILL');
    await cut;
    const second = await serve('--data', data);
    const again = (await (await fetch(`${second.address}/api/projects/${made.id}`)).json()) as {
      revision: number;
      recipe: unknown;
    };
    expect(again.revision).toBe(2);
    expect(again.recipe).toEqual(recipe);
    second.child.removeAllListeners('exit');
    const ended = new Promise((resolve) => second.child.once('exit', resolve));
    second.child.kill('SIGTERM');
    expect(await ended).toBe(0);
  });

  it('takes vector artwork as it is: its colours, its lines, its size', async () => {
    writeFileSync(
      at('art.svg'),
      '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40"><style>.a{fill:#2c6e80}</style><rect class="a" x="5" y="5" width="30" height="30"/><path d="M40 5v30" stroke="#c8481f" stroke-width="0.6"/></svg>',
    );
    const { code, err } = await kite(
      'convert',
      at('art.svg'),
      '--out',
      at('art.json'),
      '--report',
      at('art-report.json'),
    );
    expect(err).toBe('');
    expect(code).toBe(0);
    const report = JSON.parse(readFileSync(at('art-report.json'), 'utf8')) as {
      pieces: number;
      widthMm: number;
      threads: { hex: string }[];
    };
    expect(report.pieces).toBe(2);
    expect(report.threads.map((t) => t.hex).sort()).toEqual(['#2c6e80', '#c8481f']);
    expect(report.widthMm).toBeGreaterThan(34);
    expect(report.widthMm).toBeLessThan(38);
    const traced = await kite('trace', at('art.svg'), '--out', at('shapes.svg'));
    expect(traced.code).toBe(0);
    expect(readFileSync(at('shapes.svg'), 'utf8').match(/<path/g)?.length).toBeGreaterThan(1);
  });

  it('says why artwork without shapes cannot be sewn', async () => {
    writeFileSync(
      at('words.svg'),
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 40"><text x="3" y="9">Fair</text></svg>',
    );
    const { code, err } = await kite('convert', at('words.svg'), '--out', at('words.csv'));
    expect(code).toBe(2);
    expect(err).toContain('outlines');
    expect(existsSync(at('words.csv'))).toBeFalse();
  });

  it('says so where a picture has nothing to sew', async () => {
    writeFileSync(at('clear.png'), writePng(createRaster(60, 40)));
    const { code, err } = await kite('convert', at('clear.png'), '--quiet', '--out', at('clear.csv'));
    expect(code).toBe(2);
    expect(err).toMatch(/clear\.png: there is nothing in this picture that can be sewn\. All of it is bare/);
    expect(existsSync(at('clear.csv'))).toBeFalse();
  });

  it('says what is wrong on one line, exits with 2 and leaves nothing behind', async () => {
    writeFileSync(at('text.png'), 'only text');
    writeFileSync(at('cut.png'), readFileSync(CREST).subarray(0, 20000));
    writeFileSync(at('none.png'), '');
    writeFileSync(at('bad.svg'), '<svg xmlns="http://www.w3.org/2000/svg"><image href="http://a.test/b.png"/></svg>');
    const out = ['--out', at('never.csv')];
    const cases: [string[], RegExp][] = [
      [['convert', at('text.png'), ...out], /^open-kite: text\.png: not a picture that can be read \(/],
      [['convert', at('cut.png'), ...out], /damaged or incomplete/],
      [['convert', at('none.png'), ...out], /empty/],
      [['convert', at('bad.svg'), ...out], /outside the file/],
      [['convert', at('missing.png'), ...out], /there is no such file/],
      [['convert', CREST, '--width', 'abc', ...out], /--width must be a number from 5 to 400, got "abc"/],
      [['convert', CREST, '--width', '-5', ...out], /--width .*got "-5"/],
      [['convert', CREST, '--colours', '0', ...out], /--colours must be a whole number from 1 to 60, got "0"/],
      [['convert', CREST, '--chart', 'none-such', ...out], /there is no "none-such"/],
      [['convert', CREST, '--fabric', 'paper', ...out], /there is no "paper"/],
      [['convert', CREST, '--method', 'weaving', ...out], /must be one of auto, pieces, rows/],
      [['convert', CREST, '--budget', '1', ...out], /too few/],
      [['convert', CREST, '--out', at('never.xyz')], /an output ends in one of/],
      [['convert', CREST], /--out/],
      [['report', at('text.png')], /a design ends in/],
      [['render', at('missing.csv'), '--out', at('never.png')], /there is no such file/],
      [['fly'], /unknown command/],
    ];
    for (const [args, message] of cases) {
      const { code, err } = await kite(...args);
      expect(code).withContext(args.join(' ')).toBe(2);
      expect(err).toMatch(message);
      expect(err.trimEnd().split('\n').length).withContext(err).toBe(1);
    }
    expect(readdirSync(folder).filter((name) => name.includes('never') || name.endsWith('.part'))).toEqual([]);
    expect(existsSync(at('never.csv'))).toBeFalse();
  });

  it('prints the chart of counted crosses, and of nothing else', async () => {
    const quilt = CREST.replace('crest', 'quilt-block');
    const { code, err } = await kite('convert', quilt, '--method', 'cross', '--out', at('q.chart.pdf'), '--quiet');
    expect(err).toBe('');
    expect(code).toBe(0);
    expect(readFileSync(at('q.chart.pdf')).subarray(0, 5).toString()).toBe('%PDF-');
    const no = await kite('convert', CREST, '--width', '40', '--out', at('no.chart.pdf'), '--quiet');
    expect(no.code).toBe(2);
    expect(no.err).toContain('not made of counted crosses');
    expect(existsSync(at('no.chart.pdf'))).toBeFalse();
  });
});

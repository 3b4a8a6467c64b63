import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { promisify } from 'node:util';
import { execFile } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createRaster, practiceCloth, practicePhoto, readArchive, readStitchList, writePng } from '@open-kite/core';
import { serve } from '@open-kite/server';
import { BINARY, kite, ROOT } from './test/kite.js';

describe('open-kite with designs', () => {
  let folder: string;
  const at = (name: string): string => join(folder, name);
  const text = (name: string): string => readFileSync(at(name), 'utf8');
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'open-kite-designs-'));
    await kite('letters', 'Bay Kite', '--font', 'round-sans', '--height', '9', '--out', at('bay.csv'));
  });
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  describe('letters', () => {
    it('sets a text in strokes, on an arc as well', async () => {
      const { threads, stitches } = readStitchList(text('bay.csv'));
      expect(threads.map(({ hex }) => hex)).toEqual(['#204060']);
      expect(stitches.count).toBeGreaterThan(300);
      const arc = ['--line', 'arc', '--radius', '25', '--hex', '#a03020', '--fabric', 'poplin'];
      const { code, err } = await kite('letters', 'Bay', '--font', 'rope-slab', ...arc, '--out', at('arc.kite'));
      expect(err).toBe('');
      expect(code).toBe(0);
      const { recipe } = readArchive(readFileSync(at('arc.kite')));
      const [letters] = recipe.objects;
      expect(letters?.kind === 'letters' && [letters.text, letters.line, letters.radiusMm]).toEqual([
        'Bay',
        'arc-up',
        25,
      ]);
      expect(recipe.cloth.fabric).toBe('poplin');
    });

    it('sets one in a shipped font, whose outlines the archive holds', async () => {
      expect((await kite('letters', 'Ävé', '--font', 'rubik', '--height', '14', '--out', at('font.kite'))).code).toBe(
        0,
      );
      const [letters] = readArchive(readFileSync(at('font.kite'))).recipe.objects;
      expect(letters?.kind === 'letters' && Object.keys(letters.outlines?.glyphs ?? {}).sort()).toEqual([
        ' ',
        'v',
        'Ä',
        'é',
      ]);
    });

    it('makes a design of each name of a list, and says which cannot be', async () => {
      writeFileSync(at('names.csv'), 'text,height,hex\nImke,8,#102030\nJorun,,\n漢字,,\nImke,9,\n');
      const { code, err } = await kite(
        'letters',
        '--names',
        at('names.csv'),
        '--font',
        'round-sans',
        '--out',
        at('names'),
      );
      expect(code).toBe(2);
      expect(err).toContain('names.csv: line 4: the font round-sans has no "漢", "字"');
      expect(err).toContain('1 of 4 names could not be made');
      expect(readdirSync(at('names')).sort()).toEqual(['Imke-2.kite', 'Imke.kite', 'Jorun.kite']);
    });

    it('makes a long list on several threads: the same designs, and faults in the order of their lines', async () => {
      const names = Array.from({ length: 16 }, (_, i) => `Kite ${i},8,,`);
      const lines = ['text,height,hex,fabric', '漢字,,,', ...names, 'Jorun,8,,tweed', 'Bay,tall,,', ''];
      writeFileSync(at('long.csv'), lines.join('\n'));
      const args = ['--font', 'round-sans', '--height', '8', '--out'];
      const { code, err } = await kite('letters', '--names', at('long.csv'), ...args, at('long'));
      expect(code).toBe(2);
      const told = ['line 2: the font', 'line 19: fabric: there is no "tweed"', 'line 20: height must be a number'];
      const places = told.map((words) => err.indexOf(words));
      expect(places.every((place) => place >= 0))
        .withContext(err)
        .toBeTrue();
      expect(places).toEqual([...places].sort((a, b) => a - b));
      expect(err).toContain('3 of 19 names could not be made');
      expect(readdirSync(at('long')).length).toBe(16);
      const alone = join(at('alone'), 'Kite-7.kite');
      await kite('letters', 'Kite 7', ...args, alone);
      expect(readFileSync(join(at('long'), 'Kite-7.kite')).equals(readFileSync(alone))).toBeTrue();
    });

    it('answers what makes no sense in one line', async () => {
      for (const [args, said] of [
        [['Bay', '--font', 'comic'], 'there is no font "comic"'],
        [['Bay', '--font', 'round-sans', '--height', '900'], '--height must be a number from 2 to 200'],
        [['--font', 'round-sans'], 'there is no text'],
        [['Bay', '--font', 'round-sans', '--hex', 'red'], '--hex must be a colour like #204060'],
      ] as const) {
        const { code, err } = await kite('letters', ...args, '--out', at('nothing.csv'));
        expect(code).withContext(said).toBe(2);
        expect(err).toContain(said);
        expect(err.trim().split('\n').length).toBe(1);
      }
      expect(existsSync(at('nothing.csv'))).toBe(false);
    });

    it('lists its fonts, our own first', async () => {
      const fonts = JSON.parse((await kite('fonts', '--json')).out) as { id: string; leastMm: number }[];
      expect(fonts[0]?.id).toBe('round-sans');
      expect(fonts.length).toBeGreaterThanOrEqual(11);
      expect((await kite('fonts')).out.split('\n').length).toBe(fonts.length + 1);
    });
  });

  describe('export', () => {
    it('writes any format from any, and what was read again is the same', async () => {
      const outs = ['b.json', 'b.kite', 'b.svg', 'b.png', 'b.gcode', 'b.pdf', 'b.threads.csv', 'b.csv'];
      const { code, err } = await kite('export', at('bay.csv'), ...outs.flatMap((name) => ['--out', at(name)]));
      expect(err).toBe('');
      expect(code).toBe(0);
      expect(text('b.csv')).toBe(text('bay.csv'));
      expect(text('b.threads.csv')).toContain('code,name,hex,chart,stitches,length_m');
      mkdirSync(at('again'), { recursive: true });
      for (const name of ['b.json', 'b.kite']) {
        await kite('export', at(name), '--out', at(`again/${name}`));
        expect(readFileSync(at(`again/${name}`)).equals(readFileSync(at(name)))).toBe(true);
      }
      await kite('export', at('b.kite'), '--out', at('again/b.csv'));
      expect(text('again/b.csv')).toBe(text('bay.csv'));
    });

    it('keeps a converted picture whole, pictures and all', async () => {
      const crest = join(ROOT, 'demo/artwork/quilt-block.png');
      await kite('convert', crest, '--width', '40', '--out', at('q.kite'));
      mkdirSync(at('again'), { recursive: true });
      await kite('export', at('q.kite'), '--out', at('again/q.kite'));
      expect(readFileSync(at('again/q.kite')).equals(readFileSync(at('q.kite')))).toBe(true);
    });

    it('says what is wrong with a file', async () => {
      writeFileSync(at('bad.csv'), '# open-kite stitches 1\nnonsense\n');
      const { code, err } = await kite('export', at('bad.csv'), '--out', at('x.svg'));
      expect(code).toBe(2);
      expect(err).toContain('bad.csv: stitch list: line 2');
      expect((await kite('export', at('bay.csv'), '--out', at('x.dat'))).err).toContain('an output ends in one of');
    });
  });

  describe('batch', () => {
    const pictures = (): string => at('pictures');
    beforeAll(() => {
      mkdirSync(pictures());
      for (const name of ['quilt-block.png', 'pennant.svg']) {
        cpSync(join(ROOT, 'demo/artwork', name), join(pictures(), name));
      }
      cpSync(join(ROOT, 'demo/artwork/quilt-block.png'), join(pictures(), 'pennant.png'));
    });
    const run = (out: string, ...more: string[]) =>
      kite('batch', pictures(), '--out', at(out), '--width', '40', ...more);

    it('gives the same in parts under GNU parallel, as the guide has it, as in one run', async () => {
      await run('whole', '--jobs', '2', '--report', at('batch.json'));
      const said = readFileSync(join(ROOT, 'docs/running.md'), 'utf8');
      const line = /^seq 3 \| parallel .*$/m.exec(said)?.[0] ?? '';
      expect(line).toContain('--part {}/3');
      const here = line
        .replace('open-kite batch', `${process.execPath} ${BINARY} batch`)
        .replace('batch pictures --out designs', `batch ${pictures()} --out ${at('parts')}`);
      await promisify(execFile)('sh', ['-c', here]).catch((error: Error & { code?: number }) => {
        // 127: there is no such command on this machine; the test command installs it where it can.
        if (error.code === 127) pending('GNU parallel is not installed');
        throw error;
      });
      const names = readdirSync(at('whole')).sort();
      expect(names).toEqual(['pennant-png.kite', 'pennant-svg.kite', 'quilt-block.kite']);
      expect(readdirSync(at('parts')).sort()).toEqual(names);
      for (const name of names) {
        expect(readFileSync(at(`parts/${name}`)).equals(readFileSync(at(`whole/${name}`)))).toBe(true);
      }
      const report = JSON.parse(text('batch.json')) as { file: string; state: string; figures: { stitches: number } }[];
      expect(report.map(({ file, state }) => [file, state])).toEqual([
        ['pennant.png', 'done'],
        ['pennant.svg', 'done'],
        ['quilt-block.png', 'done'],
      ]);
      expect(report.every(({ figures }) => figures.stitches > 100)).toBe(true);
    });

    it('keeps what is there from the same picture by the same settings, and only that', async () => {
      await run('kept-here');
      const before = readFileSync(at('kept-here/quilt-block.kite'));
      writeFileSync(at('kept-here/pennant-svg.kite'), 'damaged');
      const { err } = await run('kept-here');
      expect(err).toContain('quilt-block.png (kept)');
      expect(err).not.toContain('pennant.svg (kept)');
      expect(readFileSync(at('kept-here/quilt-block.kite')).equals(before)).toBe(true);
      expect((await run('kept-here', '--colours', '2')).err).not.toContain('kept');
    });

    it('refuses a part that makes no sense', async () => {
      const { code, err } = await run('whole', '--part', '4/3');
      expect(code).toBe(2);
      expect(err).toContain('--part must be K/N');
    });
  });

  describe('card and learn', () => {
    it('make a fabric of a photograph of the sewn card, which convert takes', async () => {
      const made = await kite('card', '--fabric', 'jersey', '--out', at('card.csv'), '--out', at('card.kite'));
      expect([made.code, made.err]).toEqual([0, '']);
      const photo = practicePhoto(readStitchList(text('card.csv')), practiceCloth('fair-shirt'));
      writeFileSync(at('photo.png'), writePng(photo));
      const learn = ['learn', at('photo.png'), '--name', 'Fair shirt', '--fabric', 'jersey', '--out'];
      const learnt = await kite(...learn, at('shirt.json'));
      expect([learnt.code, learnt.err]).toEqual([0, '']);
      expect(learnt.out).toMatch(/^1\d\d places measured; rows of 15 mm are drawn in by 0\.[56]\d* mm across and 0\.3/);
      // By its archive it is the same card.
      expect((await kite(...learn, at('same.json'), '--design', at('card.kite'))).code).toBe(0);
      expect(text('same.json')).toBe(text('shirt.json'));
      const onMine = ['letters', 'Bay', '--font', 'round-sans', '--height', '9', '--fabric', at('shirt.json')];
      expect((await kite(...onMine, '--out', at('mine.kite'))).code).toBe(0);
      const { cloth } = readArchive(readFileSync(at('mine.kite'))).recipe;
      expect([cloth.fabric, cloth.measured?.name, cloth.measured?.pull.length]).toEqual(['jersey', 'Fair shirt', 10]);
      const { measured } = JSON.parse(text('shirt.json')) as { measured: unknown };
      expect(cloth.measured as unknown).toEqual(measured);
    });

    it('say in one line what is missing', async () => {
      writeFileSync(at('white.png'), writePng(createRaster(60, 40)));
      writeFileSync(at('other.json'), '{"format":"another"}');
      const bay = ['letters', 'Bay', '--font', 'round-sans', '--height', '9', '--out', at('x.kite'), '--fabric'];
      const cases: readonly [string[], RegExp][] = [
        [['learn', at('white.png'), '--name', 'x', '--out', at('x.json')], /four corner marks are not seen/],
        [['learn', at('white.png'), '--name', 'x', '--out', at('x.json'), '--at', '1,2', '3'], /takes four places/],
        [['learn', at('white.png'), '--name', 'x', '--out', at('x.txt')], /a measured fabric ends in \.json/],
        [['card', '--fabric', 'paper', '--out', at('x.kite')], /no "paper"/],
        [['card', '--out', at('x.doc')], /x\.doc/],
        [[...bay, at('other.json')], /other\.json: it is no measured fabric/],
        [[...bay, at('none.json')], /none\.json: the file cannot be opened/],
      ];
      for (const [words, message] of cases) {
        const { code, err } = await kite(...words);
        expect(code).withContext(words.join(' ')).toBe(2);
        expect(err).toMatch(message);
        expect(err.trim().split('\n').length).toBe(1);
      }
      expect(existsSync(at('x.json'))).toBeFalse();
    });
  });

  it('cuts threads never or always, as asked', async () => {
    const crest = join(ROOT, 'demo/artwork/quilt-block.png');
    const trims = async (how: string): Promise<number> => {
      await kite('convert', crest, '--width', '40', '--trims', how, '--out', at(`${how}.csv`));
      return text(`${how}.csv`)
        .split('\n')
        .filter((line) => line.includes(',trim,')).length;
    };
    const [never, beyond, always] = [await trims('never'), await trims('beyond'), await trims('always')];
    expect(never).toBe(1);
    expect(always).toBeGreaterThan(beyond);
  });

  it('sends a design to a machine, does what it waits for, and tells what was sewn', async () => {
    const server = await serve({ port: 0, data: ':memory:', logLevel: 'silent' });
    try {
      const address = `${server.address}/api/machine`;
      const fast = { needles: 1, hoop: '130x180', speed: 800, timeScale: 100_000 };
      await fetch(address, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(fast),
      });
      const { code, out, err } = await kite('sew', at('bay.csv'), '--machine', server.address);
      expect(err).toBe('');
      expect(code).toBe(0);
      const points = text('bay.csv')
        .split('\n')
        .filter((line) => line.includes(',stitch,')).length;
      expect(out).toContain(`${points} stitches in`);
      await kite('letters', 'A long line of it', '--font', 'round-sans', '--height', '30', '--out', at('long.csv'));
      const refused = await kite('sew', at('long.csv'), '--machine', server.address, '--hoop', '100x100');
      expect(refused.code).toBe(2);
      expect(refused.err).toContain('the hoop 100 x 100 mm does not hold that');
    } finally {
      await server.close();
    }
    const silent = await kite('sew', at('bay.csv'), '--machine', 'localhost:1');
    expect(silent.code).toBe(2);
    expect(silent.err).toContain('does not answer');
  });
});

import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  distanceToRings,
  figuresOf,
  isInside,
  reversed,
  ringsOf,
  runsOf,
  type Piece,
  type Points,
  type Raster,
} from '@open-kite/core';
import { flatRecipe } from '@open-kite/core/testing';
import { convertOne } from './one-picture.js';
import { coverageOf } from '@open-kite/core/testing';
import { heading, line, percent } from './print.js';

const JUMP = 1;
const STITCH = 0;

/** The crest at 100 mm with 6 colours: the whole process, and what its stitches are worth. */
export async function crestBench(root: string, file: string, raster: Raster): Promise<void> {
  heading('Crest', '1000 px, 100 mm, 6 colours; a process of its own each time, best of 3');
  const folder = mkdtempSync(join(tmpdir(), 'open-kite-bench-'));
  const cli = join(root, 'cli/bin/open-kite.js');
  const run = (name: string): number => {
    const start = performance.now();
    const args = ['convert', file, '--width', '100', '--colours', '6', '--quiet', '--out', join(folder, `${name}.csv`)];
    execFileSync(process.execPath, [
      cli,
      ...args,
      '--out',
      join(folder, `${name}.png`),
      '--report',
      join(folder, `${name}.json`),
    ]);
    return performance.now() - start;
  };
  const whole = Math.min(run('a'), run('b'), run('a'));
  const bytes = (name: string): Buffer => readFileSync(join(folder, name));
  const same = bytes('a.csv').equals(bytes('b.csv')) && bytes('a.png').equals(bytes('b.png'));
  const report = JSON.parse(bytes('a.json').toString()) as {
    seconds: Record<string, number>;
    likeness: { deltaE: number; ssim: number };
  };
  line('convert, whole process (stitch list, PNG, report)', `${(whole / 1000).toFixed(2)} s`, 'under 4 s');
  const { total, ...steps } = report.seconds;
  line('seconds.total of the report', `${total.toFixed(2)} s`, 'under 1.5 s');
  line(
    '  of it',
    Object.entries(steps)
      .map(([step, s]) => `${step} ${s.toFixed(2)}`)
      .join(', '),
  );
  line('same command twice: same bytes', same ? 'yes' : 'NO', 'yes');
  line('likeness: mean CIEDE2000, SSIM', `${report.likeness.deltaE}, ${report.likeness.ssim}`);
  rmSync(folder, { recursive: true, force: true });

  const base = flatRecipe(raster.width, raster.height);
  const design = await convertOne({
    raster,
    pictureKey: 'crest',
    recipe: { ...base, colours: { ...base.colours, count: 6 } },
    charts: [],
  });
  const { stitches: list, pieces } = design;
  const figures = figuresOf(list, design.threads.length);
  let inside = 0;
  const covered: number[] = [];
  pieces.forEach((piece, index) => {
    const rows = [...list.piece.keys()].filter((i) => list.piece[i] === index);
    inside += Math.max(0, rows.filter((i) => list.command[i] === JUMP).length - 1);
    if (piece.kind !== 'tatami' || piece.areaMm2 < 20) return;
    const run = rows.filter((i) => list.command[i] === STITCH).flatMap((i) => [list.x[i], list.y[i]]);
    covered.push(coverageOf(ringsOf(piece), [run]).covered);
  });
  // Under its neighbours a piece may reach, and hidden ways lead: only what lies beside all of them is outside.
  const rings = pieces.map(ringsOf);
  let outside = 0;
  for (let i = 0; i < list.count; i++) {
    if (list.command[i] !== STITCH) continue;
    const beside = pieces.map((piece, k) => gapTo(piece, rings[k], list.x[i], list.y[i]));
    outside = Math.max(outside, Math.min(...beside));
  }
  line(
    'stitches, pieces, trims, thread changes',
    `${figures.stitches}, ${pieces.length}, ${figures.trims}, ${figures.threadChanges}`,
  );
  line('longest stitch', `${figures.longestStitchMm} mm`, 'none over 12 mm');
  line('stitches under 0.3 mm', percent(figures.shortStitchShare), 'under 1 %');
  line('jumps inside one piece', String(inside), 'none');
  line(`coverage of the ${covered.length} fills over 20 mm2, worst`, percent(Math.min(...covered)), '98 % or more');
  line('needle point farthest beside all pieces', `${outside.toFixed(3)} mm`, 'at most 0.4 mm');
}

/** How far a place lies beside a piece: its outline, or its lines as wide as they are sewn. */
function gapTo(piece: Piece, rings: readonly Points[], x: number, y: number): number {
  if (isInside(rings, x, y)) return 0;
  // There and back again: a ring that a line makes.
  const lines = runsOf(piece).map((run) => distanceToRings([[...run, ...reversed(run)]], x, y) - piece.widthMm / 2);
  return Math.max(0, Math.min(distanceToRings(rings, x, y), ...lines));
}

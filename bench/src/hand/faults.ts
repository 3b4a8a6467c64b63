// Designs with faults put in on purpose, and their clean twins: what the checks find, where, and what repairs do about it.
// Arguments: the first seed, and how many designs.
import {
  findingsOf,
  lengthOf,
  likenessOf,
  parseRecipe,
  repairAll,
  ringsOf,
  StepCache,
  type Design,
  type Finding,
  type Piece,
  type PieceDecision,
  type Recipe,
} from '@open-kite/core';
import { examine } from '@open-kite/core/testing';
import { flatRecipe } from '@open-kite/core/testing';
import { decodePicture } from '@open-kite/server';
import { convertOne, wholeOne } from '../one-picture.js';
import { heading, line, percent } from '../print.js';
import * as art from './art.js';

const [from = '70000', count = '40'] = process.argv.slice(2);

/** A fault: what must be found of it, and how it is put into a recipe; undefined where the design has no place for it. */
interface Fault {
  readonly kind: string;
  readonly put: (recipe: Recipe, design: Design) => { recipe: Recipe; piece?: Piece } | undefined;
}

const say = (
  recipe: Recipe,
  design: Design,
  piece: Piece | undefined,
  decision: (at: PieceDecision['at']) => PieceDecision,
): { recipe: Recipe; piece: Piece } | undefined => {
  const at = piece && examine(design, design, recipe).refOf(piece);
  return at && piece ? { recipe: { ...recipe, decisions: [...recipe.decisions, decision(at)] }, piece } : undefined;
};

const FAULTS: readonly Fault[] = [
  {
    kind: 'rows-along-edge',
    put: (recipe, design) => {
      const bar = design.pieces.find(
        (p) => p.kind === 'tatami' && p.areaMm2 > 60 && p.outline[0]?.kinds.every((k) => k === 'L'),
      );
      if (!bar) return undefined;
      const [ax, ay, bx, by] = longestEdge(bar);
      const [ring] = ringsOf(bar);
      // An edge that is a small part of the outline is no fault.
      if (Math.hypot(bx - ax, by - ay) < 0.25 * lengthOf([...ring, ring[0], ring[1]])) return undefined;
      const angle = Math.round((Math.atan2(by - ay, bx - ax) * 180) / Math.PI) + 6;
      return say(recipe, design, bar, (at) => ({ kind: 'stitch', at, set: { angle: ((angle + 270) % 180) - 90 } }));
    },
  },
  {
    kind: 'satin-width',
    put: (recipe, design) =>
      say(
        recipe,
        design,
        design.pieces.find((p) => p.kind === 'running' && p.widthMm < 0.7 && p.areaMm2 > 4),
        (at) => ({ kind: 'sew', at, as: 'satin', passes: 0 }),
      ),
  },
  {
    kind: 'like-the-cloth',
    put: (recipe, design) => {
      const used = design.threads[design.pieces[0]?.thread ?? -1];
      return used && { recipe: { ...recipe, cloth: { ...recipe.cloth, hex: used.hex } } };
    },
  },
  {
    kind: 'thin-line-sinks',
    put: (recipe, design) =>
      design.pieces.some((p) => p.kind === 'running' && p.widthMm < 0.6)
        ? { recipe: { ...recipe, cloth: { ...recipe.cloth, fabric: 'towelling' } } }
        : undefined,
  },
  {
    kind: 'gap-opens',
    put: (recipe, design) =>
      design.pieces.some((p) => p.neighbours.some(({ borderMm }) => borderMm > 15))
        ? {
            recipe: {
              ...recipe,
              cloth: { ...recipe.cloth, fabric: 'stretch' },
              stitches: { ...recipe.stitches, overlapMm: 0, compensationMm: 0 },
            },
          }
        : undefined,
  },
  {
    kind: 'needless-trim',
    put: (recipe, design) =>
      design.pieces.length > 14
        ? { recipe: { ...recipe, order: { ...recipe.order, trimOverMm: 1, hideTravel: false } } }
        : undefined,
  },
];

/** Trims after which the same thread goes on within 2 mm. */
function nearTrims({ stitches: { command, thread, x, y, count: rows } }: Design): number {
  let near = 0;
  for (let i = 0; i + 1 < rows; i++) {
    if (command[i] === 2 && command[i + 1] === 1 && thread[i] === thread[i + 1]) {
      if (Math.hypot(x[i + 1] - x[i], y[i + 1] - y[i]) < 2) near++;
    }
  }
  return near;
}

/** The ends of the longest straight edge of a piece. */
function longestEdge({ outline }: Piece): [number, number, number, number] {
  let best: [number, number, number, number] = [0, 0, 1, 0];
  for (const { points } of outline) {
    for (let i = 2; i < points.length; i += 2) {
      const edge: typeof best = [points[i - 2], points[i - 1], points[i], points[i + 1]];
      if (Math.hypot(edge[2] - edge[0], edge[3] - edge[1]) > Math.hypot(best[2] - best[0], best[3] - best[1]))
        best = edge;
    }
  }
  return best;
}

const isAt = (finding: Finding, piece: Piece | undefined): boolean =>
  !piece ||
  (finding.at !== undefined &&
    finding.at.x > piece.bounds.left - 1 &&
    finding.at.x < piece.bounds.right + 1 &&
    finding.at.y > piece.bounds.top - 1 &&
    finding.at.y < piece.bounds.bottom + 1);

heading(
  'Faults put in on purpose',
  `${count} scripted drawings from seed ${from} on, each fault that fits one of them by itself`,
);
let [put, seen, placed, gone, better, fresh, alarms, ms, stitches] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
const missed: string[] = [];
const worse: number[] = [];
for (let k = 0; k < Number(count); k++) {
  const seed = Number(from) + k;
  const drawing = [art.flatArt, art.icon, art.bars, art.crowd][k % 4](seed);
  const { raster, artwork } = await decodePicture(Buffer.from(drawing.svg));
  const base = flatRecipe(raster.width, raster.height);
  const wide = drawing.sizeMm ?? 80;
  const recipe = parseRecipe({
    ...base,
    picture: { ...base.picture, widthMm: wide, heightMm: (wide * raster.height) / raster.width },
  });
  const cache = new StepCache();
  const given = { raster, artwork, pictureKey: drawing.name, charts: [] };
  const run = (next: Recipe): Promise<Design> => convertOne({ ...given, recipe: next }, { cache });
  const clean = await run(recipe);
  const start = performance.now();
  const before = findingsOf(clean, clean, recipe);
  ms += performance.now() - start;
  stitches += clean.stitches.count;
  const kinds = new Set(before.filter(({ level }) => level === 'problem').map(({ kind }) => kind));
  alarms += kinds.size;
  for (const fault of FAULTS) {
    if (before.some(({ kind }) => kind === fault.kind)) continue;
    const made = fault.put(recipe, clean);
    if (!made) continue;
    const design = await run(made.recipe);
    if (fault.kind === 'needless-trim' && nearTrims(design) < 4) continue;
    put++;
    const found = findingsOf(design, design, made.recipe).filter(({ kind }) => kind === fault.kind);
    if (found.length === 0) {
      missed.push(`${fault.kind} missed in ${drawing.name}`);
      continue;
    }
    seen++;
    const had = new Set(findingsOf(design, design, made.recipe).map(({ kind }) => kind));
    if (found.some((finding) => isAt(finding, made.piece))) placed++;
    if (found.every(({ repairs }) => repairs.length === 0)) continue;
    better++;
    const mended = await repairAll(design, made.recipe, 'all', run);
    const after = findingsOf(mended.design, mended.design, mended.recipe);
    const left = after.filter(({ kind }) => kind === fault.kind);
    if (left.length === 0) gone++;
    else
      missed.push(
        `${fault.kind} not repaired in ${drawing.name}: ${found.length} before, ${left.length} after, ${left[0].text}`,
      );
    const others = after.filter(({ kind }) => kind !== fault.kind && !had.has(kind));
    if (others.length > 0) {
      fresh++;
      missed.push(
        `${fault.kind} repaired in ${drawing.name} brings ${others
          .map(({ kind, text }) => `${kind}: ${text}`)
          .join('; ')
          .slice(0, 160)}`,
      );
    }
    const whole = await wholeOne({ ...given, recipe: made.recipe }, cache, 500);
    const [a, b] = [design, mended.design].map((d) => likenessOf(d, whole)?.deltaE ?? 0);
    worse.push(b - a);
  }
}
line('faults put in; found; where they are', `${put}; ${percent(seen / put, 1)}; ${percent(placed / seen, 1)}`, '98 %');
line('clean twins said to fail, a design', (alarms / Number(count)).toFixed(2), '0.1');
line(
  'with a repair; gone after it; another kind of finding',
  `${better}; ${percent(gone / better, 1)}; ${percent(fresh / better, 1)}`,
  '97 %; 2 %',
);
line(
  'farther from the picture by, mean',
  (worse.reduce((x, y) => x + y, 0) / Math.max(1, worse.length)).toFixed(2),
  '0.3',
);
line('all checks on 12 000 stitches', `${((ms / stitches) * 12).toFixed(2)} s`, '0.3 s');
for (const each of missed) console.log(`  ${each}`);

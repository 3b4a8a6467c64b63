import { distance, type Points } from '../geometry/vector.js';
import { MET } from './open-to-budget.js';
import { renderMethodOf } from '../photo/methods/index.js';
import type { Layer, Rendered, RenderMethod } from '../photo/methods/render-method.js';
import { stitchCount } from '../sequence/figures.js';
import type { StitchList } from '../sequence/stitch-list.js';
import type { OptionValues } from '../stitches/stitch-kind.js';

/** Rounds in which settings are eased; a slow method gets fewer. */
const SLOW_ROUNDS = 8;
const ROUNDS = 16;
/** Stitches are divided no finer than this to use up a budget. */
const FINEST_STITCH_MM = 1.4;
const LONGEST_STITCH_MM = 7;

/** Renderings that were sewn. */
export interface Sewn {
  readonly stitches: StitchList;
  readonly rendered: readonly Rendered[];
  readonly gaveUp: string;
}

/** A rendering that may be eased: its method, and its options as they were set. */
export interface EasedRendering {
  readonly method: string;
  readonly values: OptionValues;
}

/** Renders with options, one set for each rendering. */
type Render = (values: readonly OptionValues[]) => Promise<Rendered[]>;
/** Sews the layers of each rendering, with everything else. */
type Sew = (layers: readonly (readonly Layer[])[]) => Promise<StitchList>;

/**
 * Eases renderings until their stitches fit a budget, then divides long stitches while there is room, so that the budget
 * is used to 97 % at least.
 * @throws RangeError where even the easiest settings are too many
 */
export async function withinBudget(
  budget: number,
  renderings: readonly EasedRendering[],
  render: Render,
  sew: Sew,
): Promise<Sewn> {
  const full = await render(renderings.map(({ values }) => values));
  const first = await sew(layersOf(full));
  if (stitchCount(first) <= budget) return { stitches: first, rendered: full, gaveUp: '' };
  const methods = renderings.map(({ method }) => renderMethodOf(method) as RenderMethod);
  let low = 0;
  let high = 1;
  let best: Sewn | undefined;
  // A painting takes seconds: it is eased roughly, and the rest made up by dividing stitches.
  const slow = methods.some(({ threads }) => threads.from === 'mix');
  const room = slow ? ROOM : MET;
  for (let round = 0; round < (slow ? SLOW_ROUNDS : ROUNDS); round++) {
    // Most budgets are met well before everything is given up.
    const share = round === 0 ? 0.5 : best || round > 1 ? (low + high) / 2 : 1;
    const eased = methods.map((method, k) => method.ease(renderings[k].values, share));
    const rendered = await render(eased.map(({ values }) => values));
    const stitches = await sew(layersOf(rendered));
    const count = stitchCount(stitches);
    if (count <= budget) {
      best = { stitches, rendered, gaveUp: [...new Set(eased.map(({ gaveUp }) => gaveUp))].join('; ') };
      high = share;
      if (count >= budget * room) break;
    } else if (share === 1) {
      throw new RangeError(`budget: ${budget} stitches are too few; at least ${count} are needed at this size`);
    } else low = share;
  }
  if (!best) throw new RangeError(`budget: ${budget} stitches are too few at this size`);
  return useUp(best, budget, sew);
}

const layersOf = (rendered: readonly Rendered[]): (readonly Layer[])[] => rendered.map(({ layers }) => layers);

/** What easing a slow method has to reach of a budget. */
const ROOM = 0.9;

/** Divides long stitches until a budget is used to 97 %. */
async function useUp(made: Sewn, budget: number, sew: Sew): Promise<Sewn> {
  let best = made;
  let low = FINEST_STITCH_MM;
  let high = LONGEST_STITCH_MM;
  for (let round = 0; round < 12 && stitchCount(best.stitches) < budget * MET; round++) {
    const most = (low + high) / 2;
    const rendered = made.rendered.map((each) => ({
      ...each,
      layers: each.layers.map((layer) => ({ ...layer, runs: layer.runs.map((run) => divided(run, most)) })),
    }));
    const stitches = await sew(layersOf(rendered));
    if (stitchCount(stitches) <= budget) {
      best = { ...made, stitches, rendered };
      high = most;
    } else low = most;
  }
  return best;
}

/** A run none of whose stitches is longer than asked for. */
function divided(run: Points, most: number): Points {
  const out: Points = [run[0], run[1]];
  for (let i = 2; i < run.length; i += 2) {
    const [x, y] = [run[i - 2], run[i - 1]];
    const parts = Math.ceil(distance(x, y, run[i], run[i + 1]) / most - 1e-9);
    for (let k = 1; k <= parts; k++) {
      out.push(x + ((run[i] - x) * k) / parts, y + ((run[i + 1] - y) * k) / parts);
    }
    if (parts === 0) out.push(run[i], run[i + 1]);
  }
  return out;
}

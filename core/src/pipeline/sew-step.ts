import type { Points } from '../geometry/vector.js';
import type { Layer, Rendered } from '../photo/methods/render-method.js';
import type { FoundPieces } from '../pieces/found-pieces.js';
import type { PieceStitches } from '../sequence/piece-stitches.js';
import { planSewing, type SewingPlan } from '../sequence/plan-sewing.js';
import { costOfOrder, planWays, type OrderCost } from '../sequence/plan-ways.js';
import { sewPieces, type RunsBetween } from '../sequence/sew.js';
import type { SewSettings } from '../sequence/sew-settings.js';
import type { StitchList } from '../sequence/stitch-list.js';
import type { OptionValues } from '../stitches/stitch-kind.js';
import { withinBudget, type EasedRendering } from './ease-to-budget.js';
import type { DesignOrder } from './order-step.js';
import { renderStep, type RenderInputs } from './renderings.js';
import { step, type Pause, type Turn } from './step.js';

const PIECES_PER_PAUSE = 8;

/** Where a rendering is sewn, and what its threads are in the design. */
export interface RenderingPlace {
  readonly threads: readonly number[];
  readonly xMm: number;
  readonly yMm: number;
}

interface SewInputs {
  readonly found: FoundPieces;
  readonly order: DesignOrder;
  readonly settings: SewSettings;
  /** Stitches made before, so that only what changed is made again. */
  readonly known: PieceStitches;
  readonly renderings: readonly {
    readonly inputs: RenderInputs;
    readonly values: OptionValues;
    readonly place: RenderingPlace;
  }[];
  /** Stitches that renderings are eased to; null leaves them as they are. */
  readonly budget: number | null;
}

/** A design that is sewn. */
export interface SewnDesign {
  readonly stitches: StitchList;
  readonly rowAngles: readonly number[];
  readonly orderCost: OrderCost;
  readonly foundOrderCost: OrderCost;
  readonly rendered: readonly Rendered[];
  readonly gaveUp: string;
}

/** Makes renderings, and sews them and all pieces in their order. */
export const sewStep = step('stitches', async (inputs: SewInputs, { pause, cache }: Turn): Promise<SewnDesign> => {
  const { found, order, settings, known, renderings, budget } = inputs;
  const plan = planSewing(found.pieces, order.order, settings);
  const drawn = renderings.length > 0 ? 0.85 : 0;
  const sew = (layers: readonly (readonly Layer[])[]): Promise<StitchList> => {
    const between = runsBetween(layers, inputs);
    const steps = sewPieces(found.pieces, order.order, settings, known, plan, between);
    return allSewn(steps, (done) => pause(drawn + ((1 - drawn) * done) / Math.max(1, found.pieces.length)));
  };
  const render = (k: number, values: OptionValues): Promise<Rendered> =>
    cache.run(
      renderStep,
      { inputs: renderings[k].inputs, values },
      (share) => pause((drawn * (k + share)) / renderings.length),
      `${k}`,
    );
  const all = (values: readonly OptionValues[]): Promise<Rendered[]> => inTurn(values, (v, k) => render(k, v));
  const usual = renderings.map(({ values }) => values);
  const eased: EasedRendering[] = renderings.map(({ inputs: { method }, values }) => ({ method, values }));
  const made =
    budget === null || renderings.length === 0
      ? await all(usual).then(async (rendered) => ({
          rendered,
          stitches: await sew(rendered.map((r) => r.layers)),
          gaveUp: '',
        }))
      : await withinBudget(budget, eased, all, sew);
  return { ...made, ...planned(inputs, plan) };
});

async function inTurn<T, U>(list: readonly T[], make: (item: T, i: number) => Promise<U>): Promise<U[]> {
  const out: U[] = [];
  for (let i = 0; i < list.length; i++) out.push(await make(list[i], i));
  return out;
}

/** Layers of renderings where they are sewn: on the cloth, by the threads of the design, among the pieces. */
function runsBetween(layers: readonly (readonly Layer[])[], { found, order, renderings }: SewInputs): RunsBetween[] {
  let index = found.pieces.length;
  return layers.flatMap((own, k) => {
    const { threads, xMm, yMm } = renderings[k].place;
    const moved = (run: Points): Points =>
      xMm === 0 && yMm === 0 ? run : run.map((v, i) => v + (i % 2 === 0 ? xMm : yMm));
    return own.map(({ thread, runs }): RunsBetween => ({
      at: order.before[k] ?? order.order.length,
      runs: runs.map(moved),
      thread: threads[thread],
      index: index++,
    }));
  });
}

/** Sews piece after piece, with a pause now and then. */
async function allSewn(steps: Generator<number, StitchList>, pause: Pause): Promise<StitchList> {
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
    if (next.value % PIECES_PER_PAUSE === 0) await pause(next.value);
  }
}

/** What a plan decided, and what its order costs and saves. */
function planned(
  { found: { pieces }, order: { order }, settings: { trimOverMm } }: SewInputs,
  { angles, ways }: SewingPlan,
): Pick<SewnDesign, 'rowAngles' | 'orderCost' | 'foundOrderCost'> {
  const found = pieces.map((_, i) => i);
  return {
    rowAngles: angles,
    orderCost: costOfOrder(pieces, order, ways, trimOverMm),
    foundOrderCost: costOfOrder(pieces, found, planWays(pieces, found, trimOverMm), trimOverMm),
  };
}

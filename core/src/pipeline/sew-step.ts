import type { Points } from '../geometry/vector.js';
import type { StitchList } from '../sequence/stitch-list.js';
import type { Layer, Rendered } from '../photo/methods/render-method.js';
import type { FoundPieces } from '../pieces/found-pieces.js';
import type { PieceStitches } from '../sequence/piece-stitches.js';
import { planSewing, type SewingPlan } from '../sequence/plan-sewing.js';
import { costOfOrder, planWays, type OrderCost } from '../sequence/plan-ways.js';
import { sewPieces, type ListBetween, type RunsBetween } from '../sequence/sew.js';
import type { SewSettings } from '../sequence/sew-settings.js';
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
    /** Which of the renderings and lists it is, lowest first. */
    readonly slot: number;
  }[];
  /** Stitch lists on the cloth, and which of the renderings and lists each is. */
  readonly lists: readonly { readonly rows: StitchList; readonly slot: number }[];
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
function runsBetween(
  layers: readonly (readonly Layer[])[],
  { found, order, renderings, lists }: SewInputs,
): (RunsBetween | ListBetween)[] {
  let index = found.pieces.length;
  const placeOf = (slot: number): number => order.before[slot] ?? order.order.length;
  const slots: { readonly slot: number; readonly all: readonly (RunsBetween | ListBetween)[] }[] = lists.map(
    ({ rows, slot }) => ({ slot, all: [{ at: placeOf(slot), list: rows }] }),
  );
  layers.forEach((own, k) => {
    const { threads, xMm, yMm } = renderings[k].place;
    const moved = (run: Points): Points =>
      xMm === 0 && yMm === 0 ? run : run.map((v, i) => v + (i % 2 === 0 ? xMm : yMm));
    const { slot } = renderings[k];
    const all = own.map(({ thread, runs }): RunsBetween => ({
      at: placeOf(slot),
      runs: runs.map(moved),
      thread: threads[thread],
      index: index++,
    }));
    slots.push({ slot, all });
  });
  return slots.sort((a, b) => a.slot - b.slot).flatMap(({ all }) => all);
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

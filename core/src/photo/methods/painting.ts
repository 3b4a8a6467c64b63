import { fromHex, LINEAR } from '../../colour/srgb.js';
import { OPTION } from '../../stitches/stitch-kind.js';
import { EFFECTS } from '../effect.js';
import { drawnFlow, formFlow } from '../flow.js';
import { groundRows } from '../ground-rows.js';
import { linearMean } from '../plate.js';
import { paintThreads, type PaintingSettings } from '../thread-painting.js';
import { renderMethod, said, type Layer } from './render-method.js';

/** Weight of fine detail, and cost of a change of thread, by grade. */
const GRADES: Readonly<Record<string, readonly [detail: number, calm: number]>> = {
  coarse: [0.08, 5],
  medium: [0.12, 2],
  fine: [0.15, 0.5],
};
const COARSEST_CALM = 60;
const LONGEST_LINE = 6;
const WIDEST_SPACING = 0.7;
/** Distance of rows of a rough painting, as a multiple. */
const QUICK_SPACING = 1.5;

/** A colour picture in fine lines of several threads. */
export const PAINTING = renderMethod({
  id: 'painting',
  name: 'Thread painting',
  step: 'Threads',
  hint: 'Fine lines of several threads beside and over each other, mixed by the eye as a painter mixes strokes.',
  threads: { from: 'mix', usual: 12 },
  led: true,
  favours: () => true,
  options: {
    direction: {
      type: 'choice',
      label: 'Lines run',
      choices: [
        { id: 'straight', name: 'Straight' },
        { id: 'forms', name: 'Along the forms' },
        { id: 'crossing', name: 'In crossing layers' },
        { id: 'drawn', name: 'As I draw them' },
      ],
      usual: 'straight',
    },
    angle: { type: 'number', label: 'Line angle', least: -90, most: 90, step: 1, unit: '°', usual: 0 },
    grade: {
      type: 'choice',
      label: 'Detail',
      choices: [
        { id: 'coarse', name: 'Coarse' },
        { id: 'medium', name: 'Medium' },
        { id: 'fine', name: 'Fine' },
      ],
      usual: 'fine',
    },
    lineMm: OPTION.mm('Shortest line', 0.8, LONGEST_LINE, 1.2),
    spacingMm: OPTION.mm('Distance of lines', 0.3, WIDEST_SPACING, 0.4),
    calm: {
      type: 'number',
      label: 'Fewer, longer lines',
      least: 1,
      most: COARSEST_CALM,
      step: 1,
      unit: '',
      usual: 1,
      note: 'At 1 every line is sewn that brings the picture nearer. More leaves short ones out: fewer trims, less detail.',
    },
    stitchMm: OPTION.mm('Longest stitch', 2, 7, 6),
    order: {
      type: 'choice',
      label: 'Sewn first',
      choices: [
        { id: 'scarce', name: 'The scarcer of two threads' },
        { id: 'dark', name: 'Dark threads' },
        { id: 'light', name: 'Light threads' },
      ],
      usual: 'scarce',
    },
    twice: {
      type: 'number',
      label: 'Threads sewn twice',
      least: 0,
      most: 6,
      step: 1,
      unit: '',
      usual: 2,
      when: ['order', 'scarce'],
      note: 'Threads that are scarce in one place and plenty in another: sewn early and once more at the end, for one more change each.',
    },
    effect: {
      type: 'choice',
      label: 'Colours',
      choices: EFFECTS,
      usual: 'colour',
    },
    hue: { type: 'number', label: 'Hue', least: 0, most: 359, step: 1, unit: '°', usual: 205, when: ['effect', 'hue'] },
    ground: {
      type: 'choice',
      label: 'Below',
      choices: [
        { id: 'cloth', name: 'Bare cloth' },
        { id: 'filled', name: 'A filled ground' },
      ],
      usual: 'cloth',
    },
  },
  ease: (values, share) => {
    const calm = values.calm + (COARSEST_CALM - values.calm) * share * share;
    const lineMm = values.lineMm + (LONGEST_LINE - values.lineMm) * share * share;
    const spacingMm = values.spacingMm + (WIDEST_SPACING - values.spacingMm) * Math.max(0, share - 0.4) * 1.6;
    const stitchMm = Math.max(values.stitchMm, 7);
    const parts = [`shortest line ${said(lineMm, 1)} mm instead of ${said(values.lineMm, 1)}`];
    if (spacingMm > values.spacingMm)
      parts.unshift(`lines ${said(spacingMm)} mm apart instead of ${said(values.spacingMm)}`);
    parts.push(`fewer, longer lines ${said(calm, 0)} instead of ${said(values.calm, 0)}`);
    return { values: { lineMm, spacingMm, stitchMm, calm }, gaveUp: parts.join(', ') };
  },
  *render({ plate, threads, places, clothHex, trimOverMm, strokes, quick }, values) {
    const hexes = threads.map(({ hex }) => hex);
    const [detail, calm] = GRADES[values.grade];
    const filled = values.ground === 'filled' && hexes.length > 1;
    const under = filled ? nearestTo(hexes, linearMean(plate)) : -1;
    const below: Layer[] = filled ? [groundRows(plate, under, values.angle + 90, trimOverMm)] : [];
    const base = {
      hexes,
      clothHex: filled ? hexes[under] : clothHex,
      filled,
      angle: values.angle,
      // Fewer rows are painted sooner: each is drawn twice.
      spacingMm: quick ? values.spacingMm * QUICK_SPACING : values.spacingMm,
      lineMm: values.lineMm,
      calm: calm * values.calm,
      detail,
      first: values.order as PaintingSettings['first'],
      twice: values.twice,
      places,
      longestMm: values.stitchMm,
      quick,
    };
    if (values.direction === 'crossing') {
      const layers = yield* crossingLayers(plate, base);
      return { layers: [...below, ...layers] };
    }
    const flow =
      values.direction === 'forms'
        ? formFlow(plate, values.angle)
        : values.direction === 'drawn' && strokes.length > 0
          ? drawnFlow(
              strokes,
              values.angle,
              plate.left + plate.width / plate.scale / 2,
              plate.top + plate.height / plate.scale / 2,
            )
          : undefined;
    const { layers } = yield* paintThreads(plate, { ...base, flow });
    return { layers: [...below, ...layers] };
  },
});

type Painter = Parameters<typeof paintThreads>[1];

/** A calm painting, and a second one across it that only mends what the first left over. */
function* crossingLayers(plate: Parameters<typeof paintThreads>[0], base: Painter): Generator<number, Layer[]> {
  const ahead = (from: number, steps: ReturnType<typeof paintThreads>) =>
    (function* () {
      for (;;) {
        const step = steps.next();
        if (step.done) return step.value;
        yield from + step.value / 2;
      }
    })();
  const first = yield* ahead(0, paintThreads(plate, { ...base, calm: base.calm * 3, lineMm: base.lineMm * 2 }));
  const second = yield* ahead(
    0.5,
    paintThreads(plate, { ...base, angle: base.angle + 90, calm: base.calm * 4, over: first }),
  );
  return [...first.layers, ...second.layers];
}

/** The thread nearest to a linear colour. */
function nearestTo(hexes: readonly string[], mean: readonly [number, number, number]): number {
  let best = 0;
  let least = Infinity;
  hexes.forEach((hex, i) => {
    const { r, g, b } = fromHex(hex);
    const part = [LINEAR[r], LINEAR[g], LINEAR[b]];
    const d = part.reduce((sum, v, j) => sum + (v - mean[j]) ** 2, 0);
    if (d < least) [least, best] = [d, i];
  });
  return best;
}

import { nearestThreads, type Chart } from '../colour/charts.js';
import { fromHex } from '../colour/srgb.js';
import type { PaletteThread } from './palette-thread.js';
import type { Woven, WovenJudge } from './woven-judge.js';

interface ChartChoice {
  readonly charts: readonly Chart[];
  /** Threads that are in the palette in any case. */
  readonly fixed: readonly PaletteThread[];
  /** How a thread looks once it is sewn, in linear light. */
  readonly sewn: (hex: string) => readonly [number, number, number];
}

/** Threads near each chosen one that may take its place, and rounds of trying them. */
const NEIGHBOURS = 10;
const EXCHANGES = 3;
/** Of all threads of the charts, those tried that would help most; the chosen ones missed least; and rounds of that. */
const TAKEN_IN = 6;
const LEFT_OUT = 3;
const REPLACED = 10;
/** Threads measured before something else may have a turn. */
const THREADS_A_TURN = 40;
/** Shares of the whole that are done before threads are replaced, and before they are exchanged. */
const BEFORE = 0.2;
const MIDDLE = 0.5;

/**
 * Threads of charts that mix well to a picture: those nearest to the colours that are wanted; then threads nearer to what
 * is far from all of them in place of those missed least; then neighbours in place of single ones, each while the weave
 * comes nearer to the picture. Yields the share done.
 * @param judge without one the nearest threads are taken
 */
export function* chartPalette(
  judge: WovenJudge | undefined,
  wanted: readonly string[],
  { charts, fixed, sewn }: ChartChoice,
): Generator<number, PaletteThread[]> {
  const barred = new Set(fixed.map(({ hex }) => hex.toLowerCase()));
  const open = charts.map((chart) => ({
    ...chart,
    threads: chart.threads.filter((thread) => !barred.has(thread.hex.toLowerCase())),
  }));
  const around = (hex: string, count: number): PaletteThread[] =>
    nearestThreads(fromHex(hex), open, count).map(({ thread, chart }) => ({ ...thread, chart }));
  const nearest: PaletteThread[] = [];
  for (const hex of wanted) {
    const next = around(hex, wanted.length + NEIGHBOURS).find((thread) => !holds(nearest, thread));
    if (next) nearest.push(next);
  }
  if (!judge) return named([...fixed, ...nearest]);
  const weave = (list: readonly PaletteThread[], like?: Woven): Woven =>
    judge.try(
      [...fixed, ...list].map(({ hex }) => sewn(hex)),
      like,
    );
  const all = open.flatMap(({ id, threads }) => threads.map((thread): PaletteThread => ({ ...thread, chart: id })));
  const far = new Map<string, Float32Array>();
  for (const { hex } of [...fixed, ...all]) {
    far.set(hex, judge.distances(sewn(hex)));
    if (far.size % THREADS_A_TURN === 0) yield BEFORE;
  }
  yield BEFORE;
  const spread = yield* replaceFar(nearest, fixed, all, far, weave);
  const found = yield* exchangeNear(spread, (thread) => around(thread.hex, NEIGHBOURS), weave);
  return named([...fixed, ...found]);
}

const holds = (list: readonly PaletteThread[], { hex }: PaletteThread): boolean =>
  list.some((other) => other.hex === hex);

const named = (list: readonly PaletteThread[]): PaletteThread[] =>
  list.map(({ hex, chart, code, name }) => ({ hex, chart, code, name }));

type Weave = (list: readonly PaletteThread[], like?: Woven) => Woven;

/** Takes in threads that lie near what others leave far away, in place of those that are missed least. */
function* replaceFar(
  start: readonly PaletteThread[],
  fixed: readonly PaletteThread[],
  all: readonly PaletteThread[],
  far: ReadonlyMap<string, Float32Array>,
  weave: Weave,
): Generator<number, readonly PaletteThread[]> {
  let chosen = start;
  let best = weave(chosen);
  const farOf = ({ hex }: PaletteThread): Float32Array => far.get(hex) ?? new Float32Array(0);
  const nearestOf = (list: readonly PaletteThread[]): Float32Array => {
    const [first, ...others] = [...fixed, ...list].map(farOf);
    return first?.map((d, i) => others.reduce((least, other) => Math.min(least, other[i]), d)) ?? new Float32Array(0);
  };
  for (let round = 0; round < REPLACED; round++) {
    const now = nearestOf(chosen);
    const without = chosen.map((_, t) => nearestOf(chosen.toSpliced(t, 1)));
    const helpful = all
      .filter((thread) => !holds(chosen, thread))
      .map((thread) => ({ thread, help: farOf(thread).reduce((sum, d, i) => sum + Math.max(0, now[i] - d), 0) }))
      .sort((a, b) => b.help - a.help)
      .slice(0, TAKEN_IN);
    let found: { readonly list: readonly PaletteThread[]; readonly woven: Woven } | undefined;
    for (const { thread } of helpful) {
      const taken = farOf(thread);
      const missed = without
        .map((rest, t) => ({ t, rest: rest.reduce((sum, d, i) => sum + Math.min(d, taken[i]), 0) }))
        .sort((a, b) => a.rest - b.rest)
        .slice(0, LEFT_OUT);
      for (const { t } of missed) {
        const list = chosen.with(t, thread);
        const woven = weave(list, best);
        yield BEFORE + ((MIDDLE - BEFORE) * round) / REPLACED;
        if (woven.error < (found?.woven ?? best).error) found = { list, woven };
      }
    }
    if (!found) break;
    [chosen, best] = [found.list, found.woven];
  }
  return chosen;
}

/** Exchanges threads one by one for what is near them. */
function* exchangeNear(
  start: readonly PaletteThread[],
  around: (thread: PaletteThread) => readonly PaletteThread[],
  weave: Weave,
): Generator<number, readonly PaletteThread[]> {
  let chosen = start;
  let best = weave(chosen);
  for (let round = 0; round < EXCHANGES; round++) {
    let changed = false;
    for (let t = 0; t < chosen.length; t++) {
      for (const other of around(chosen[t])) {
        if (holds(chosen, other)) continue;
        const list = chosen.with(t, other);
        const woven = weave(list, best);
        yield MIDDLE + ((1 - MIDDLE) * (round + t / chosen.length)) / EXCHANGES;
        if (woven.error >= best.error) continue;
        [chosen, best, changed] = [list, woven, true];
      }
    }
    if (!changed) break;
  }
  return chosen;
}

import { distance, type Points } from '../geometry/vector.js';
import { beginsFreely, endsFreely, swapped } from './free-ends.js';
import type { CellGrid } from './grid.js';
import { hiddenLink, isOpenFloat, type Cover } from './links.js';
import { Chains } from './part-chains.js';
import { StartsByPlace } from './parts-by-place.js';
import type { RouteSettings } from './route-settings.js';
import type { Walk } from './walk-crosses.js';

/**
 * For each part those that have to be sewn before it: parts found later, backwards in time, that share a cell with it.
 */
function partsBefore(grid: CellGrid, parts: readonly Walk[]): Set<number>[] {
  const stride = grid.cols * 2 + 1;
  const inCell = new Map<number, number[]>();
  parts.forEach((part, k) => {
    for (let i = 1; i < part.length; i++) {
      const x2 = (part[i] % stride) + (part[i - 1] % stride);
      const y2 = Math.floor(part[i] / stride) + Math.floor(part[i - 1] / stride);
      const cell = Math.floor(y2 / 4) * grid.cols + Math.floor(x2 / 4);
      const list = inCell.get(cell);
      if (!list) inCell.set(cell, [k]);
      else if (list[list.length - 1] !== k) list.push(k);
    }
  });
  const before = parts.map(() => new Set<number>());
  for (const list of inCell.values()) {
    for (let i = 0; i < list.length; i++) for (let j = i + 1; j < list.length; j++) before[list[i]].add(list[j]);
  }
  return before;
}

/** Joins parts, the nearest next of those that may be sewn; links lie hidden below later cells, or float over short gaps. */
export function joinParts(
  grid: CellGrid,
  parts: readonly Walk[],
  { passes, floatMm }: RouteSettings,
  cover?: Cover,
): Points[] {
  const before = partsBefore(grid, parts);
  const waiting = before.map((set) => set.size);
  const after: number[][] = parts.map(() => []);
  before.forEach((set, k) => {
    for (const earlier of set) after[earlier].push(k);
  });
  const stride = grid.cols * 2 + 1;
  const half = grid.cellMm / 2;
  const place = (p: number): [number, number] => [
    grid.left + (p % stride) * half,
    grid.top + Math.floor(p / stride) * half,
  ];
  const free = new StartsByPlace(grid, parts.length);
  const chains = new Chains(parts, stride);
  const release = (k: number): void => {
    free.add(k, parts[k][0]);
    if (beginsFreely(parts[k], stride)) free.add(k, parts[k][1]);
    chains.release(k);
  };
  parts.forEach((_, k) => {
    if (waiting[k] === 0) release(k);
  });
  const runs: Points[] = [];
  let run: Points = [];
  let at = 0;
  let last: number | undefined;
  for (;;) {
    const touching = last === undefined ? undefined : chains.after(last);
    const nearest = touching ?? free.nearest(at);
    if (!nearest) break;
    const next = touching ? nearest.part : chains.head(nearest.part);
    const start = next === nearest.part ? nearest.place : parts[next][0];
    free.drop(next);
    chains.drop(next);
    for (const later of after[next]) if (--waiting[later] === 0) release(later);
    const part = start === parts[next][0] ? parts[next] : swapped(parts[next], 0);
    const walk = endsFreely(part, stride) ? endedWell(part, free) : part;
    const gap = distance(...place(at), ...place(walk[0]));
    const linked = run.length > 0 && gap > 0;
    const own = linked && touching ? [chains.middleOf(last as number), walk[0]] : undefined;
    const hidden = own ?? (linked && cover ? hiddenLink(grid, cover, at, walk[0]) : undefined);
    if (hidden) for (const p of hidden) run.push(...place(p));
    else if (run.length > 0 && (gap > floatMm || (cover && !isOpenFloat(grid, cover, at, walk[0])))) {
      runs.push(run);
      run = [];
    }
    sewWalk(walk.map(place), passes === 3 ? 3 : 1, run);
    at = walk[walk.length - 1];
    last = next;
  }
  if (run.length > 0) runs.push(run);
  return runs;
}

/** A part whose last leg ends where the next part is nearer. */
function endedWell(part: Walk, free: StartsByPlace): Walk {
  const other = swapped(part, part.length - 2);
  const after = (walk: Walk): number => free.nearest(walk[walk.length - 1])?.gap2 ?? 0;
  return after(other) < after(part) ? other : part;
}

function sewWalk(places: readonly (readonly [number, number])[], passes: number, run: Points): void {
  const n = run.length;
  if (n === 0 || run[n - 2] !== places[0][0] || run[n - 1] !== places[0][1]) run.push(...places[0]);
  for (let i = 1; i < places.length; i++) {
    for (let k = 0; k < passes; k++) run.push(...places[k % 2 === 0 ? i : i - 1]);
  }
}

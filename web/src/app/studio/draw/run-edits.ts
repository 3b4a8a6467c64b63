import { simplify } from '@open-kite/core';
import { corner, gap, type Node, type Run } from './draw-runs';

// What can be done to the points of runs: all functions change the runs they are given, and say whether they did.

/** Ends that are no farther apart than this, in CSS pixels, are one. */
const SAME = 1;

/** Cuts a run at a point: a closed one opens there, an open one falls in two. @returns the runs that take its place */
export function cutAt(run: Run, node: Node): Run[] {
  const at = run.nodes.indexOf(node);
  const n = run.nodes.length;
  if (at < 0) return [run];
  if (run.closed) {
    const turned = [...run.nodes.slice(at), ...run.nodes.slice(0, at)];
    return [{ closed: false, nodes: [...turned, { ...node }] }];
  }
  if (at === 0 || at === n - 1) return [run];
  return [
    { closed: false, nodes: run.nodes.slice(0, at + 1) },
    { closed: false, nodes: [{ ...node }, ...run.nodes.slice(at + 1)] },
  ];
}

/** Joins the two ends of an open run. */
export function close(run: Run): boolean {
  const { nodes } = run;
  if (run.closed || nodes.length < 3) return false;
  const last = nodes[nodes.length - 1];
  if (gap(nodes[0], last) <= SAME) {
    Object.assign(nodes[0], { inX: last.inX, inY: last.inY });
    nodes.pop();
  }
  run.closed = true;
  return true;
}

/** The nearest two ends of different open runs, and how far apart they are in CSS pixels. */
export function nearestEnds(
  runs: readonly Run[],
): { readonly a: Run; readonly b: Run; readonly gap: number } | undefined {
  const open = runs.filter(({ closed }) => !closed);
  let best: { a: Run; b: Run; gap: number } | undefined;
  open.forEach((a, i) => {
    for (const b of open.slice(i + 1)) {
      for (const p of [a.nodes[0], a.nodes[a.nodes.length - 1]]) {
        for (const q of [b.nodes[0], b.nodes[b.nodes.length - 1]]) {
          const d = gap(p, q);
          if (!best || d < best.gap) best = { a, b, gap: d };
        }
      }
    }
  });
  return best;
}

/** Makes one run of two open ones, by their nearest ends. */
export function joined(a: Run, b: Run): Run {
  const ends = [
    { flipA: false, flipB: false, d: gap(a.nodes[a.nodes.length - 1], b.nodes[0]) },
    { flipA: false, flipB: true, d: gap(a.nodes[a.nodes.length - 1], b.nodes[b.nodes.length - 1]) },
    { flipA: true, flipB: false, d: gap(a.nodes[0], b.nodes[0]) },
    { flipA: true, flipB: true, d: gap(a.nodes[0], b.nodes[b.nodes.length - 1]) },
  ];
  const { flipA, flipB, d } = ends.reduce((best, end) => (end.d < best.d ? end : best));
  const first = flipA ? flipped(a.nodes) : a.nodes;
  const second = flipB ? flipped(b.nodes) : b.nodes;
  if (d > SAME) return { closed: false, nodes: [...first, ...second] };
  // Ends that meet are one point: it comes as the one and leaves as the other.
  const [meeting] = second;
  const last = { ...first[first.length - 1], outX: meeting.outX, outY: meeting.outY };
  return { closed: false, nodes: [...first.slice(0, -1), last, ...second.slice(1)] };
}

const flipped = (nodes: readonly Node[]): Node[] =>
  nodes.map(({ x, y, inX, inY, outX, outY }) => ({ x, y, inX: outX, inY: outY, outX: inX, outY: inY })).reverse();

/** Makes the stretches between chosen neighbours straight. */
export function straighten(run: Run, chosen: ReadonlySet<Node>): boolean {
  const { nodes, closed } = run;
  let changed = false;
  nodes.forEach((node, i) => {
    const next = nodes[(i + 1) % nodes.length];
    if (!chosen.has(node) || !chosen.has(next) || (!closed && i === nodes.length - 1)) return;
    if (node.outX === 0 && node.outY === 0 && next.inX === 0 && next.inY === 0) return;
    Object.assign(node, { outX: 0, outY: 0 });
    Object.assign(next, { inX: 0, inY: 0 });
    changed = true;
  });
  return changed;
}

/** Fewer points for nearly the same line: what stays is off by no more than some CSS pixels. @returns the run in its place */
export function simplified(run: Run, tolerance: number): Run {
  const points = run.nodes.flatMap(({ x, y }) => [x, y]);
  if (run.closed) points.push(points[0], points[1]);
  const kept = simplify(points, tolerance);
  const nodes: Node[] = [];
  let from = 0;
  for (let i = 0; i < kept.length; i += 2) {
    const at = run.nodes.findIndex((node, k) => k >= from && node.x === kept[i] && node.y === kept[i + 1]);
    if (at < 0) continue;
    from = at + 1;
    nodes.push(run.nodes[at]);
  }
  const least = run.closed ? 3 : 2;
  if (nodes.length < least) return run;
  return { closed: run.closed, nodes: nodes.map((node) => (isStraight(node) ? corner(node.x, node.y) : { ...node })) };
}

const isStraight = ({ inX, inY, outX, outY }: Node): boolean => inX === 0 && inY === 0 && outX === 0 && outY === 0;

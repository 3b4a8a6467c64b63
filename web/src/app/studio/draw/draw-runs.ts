import { MASK_SHAPES, smoothRun, type DrawnPath, type MaskShape, type PathNode } from '@open-kite/core';

/** How places of the source picture lie on the stage. */
export interface DrawMap {
  readonly toStage: (u: number, v: number) => { readonly x: number; readonly y: number };
  readonly toSource: (x: number, y: number) => { readonly u: number; readonly v: number };
}

/** A point of a path on the stage, in CSS pixels; handles are relative to it. */
export interface Node {
  x: number;
  y: number;
  inX: number;
  inY: number;
  outX: number;
  outY: number;
}

export interface Run {
  closed: boolean;
  nodes: Node[];
}

/** How near a pointer must be, in CSS pixels, to take hold of something or to snap to it. */
export const NEAR = 11;
/** A line drawn freely may leave the hand by this much. */
const FREE_TOLERANCE = 1.6;

export const corner = (x: number, y: number): Node => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });

export const gap = (a: { x: number; y: number }, b: { x: number; y: number }): number =>
  Math.hypot(a.x - b.x, a.y - b.y);

/** Turns the other handle of a smooth point so that both lie on one line. */
export function mirror(node: Node, other: 'in' | 'out'): void {
  const [x, y] = other === 'in' ? [node.inX, node.inY] : [node.outX, node.outY];
  const length = Math.hypot(x, y);
  if (length === 0) return;
  const [dx, dy] = other === 'in' ? [node.outX, node.outY] : [node.inX, node.inY];
  const by = -length / (Math.hypot(dx, dy) || 1);
  if (other === 'in') [node.inX, node.inY] = [dx * by, dy * by];
  else [node.outX, node.outY] = [dx * by, dy * by];
}

/** Makes a corner of a smooth point, and a smooth point of a corner. */
export function toggleCorner(run: Run, node: Node): void {
  if (node.inX !== 0 || node.inY !== 0 || node.outX !== 0 || node.outY !== 0) {
    Object.assign(node, { inX: 0, inY: 0, outX: 0, outY: 0 });
    return;
  }
  const i = run.nodes.indexOf(node);
  const n = run.nodes.length;
  const before = run.nodes[(i + n - 1) % n];
  const after = run.nodes[(i + 1) % n];
  const [dx, dy] = [(after.x - before.x) / 6, (after.y - before.y) / 6];
  Object.assign(node, { inX: -dx, inY: -dy, outX: dx, outY: dy });
}

/** Cuts the stretch nearest to a place in two; undefined where none is near. */
export function splitNearest(runs: readonly Run[], at: { x: number; y: number }): Node | undefined {
  let best: { run: Run; i: number; t: number } | undefined;
  let least = NEAR;
  for (const run of runs) {
    const stretches = run.closed ? run.nodes.length : run.nodes.length - 1;
    for (let i = 0; i < stretches; i++) {
      for (let k = 1; k < 24; k++) {
        const t = k / 24;
        const d = gap(pointOn(run, i, t).at, at);
        if (d < least) {
          least = d;
          best = { run, i, t };
        }
      }
    }
  }
  if (!best) return undefined;
  const { run, i, t } = best;
  const split = pointOn(run, i, t);
  const a = run.nodes[i];
  const b = run.nodes[(i + 1) % run.nodes.length];
  const straight = a.outX === 0 && a.outY === 0 && b.inX === 0 && b.inY === 0;
  const node = corner(split.at.x, split.at.y);
  if (!straight) {
    [a.outX, a.outY] = [a.outX * t, a.outY * t];
    [b.inX, b.inY] = [b.inX * (1 - t), b.inY * (1 - t)];
    Object.assign(node, { inX: split.inX, inY: split.inY, outX: split.outX, outY: split.outY });
  }
  run.nodes.splice(i + 1, 0, node);
  return node;
}

/** A place on a stretch, with the handles a point there would have (de Casteljau). */
function pointOn(
  run: Run,
  i: number,
  t: number,
): { at: { x: number; y: number }; inX: number; inY: number; outX: number; outY: number } {
  const a = run.nodes[i];
  const b = run.nodes[(i + 1) % run.nodes.length];
  const p = [a, { x: a.x + a.outX, y: a.y + a.outY }, { x: b.x + b.inX, y: b.y + b.inY }, b];
  const mix = (q: { x: number; y: number }, r: { x: number; y: number }) => ({
    x: q.x + (r.x - q.x) * t,
    y: q.y + (r.y - q.y) * t,
  });
  const [u, v, w] = [mix(p[0], p[1]), mix(p[1], p[2]), mix(p[2], p[3])];
  const [c, d] = [mix(u, v), mix(v, w)];
  const at = mix(c, d);
  return { at, inX: c.x - at.x, inY: c.y - at.y, outX: d.x - at.x, outY: d.y - at.y };
}

export function pathOf({ nodes, closed }: Run): Path2D {
  const path = new Path2D();
  nodes.forEach((node, i) => {
    if (i === 0) path.moveTo(node.x, node.y);
    else bend(path, nodes[i - 1], node);
  });
  if (closed && nodes.length > 1) {
    bend(path, nodes[nodes.length - 1], nodes[0]);
    path.closePath();
  }
  return path;
}

function bend(path: Path2D, a: Node, b: Node): void {
  path.bezierCurveTo(a.x + a.outX, a.y + a.outY, b.x + b.inX, b.y + b.inY, b.x, b.y);
}

export function boxShape(shape: Exclude<MaskShape, 'free'>, x: number, y: number, toX: number, toY: number): Run {
  const [w, h] = [Math.abs(toX - x), Math.abs(toY - y)];
  // A circle stays one.
  const side = shape === 'circle' ? Math.max(w, h) : 0;
  const [width, height] = [side || w, side || h];
  const [cx, cy] = [x + (Math.sign(toX - x) * width) / 2, y + (Math.sign(toY - y) * height) / 2];
  const nodes = MASK_SHAPES[shape].map(([u, v, a, b, c, d]): Node => ({
    x: cx + u * width,
    y: cy + v * height,
    inX: a * width,
    inY: b * height,
    outX: c * width,
    outY: d * height,
  }));
  return { closed: true, nodes };
}

export function smoothed(points: number[], closed: boolean): Run {
  const { points: p, kinds } = smoothRun(points, closed, FREE_TOLERANCE);
  const nodes = [corner(p[0], p[1])];
  let at = 2;
  for (const kind of kinds) {
    const before = nodes[nodes.length - 1];
    const [x, y] = kind === 'L' ? [p[at], p[at + 1]] : [p[at + 4], p[at + 5]];
    const node = corner(x, y);
    if (kind === 'C') {
      [before.outX, before.outY] = [p[at] - before.x, p[at + 1] - before.y];
      [node.inX, node.inY] = [p[at + 2] - x, p[at + 3] - y];
    }
    nodes.push(node);
    at += kind === 'L' ? 2 : 6;
  }
  if (closed && nodes.length > 2) {
    const last = nodes.pop() as Node;
    [nodes[0].inX, nodes[0].inY] = [last.inX, last.inY];
  }
  return { closed, nodes };
}

export function toPath({ closed, nodes }: Run, { toSource }: Pick<DrawMap, 'toSource'>): DrawnPath {
  return {
    closed,
    nodes: nodes.map(({ x, y, inX, inY, outX, outY }): PathNode => {
      const at = toSource(x, y);
      const before = toSource(x + inX, y + inY);
      const after = toSource(x + outX, y + outY);
      const by = (h: { u: number; v: number }, zero: boolean): [number, number] =>
        zero ? [0, 0] : [h.u - at.u, h.v - at.v];
      return [at.u, at.v, ...by(before, inX === 0 && inY === 0), ...by(after, outX === 0 && outY === 0)];
    }),
  };
}

export function toRun({ closed, nodes }: DrawnPath, { toStage }: Pick<DrawMap, 'toStage'>): Run {
  return {
    closed,
    nodes: nodes.map(([u, v, inU, inV, outU, outV]): Node => {
      const { x, y } = toStage(u, v);
      const before = toStage(u + inU, v + inV);
      const after = toStage(u + outU, v + outV);
      return { x, y, inX: before.x - x, inY: before.y - y, outX: after.x - x, outY: after.y - y };
    }),
  };
}

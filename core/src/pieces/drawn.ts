import { curveThroughNodes, type Curve, type CurveNode } from '../geometry/curve.js';

/**
 * A point of a drawn path: place, handle towards the point before, handle towards the point after, in the frame of the
 * object it is of; handles are relative to the place.
 */
export type PathNode = CurveNode;

/** Copies a piece may have in a ring. */
export const MOST_COPIES = 60;

/** A run of points. */
export interface DrawnPath {
  readonly closed: boolean;
  readonly nodes: readonly PathNode[];
}

/** The curve through a path's points. */
export function pathCurve(
  { nodes, closed }: DrawnPath,
  toHoop: (u: number, v: number) => { readonly x: number; readonly y: number },
): Curve {
  return curveThroughNodes(nodes, closed, (u, v) => {
    const { x, y } = toHoop(u, v);
    return [x, y];
  });
}

/** The points of a curve, for the user to move. */
export function curvePath(
  { points, kinds }: Curve,
  closed: boolean,
  toSource: (x: number, y: number) => { readonly u: number; readonly v: number },
): DrawnPath {
  const at = (i: number): [number, number] => {
    const { u, v } = toSource(points[i], points[i + 1]);
    return [u, v];
  };
  const nodes: [number, number, number, number, number, number][] = [[...at(0), 0, 0, 0, 0]];
  let i = 2;
  for (const kind of kinds) {
    const before = nodes[nodes.length - 1];
    if (kind === 'L') nodes.push([...at(i), 0, 0, 0, 0]);
    else {
      const [ou, ov] = at(i);
      const [iu, iv] = at(i + 2);
      const [u, v] = at(i + 4);
      before[4] = ou - before[0];
      before[5] = ov - before[1];
      nodes.push([u, v, iu - u, iv - v, 0, 0]);
    }
    i += kind === 'L' ? 2 : 6;
  }
  if (closed && nodes.length > 1) {
    const last = nodes[nodes.length - 1];
    if (Math.abs(last[0] - nodes[0][0]) + Math.abs(last[1] - nodes[0][1]) < 1e-9) {
      nodes.pop();
      nodes[0][2] = last[2];
      nodes[0][3] = last[3];
    }
  }
  return { closed, nodes };
}

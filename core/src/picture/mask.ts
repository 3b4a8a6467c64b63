import { curveThroughNodes, flattenRing, type Curve, type CurveNode } from '../geometry/curve.js';
import { boundsOf, type Bounds } from '../geometry/polyline.js';
import { direction } from '../geometry/vector.js';

/**
 * A point of a mask in its unit square (-0.5 to 0.5 each way): place, handle towards the point before, handle towards
 * the point after. Handles are relative to the place; a corner has none.
 */
export type MaskNode = CurveNode;

/** What of a picture is used. Millimetres around the middle of the picture, after it was turned. */
export interface Mask {
  readonly shape: MaskShape;
  readonly x: number;
  readonly y: number;
  readonly widthMm: number;
  readonly heightMm: number;
  /** Degrees clockwise. */
  readonly turn: number;
  /** Points of a free mask; other shapes have theirs by name. */
  readonly nodes?: readonly MaskNode[];
}

const corner = (x: number, y: number): MaskNode => [x, y, 0, 0, 0, 0];

/** Four points whose handles run along the sides of the square; 0.2761 gives an ellipse. */
function rounded(handle: number): MaskNode[] {
  return [
    [0, -0.5, -handle, 0, handle, 0],
    [0.5, 0, 0, -handle, 0, handle],
    [0, 0.5, handle, 0, -handle, 0],
    [-0.5, 0, 0, handle, 0, -handle],
  ];
}

function scallop(lobes: number): MaskNode[] {
  const radius = 0.43;
  // A cubic bulges by three quarters of its handles.
  const bulge = (0.5 - radius * direction(180 / lobes).x) / 0.75;
  return Array.from({ length: lobes }, (_, i): MaskNode => {
    const at = direction((360 * i) / lobes - 90);
    const before = direction((360 * (i - 0.5)) / lobes - 90);
    const after = direction((360 * (i + 0.5)) / lobes - 90);
    return [at.x * radius, at.y * radius, before.x * bulge, before.y * bulge, after.x * bulge, after.y * bulge];
  });
}

/** Shapes a mask may have; `free` is drawn by the user. */
export const MASK_SHAPES = {
  rectangle: [corner(-0.5, -0.5), corner(0.5, -0.5), corner(0.5, 0.5), corner(-0.5, 0.5)],
  ellipse: rounded(0.2761),
  circle: rounded(0.2761),
  oval: rounded(0.37),
  heart: [
    [0, -0.27, -0.05, -0.14, 0.05, -0.14],
    [0.27, -0.5, -0.13, 0, 0.13, 0],
    [0.5, -0.2, 0, -0.17, 0, 0.2],
    [0, 0.5, 0.13, -0.1, -0.13, -0.1],
    [-0.5, -0.2, 0, 0.2, 0, -0.17],
    [-0.27, -0.5, -0.13, 0, 0.13, 0],
  ],
  shield: [
    [0, -0.5, -0.16, 0.09, 0.16, 0.09],
    [0.5, -0.42, -0.16, 0.05, 0, 0],
    [0.5, 0, 0, 0, 0, 0.25],
    [0, 0.5, 0.24, -0.12, -0.24, -0.12],
    [-0.5, 0, 0, 0.25, 0, 0],
    [-0.5, -0.42, 0, 0, 0.16, 0.05],
  ],
  scallop: scallop(12),
  hexagon: [
    corner(-0.25, -0.5),
    corner(0.25, -0.5),
    corner(0.5, 0),
    corner(0.25, 0.5),
    corner(-0.25, 0.5),
    corner(-0.5, 0),
  ],
  kite: [corner(0, -0.5), corner(0.5, -0.15), corner(0, 0.5), corner(-0.5, -0.15)],
} as const satisfies Record<string, readonly MaskNode[]>;

export type MaskShape = keyof typeof MASK_SHAPES | 'free';

/** Width of a new mask divided by its height; other shapes take that of the picture. */
export const MASK_PROPORTION: Readonly<Partial<Record<MaskShape, number>>> = {
  circle: 1,
  oval: 0.78,
  heart: 1.08,
  shield: 0.84,
  scallop: 1,
  hexagon: 1.1547,
  kite: 0.74,
};

/** The points of a mask, those of its shape unless it has its own. */
export function nodesOf(mask: Mask): readonly MaskNode[] {
  return mask.nodes ?? (mask.shape === 'free' ? MASK_SHAPES.rectangle : MASK_SHAPES[mask.shape]);
}

/** Outline of a mask: a closed curve in mm around the middle of the picture. */
export function maskCurve(mask: Mask): Curve {
  const { x: cos, y: sin } = direction(mask.turn);
  const place = (u: number, v: number): [number, number] => {
    const px = u * mask.widthMm;
    const py = v * mask.heightMm;
    return [mask.x + px * cos - py * sin, mask.y + px * sin + py * cos];
  };
  return curveThroughNodes(nodesOf(mask), true, place);
}

/** Smallest upright box around a mask, in mm around the middle of the picture. */
export function maskBounds(mask: Mask): Bounds {
  return boundsOf([flattenRing(maskCurve(mask), 0.01)]);
}

/**
 * Fits the unit square of a free mask to its points again, after one of them was moved: the mask keeps its place on
 * the picture, and its width and height are those of its points.
 */
export function refitMask(mask: Mask, nodes: readonly MaskNode[]): Mask {
  const upright: Mask = { ...mask, x: 0, y: 0, turn: 0, shape: 'free', nodes };
  const box = maskBounds(upright);
  const widthMm = Math.max(1, box.right - box.left);
  const heightMm = Math.max(1, box.bottom - box.top);
  const midX = (box.left + box.right) / 2;
  const midY = (box.top + box.bottom) / 2;
  const { x: cos, y: sin } = direction(mask.turn);
  const kx = mask.widthMm / widthMm;
  const ky = mask.heightMm / heightMm;
  return {
    shape: 'free',
    x: mask.x + midX * cos - midY * sin,
    y: mask.y + midX * sin + midY * cos,
    widthMm,
    heightMm,
    turn: mask.turn,
    nodes: nodes.map(([x, y, ix, iy, ox, oy]): MaskNode => [
      x * kx - midX / widthMm,
      y * ky - midY / heightMm,
      ix * kx,
      iy * ky,
      ox * kx,
      oy * ky,
    ]),
  };
}

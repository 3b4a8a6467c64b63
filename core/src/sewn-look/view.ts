/**
 * A window onto the hoop: `width` x `height` pixels at `scale` pixels a mm. `left` and `top` are the place of its upper
 * left corner in pixels from the hoop's centre. Windows at whole pixels fit together: what lies in two of them is drawn
 * the same, to the bit.
 */
export interface View {
  readonly width: number;
  readonly height: number;
  readonly scale: number;
  readonly left: number;
  readonly top: number;
}

/** How stitches are drawn. */
export type Look = 'sewn' | 'line' | 'density';

/** Part of a view, in its pixels. */
export interface ViewPart {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

export const wholeOf = ({ width, height }: View): ViewPart => ({ left: 0, top: 0, width, height });

/** The least part that has both of two in it. */
export function aroundBoth(a: ViewPart, b: ViewPart): ViewPart {
  if (a.width * a.height === 0) return b;
  if (b.width * b.height === 0) return a;
  const [left, top] = [Math.min(a.left, b.left), Math.min(a.top, b.top)];
  const right = Math.max(a.left + a.width, b.left + b.width);
  return { left, top, width: right - left, height: Math.max(a.top + a.height, b.top + b.height) - top };
}

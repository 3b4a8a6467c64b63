/** A window onto the hoop: pixels of `width` x `height`, `scale` pixels a mm, its upper left corner in mm. */
export interface View {
  readonly width: number;
  readonly height: number;
  readonly scale: number;
  readonly left: number;
  readonly top: number;
}

/** How stitches are drawn. */
export type Look = 'sewn' | 'line' | 'density';

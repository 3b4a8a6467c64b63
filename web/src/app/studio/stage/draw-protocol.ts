import type { ClothPatch, Look, StitchList, View, ViewPart } from '@open-kite/core';

/** What the stage asks of its drawing worker. */
export type DrawRequest =
  | {
      readonly kind: 'scene';
      readonly scene: number;
      readonly stitches: StitchList;
      readonly hexes: readonly string[];
      readonly clothHex: string;
      readonly patches?: readonly ClothPatch[];
    }
  | { readonly kind: 'tile'; readonly scene: number; readonly key: string; readonly view: View; readonly look: Look }
  /** The whole view as it is when a row of the stitch list has been sewn. */
  | {
      readonly kind: 'moment';
      readonly scene: number;
      readonly view: View;
      readonly look: Look;
      readonly row: number;
      /** Drawn as well as tiles are, now that nothing moves; otherwise quickly. */
      readonly fine: boolean;
    };

export type DrawAnswer =
  | {
      readonly kind: 'tile';
      readonly scene: number;
      readonly key: string;
      readonly view: View;
      readonly bitmap: ImageBitmap;
    }
  | {
      readonly kind: 'moment';
      readonly scene: number;
      readonly view: View;
      readonly row: number;
      /** What has changed since the moment before, and where in the view it belongs. */
      readonly part: ViewPart;
      readonly pixels: Int32Array<ArrayBuffer>;
    };

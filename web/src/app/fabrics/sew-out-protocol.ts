import type { Measurement, Point } from '@open-kite/core';

/** What was sewn: the test card of a fabric, or the design that is stored with a project. */
export type SewnSource =
  | { readonly kind: 'card'; readonly fabric: string; readonly hex: string }
  | { readonly kind: 'project'; readonly id: string; readonly designKey: string };

/** What was sewn, as far as it is shown. */
export interface SewnShape {
  /** Rings of its pieces in mm, the largest pieces first. */
  readonly rings: readonly (readonly number[])[];
  /** Places by which a photograph is laid over it, clockwise, and whether they are corner marks. */
  readonly places: readonly Point[];
  readonly marked: boolean;
  readonly bounds: { readonly left: number; readonly top: number; readonly right: number; readonly bottom: number };
}

/** A photograph that was read. */
export interface ReadPhoto {
  readonly width: number;
  readonly height: number;
  /** Places of the corner marks, in its pixels; none where they are not seen. */
  readonly corners: readonly Point[] | undefined;
}

/** Reads photographs of sewn designs, off the page's own thread. */
export interface SewOutWorker {
  /** Gets what was sewn ready. */
  open(source: SewnSource): Promise<SewnShape>;
  /** Reads a photograph and looks for corner marks in it. @throws Error where it is none */
  read(file: Blob): Promise<ReadPhoto>;
  /** Measures the photograph that was read, laid over the design by four places. */
  measure(corners: readonly Point[]): Promise<readonly Measurement[]>;
}

import type { DesignThread } from '../colour/design-thread.js';
import type { PictureBox } from '../picture/frame.js';
import type { LaidCloth, PrintedTile } from '../pieces/laid-cloth.js';
import { fabricNamed, fabricOn, FABRICS, type Fabric } from '../stitches/fabrics.js';
import type { MeasuredCloth } from '../stitches/measured-cloth.js';
import type { StitchList } from './stitch-list.js';

/** A cloth of an applique, and the row of the stitch list before which it is laid on. */
export interface ClothPatch extends LaidCloth {
  readonly row: number;
  /** What is printed on it, small. */
  readonly tile?: PrintedTile;
}

/** Fabric and colour of the cloth, and what was measured on it. */
export interface SewnCloth {
  readonly id: string;
  readonly hex: string;
  readonly measured?: MeasuredCloth;
}

/** The fabric something is sewn on; the first one where its name is not known. */
export function fabricUnder({ fabric: { id, measured } }: Pick<Sewing, 'fabric'>): Fabric {
  return fabricOn({ fabric: fabricNamed(id)?.id ?? FABRICS[0].id, measured });
}

/** What every form of a design holds: enough to sew, draw and measure it. */
export interface Sewing {
  readonly fabric: SewnCloth;
  readonly picture?: PictureBox;
  readonly threads: readonly DesignThread[];
  readonly stitches: StitchList;
  /** Names of the pieces the stitch list counts from 0. */
  readonly pieceIds: readonly string[];
  /** Cloth that is laid on while it is sewn, in order. */
  readonly patches?: readonly ClothPatch[];
  /** What a file said of pieces and colours besides, so that it is written again as it was. */
  readonly carried?: Readonly<Record<string, unknown>>;
}

import type { KindFamily } from '../pieces/sewn-as.js';
import type { Fabric } from './fabrics.js';
import type { FillUnderlay } from './fill-underlay.js';

/** What is sewn below a piece. Columns always lie on the run that leads along them. */
export const UNDERLAYS = ['none', 'centre', 'edge', 'lattice', 'both'] as const;
export type PieceUnderlay = (typeof UNDERLAYS)[number];

/** Names of underlays by family, for the user to choose from. */
export const UNDERLAY_NAMES: Readonly<Record<KindFamily, readonly { readonly id: string; readonly name: string }[]>> = {
  line: [],
  column: [
    { id: 'centre', name: 'Centre run' },
    { id: 'edge', name: 'Edge run' },
    { id: 'both', name: 'Edge run and zigzag' },
  ],
  area: [
    { id: 'none', name: 'None' },
    { id: 'edge', name: 'Edge run' },
    { id: 'lattice', name: 'Lattice' },
    { id: 'both', name: 'Edge run and lattice' },
  ],
};

/** Widths in mm from which columns lie on an edge run, and on a zigzag as well; for light, usual and firm underlay. */
const EDGE_FROM = { light: 3.2, usual: 2.5, firm: 2 } as const;
const ZIGZAG_FROM = { light: 6, usual: 4, firm: 3 } as const;
/** Fills smaller or narrower than this need nothing below them, or an edge run at most. */
const LEAST_FILL_MM2 = 14;
const LATTICE_FILL_MM2 = 40;

/** What lies below a piece by itself: by its kind, its width and the fabric. */
export function underlayFor(family: KindFamily, widthMm: number, areaMm2: number, fabric: Fabric): PieceUnderlay {
  const { underlay } = fabric;
  if (family === 'line') return 'none';
  if (family === 'column') {
    if (widthMm < EDGE_FROM[underlay]) return 'centre';
    return widthMm < ZIGZAG_FROM[underlay] ? 'edge' : 'both';
  }
  if (areaMm2 < LEAST_FILL_MM2 || widthMm < 2.4) return 'none';
  return underlay === 'light' || areaMm2 < LATTICE_FILL_MM2 ? 'edge' : 'both';
}

const LATTICE_MM = { light: 3, usual: 2.5, firm: 2 } as const;

/** The underlay of a fill as it is sewn. */
export function fillUnderlayOf(underlay: PieceUnderlay, fabric: Fabric): FillUnderlay | undefined {
  if (underlay === 'none' || underlay === 'centre') return undefined;
  return {
    edge: underlay !== 'lattice',
    latticeMm: underlay === 'edge' ? 0 : LATTICE_MM[fabric.underlay],
  };
}

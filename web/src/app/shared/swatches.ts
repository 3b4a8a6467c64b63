import { FABRICS, MOTIFS, OFFSET_PATTERNS } from '@open-kite/core';

const PATTERNS = new Set(OFFSET_PATTERNS.map(({ id }) => id));
const FABRIC_IDS = new Set(FABRICS.map(({ id }) => id));
const MOTIF_IDS = new Set(MOTIFS.map(({ id }) => id));

/** Addresses of small sewn pictures; `scripts/swatches.mjs` makes them. Undefined where there is none of something. */
export const SWATCH = {
  /** @param id a stitch kind and the passes of a line, as `running 2` */
  kind: (id: string): string => `swatches/kind-${id.replace(' ', '-')}.png`,
  pattern: (id: string): string | undefined => (PATTERNS.has(id) ? `swatches/pattern-${id}.png` : undefined),
  motif: (id: string): string | undefined => (MOTIF_IDS.has(id) ? `swatches/motif-${id}.png` : undefined),
  fabric: (id: string): string | undefined => (FABRIC_IDS.has(id) ? `swatches/fabric-${id}.png` : undefined),
} as const;

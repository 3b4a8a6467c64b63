import type { Sewing } from '../sequence/sewing.js';
import { figuresOf } from '../sequence/figures.js';
import { findingsOf } from '../findings/findings.js';
import type { Likeness } from '../sewn-look/likeness.js';

/** Figures of a design, in the shape docs/formats.md fixes. */
export interface Report {
  readonly stitches: number;
  readonly jumps: number;
  readonly trims: number;
  readonly threadChanges: number;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly longestStitchMm: number;
  readonly shortStitchShare: number;
  readonly minutes: { readonly oneNeedle: number; readonly multiNeedle: number };
  readonly threads: readonly {
    readonly code: string;
    readonly name: string;
    readonly hex: string;
    readonly chart: string;
    readonly stitches: number;
    readonly lengthM: number;
    readonly deltaE: number;
  }[];
  readonly pieces: number;
  readonly findings: { readonly problem: number; readonly advice: number };
  /** Null where there is no picture to compare with. */
  readonly likeness: Likeness | null;
  readonly seconds: Readonly<Record<string, number>>;
}

/** Puts the figures of a design together. */
export function reportOf(design: Sewing, likeness: Likeness | undefined, seconds: Record<string, number>): Report {
  const { threads, ...figures } = figuresOf(design.stitches, design.threads.length);
  const found = findingsOf(design);
  return {
    ...figures,
    threads: design.threads.map(({ code, name, hex, chart, deltaE }, i) => ({
      code,
      name,
      hex,
      chart,
      ...threads[i],
      deltaE,
    })),
    pieces: design.pieceIds.length,
    findings: {
      problem: found.filter((f) => f.level === 'problem').length,
      advice: found.filter((f) => f.level === 'advice').length,
    },
    likeness: likeness ?? null,
    seconds,
  };
}

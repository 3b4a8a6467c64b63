import type { Sewing } from '../sequence/sewing.js';
import { figuresOf } from '../sequence/figures.js';
import type { Design } from '../design/design.js';
import { LEVELS, type Finding } from '../findings/finding.js';
import { findingsOf } from '../findings/findings.js';
import type { Recipe } from '../recipe/recipe.js';
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
  /** What will or may go wrong, or is wasted: how many of each, and the list, the most harmful first. */
  readonly findings: Readonly<Record<Finding['level'], number>> & {
    readonly list: readonly {
      readonly kind: string;
      readonly level: Finding['level'];
      readonly text: string;
      readonly at: { readonly x: number; readonly y: number } | null;
      readonly pieces: readonly string[];
      readonly repairs: readonly { readonly id: string; readonly label: string }[];
    }[];
  };
  /** Null where there is no picture to compare with. */
  readonly likeness: Likeness | null;
  readonly seconds: Readonly<Record<string, number>>;
}

/** What is known of a design beyond its stitches. */
export interface Known {
  readonly design: Design;
  readonly recipe: Recipe;
}

/** Puts the figures of a design together; with what is known of it, findings have their pieces and repairs. */
export function reportOf(
  sewing: Sewing,
  likeness: Likeness | undefined,
  seconds: Record<string, number>,
  known?: Known,
): Report {
  const { threads, ...figures } = figuresOf(sewing.stitches, sewing.threads.length);
  const found = findingsOf(sewing, known?.design, known?.recipe);
  const counts = Object.fromEntries(LEVELS.map((level) => [level, found.filter((f) => f.level === level).length]));
  return {
    ...figures,
    threads: sewing.threads.map(({ code, name, hex, chart, deltaE }, i) => ({
      code,
      name,
      hex,
      chart,
      ...threads[i],
      deltaE,
    })),
    pieces: sewing.pieceIds.length,
    findings: {
      ...(counts as Record<Finding['level'], number>),
      list: found.map(({ kind, level, text, why, at, pieces, repairs }) => ({
        kind,
        level,
        text: `${text} ${why}`,
        at: at ? { x: round(at.x), y: round(at.y) } : null,
        pieces,
        repairs: repairs.map(({ id, label }) => ({ id, label })),
      })),
    },
    likeness: likeness ?? null,
    seconds,
  };
}

const round = (value: number): number => Number(value.toFixed(3));

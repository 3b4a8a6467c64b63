import type { IgnoredFinding, Recipe } from '../recipe/recipe.js';
import type { Finding } from './finding.js';

/** A finding is the same as one before within this distance, in mm. */
const SAME_MM = 2;
/** It is told again when it has become so much worse. */
const WORSE = 1.25;

const isSame = (finding: Finding, { kind, at }: IgnoredFinding): boolean => {
  if (finding.kind !== kind || !finding.at !== !at) return false;
  if (!finding.at || !at) return true;
  return (finding.at.x - at.x) ** 2 + (finding.at.y - at.y) ** 2 <= SAME_MM * SAME_MM;
};

/** Whether somebody has let a finding be, and it is no worse since. */
export const isIgnored = (finding: Finding, { ignored = [] }: Pick<Recipe, 'ignored'>): boolean =>
  ignored.some((before) => isSame(finding, before) && finding.harm <= before.harm * WORSE);

/** Lets a finding be. */
export function ignore({ ignored = [] }: Pick<Recipe, 'ignored'>, finding: Finding): IgnoredFinding[] {
  const at = finding.at ? { x: round(finding.at.x), y: round(finding.at.y) } : null;
  return [
    ...ignored.filter((before) => !isSame(finding, before)),
    { kind: finding.kind, at, harm: round(finding.harm) },
  ];
}

const round = (value: number): number => Number(value.toFixed(3));

import { ciede2000, rgbToLab } from '../colour/ciede2000.js';
import { fromHex } from '../colour/srgb.js';
import { createGroups, type ColourGroup, type ShadeMap } from './shades.js';

/**
 * What a decision on a colour holds on to: the colour as it is in the picture before its light is changed, and a place
 * where it is found, as shares of the picture's width and height before it is turned or cut. So a decision finds its
 * colour again when the number of colours, the light or the mask change.
 */
export interface Anchor {
  readonly hex: string;
  readonly u: number;
  readonly v: number;
}

/** Something the user said about a colour; they hold in the order they were made. */
export type ColourDecision =
  /** Keep this colour, whatever the number of colours. */
  | { readonly kind: 'pin'; readonly at: Anchor }
  /** One colour joins another, whose thread it is sewn with. */
  | { readonly kind: 'merge'; readonly at: Anchor; readonly into: Anchor }
  /** One shade of a colour goes over to another colour. */
  | { readonly kind: 'move'; readonly at: Anchor; readonly into: Anchor }
  /** One colour becomes two. */
  | { readonly kind: 'split'; readonly at: Anchor }
  /** A colour stands before another in the order. */
  | { readonly kind: 'rank'; readonly at: Anchor; readonly before: Anchor }
  /** Nothing is sewn where this colour is. */
  | { readonly kind: 'bare'; readonly at: Anchor }
  /** The thread of a colour; chart `own` keeps the picture's colour. */
  | { readonly kind: 'thread'; readonly at: Anchor; readonly chart: string; readonly code: string };

/** Kinds of decisions that change which pixels belong together. */
const REGROUPING = ['pin', 'merge', 'move', 'split', 'rank'] as const;

export function regroups(decision: ColourDecision): boolean {
  return (REGROUPING as readonly string[]).includes(decision.kind);
}

/** A colour found at the place of an anchor may differ by this much (CIEDE2000) and still be the one that was meant. */
const FAR_AT_PLACE = 12;
/** Elsewhere it must be nearer. */
const FAR_ELSEWHERE = 6;

/** Finds colours and shades of a picture again. */
export interface Finder {
  /** Index of the shade under an anchor's place, -1 where there is none. */
  readonly shadeAt: (anchor: Anchor) => number;
}

/** The group an anchor means, or -1. */
export function findGroup(groups: readonly ColourGroup[], anchor: Anchor, finder: Finder): number {
  const lab = rgbToLab(fromHex(anchor.hex));
  const difference = (i: number): number => ciede2000(lab, rgbToLab(groups[i].source));
  const shade = finder.shadeAt(anchor);
  const there = groups.findIndex((group) => group.shades.includes(shade));
  let best = -1;
  let least = Infinity;
  groups.forEach((group, i) => {
    if (group.shades.length === 0) return;
    const d = difference(i);
    if (d < least) {
      least = d;
      best = i;
    }
  });
  // The same colour elsewhere wins over a different one at the place.
  if (there >= 0 && difference(there) <= Math.max(least + FAR_ELSEWHERE, 1) && difference(there) <= FAR_AT_PLACE)
    return there;
  return least <= FAR_ELSEWHERE ? best : -1;
}

function findShade(map: ShadeMap, anchor: Anchor, finder: Finder): number {
  const lab = rgbToLab(fromHex(anchor.hex));
  const difference = (i: number): number => ciede2000(lab, rgbToLab(map.shades[i].source));
  const there = finder.shadeAt(anchor);
  if (there >= 0 && difference(there) <= FAR_ELSEWHERE) return there;
  let best = -1;
  let least = FAR_ELSEWHERE / 2;
  map.shades.forEach((_, i) => {
    const d = difference(i);
    if (d <= least) {
      least = d;
      best = i;
    }
  });
  return best;
}

/** Groups after the decisions that regroup, and the decisions that found no colour, by their place in the list. */
export interface Regrouped {
  readonly groups: readonly ColourGroup[];
  readonly lost: readonly number[];
}

/** Carries out the decisions that change which shades belong together. */
export function regroup(map: ShadeMap, decisions: readonly ColourDecision[], finder: Finder): Regrouped {
  const groups = createGroups(map);
  const lost: number[] = [];
  decisions.forEach((decision, index) => {
    if (!carryOut(map, groups, decision, finder)) lost.push(index);
  });
  return { groups: groups.filter((group) => group.shades.length > 0), lost };
}

function carryOut(map: ShadeMap, groups: ColourGroup[], decision: ColourDecision, finder: Finder): boolean {
  switch (decision.kind) {
    case 'merge': {
      const from = findGroup(groups, decision.at, finder);
      const into = findOwner(map, groups, decision.into, finder);
      if (into < 0) return false;
      // With fewer colours it may have become a shade of another: then that shade goes over.
      if (from < 0) return moveShade(map, groups, decision.at, into, finder);
      // The reduction has already made one of the two.
      if (from === into) return true;
      groups[into] = { ...groups[into], shades: [...groups[into].shades, ...groups[from].shades] };
      groups[from] = { ...groups[from], shades: [] };
      return true;
    }
    case 'move': {
      const into = findOwner(map, groups, decision.into, finder);
      return into >= 0 && moveShade(map, groups, decision.at, into, finder);
    }
    case 'split': {
      const at = findGroup(groups, decision.at, finder);
      const halves = at < 0 ? undefined : halve(map, groups[at]);
      if (!halves) return false;
      groups.splice(at, 1, ...halves);
      return true;
    }
    case 'rank': {
      const at = findGroup(groups, decision.at, finder);
      const before = findGroup(groups, decision.before, finder);
      if (at < 0 || before < 0) return false;
      if (at === before) return true;
      const target = groups[before];
      const [moved] = groups.splice(at, 1);
      groups.splice(groups.indexOf(target), 0, moved);
      return true;
    }
    case 'pin':
      return findGroup(groups, decision.at, finder) >= 0;
    default:
      return true;
  }
}

/** The group an anchor means, or the one its shade has gone to. */
function findOwner(map: ShadeMap, groups: readonly ColourGroup[], anchor: Anchor, finder: Finder): number {
  const group = findGroup(groups, anchor, finder);
  if (group >= 0) return group;
  const shade = findShade(map, anchor, finder);
  return groups.findIndex((g) => g.shades.includes(shade));
}

function moveShade(map: ShadeMap, groups: ColourGroup[], at: Anchor, into: number, finder: Finder): boolean {
  const shade = findShade(map, at, finder);
  const from = groups.findIndex((group) => group.shades.includes(shade));
  if (from < 0) return false;
  if (from === into) return true;
  groups[from] = { ...groups[from], shades: groups[from].shades.filter((s) => s !== shade) };
  groups[into] = { ...groups[into], shades: [...groups[into].shades, shade] };
  return true;
}

/** Two groups of a group's shades: around its lightest and its darkest, or whatever two differ most. */
function halve(map: ShadeMap, group: ColourGroup): ColourGroup[] | undefined {
  if (group.shades.length < 2) return undefined;
  const labs = group.shades.map((s) => rgbToLab(map.shades[s].colour));
  let ends: [number, number] = [0, 1];
  let most = -1;
  for (let a = 0; a < labs.length; a++) {
    for (let b = a + 1; b < labs.length; b++) {
      const d = ciede2000(labs[a], labs[b]);
      if (d > most) {
        most = d;
        ends = [a, b];
      }
    }
  }
  const near = (i: number): boolean => ciede2000(labs[i], labs[ends[0]]) <= ciede2000(labs[i], labs[ends[1]]);
  const sides = [group.shades.filter((_, i) => near(i)), group.shades.filter((_, i) => !near(i))];
  return sides.map((shades) => ({ ...map.describe(shades), shades, pinned: false }));
}

import { meetingBoxes } from '../geometry/meeting-boxes.js';
import { common, groupRings, offset, subtract, unite } from '../geometry/polygons.js';
import { areaWithin, boundsOf, signedArea } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { fromRings, type Area } from './area.js';

/** Less than this share of a shape is not worth cutting away. */
const LEAST_SHARE = 0.001;
/** More shapes over one than this are put together in one go. */
const MANY = 40;
/** What is left of a shape and nowhere wider than this is no shape: outlines that were meant to be one lie beside each other. */
const SLIVER_MM = 0.25;
/** Rings of no more area than this are hairs. */
const HAIR_MM2 = 0.01;
/** Smaller parts of what is left are not missed. */
const LEAST_PART_MM2 = 0.3;
/** Nor are they missed of what is kept however small it is, where they are no more than this of it. */
const OF_KEPT = 0.1;
/** Under one that is narrow a piece is sewn through, under two over each other it is cut out, but in smaller or narrower places. */
const LEAST_TWICE_MM2 = 0.5;
const LEAST_TWICE_MM = 0.8;
/** Of what is nearly all hidden only a rim shows: it is not sewn where it is nowhere wider than this. */
const NEARLY_ALL = 0.88;
const RIM_MM = 0.8;
/** Of more shapes than this nobody looks for details: it would take long. */
const MOST_DETAILED = 600;
/** A detail lies on a piece with this share of its area, and touches what has more of it than that. */
const LIES_ON = 0.97;
const TOUCHES = 0.04;
/** What hides more of a piece than this is no detail of it. */
const MOST_OF_GROUND = 0.1;
/** Two lines that cross on no more than so many times both widths are sewn over each other. */
const CROSSING = 1.6;

/**
 * Cuts out of every area what lies below a higher one that is wide: thread under thread only adds bulk, but under what
 * is narrow the lower piece is sewn through, so that nothing opens there, unless two such lie over each other; so it is
 * under a detail, as a letter, that lies on one piece alone. What is left falls into the parts that show.
 * @param isDetail whether an area is narrow enough for that
 */
export function cutHidden(
  areas: readonly Area[],
  isWide: (area: Area) => boolean,
  isDetail: (area: Area) => boolean = () => false,
): Area[] {
  if (areas.every(({ layer }) => layer === areas[0].layer)) return areas.slice();
  const wide = areas.map(isWide);
  const met = meetingBoxes(areas.map(({ rings }) => boundsOf(rings)));
  const grounds = areas.length <= MOST_DETAILED ? groundsOf(areas, met, isDetail) : new Map<Area, Area>();
  return areas.flatMap((area, i): Area[] => {
    if (area.cut === false) return [area];
    const over = met[i].flatMap((j) => {
      const other = areas[j];
      if (other.layer <= area.layer) return [];
      const cuts = area.cut === true || (wide[j] && grounds.get(other) !== area && !doCross(area, other));
      return cuts ? [other] : [];
    });
    const above = together(over);
    const through = met[i].flatMap((j) => (areas[j].layer > area.layer && !over.includes(areas[j]) ? [areas[j]] : []));
    const below = area.cut === true || through.length > MANY ? [] : twiceCovered(through);
    if (above.length === 0 && below.length === 0) return [area];
    // Where outlines lie on each other hairs are left over, on which all that follows would founder.
    const hidden = below.length === 0 ? above : unite(above, below);
    const rest = subtract(area.rings, hidden).filter((ring) => Math.abs(signedArea(ring)) > HAIR_MM2);
    const before = areaWithin(area.rings);
    if (before - areaWithin(rest) < before * LEAST_SHARE) return [area];
    return shownParts(area, rest, before);
  });
}

/** Where at least two of some areas lie over each other, so that nothing need be sewn below. */
function twiceCovered(areas: readonly Area[]): readonly Points[] {
  let once: readonly Points[] = [];
  let twice: readonly Points[] = [];
  for (const { rings } of areas) {
    if (once.length === 0) once = rings;
    else {
      const both = common(once, rings);
      if (both.length > 0) twice = twice.length === 0 ? both : unite(twice, both);
      once = unite(once, rings);
    }
  }
  // Lines side by side share long narrow places: what is below goes on there.
  const compact = twice.length === 0 ? [] : offset(offset(twice, -LEAST_TWICE_MM / 2), LEAST_TWICE_MM / 2);
  return groupRings(compact)
    .filter((rings) => areaWithin(rings) >= LEAST_TWICE_MM2)
    .flat();
}

/** For each detail that lies on one piece alone, that piece. */
function groundsOf(
  areas: readonly Area[],
  met: readonly (readonly number[])[],
  isDetail: (area: Area) => boolean,
): Map<Area, Area> {
  const found = new Map<Area, Area>();
  areas.forEach((detail, j) => {
    if (!isDetail(detail)) return;
    const below = met[j].filter((i) => areas[i].layer < detail.layer).sort((a, b) => areas[b].layer - areas[a].layer);
    // From the top down: what hardly touches it does not count, what lies under part of it makes it no detail of one piece.
    for (const i of below) {
      const both = areaWithin(common(detail.rings, areas[i].rings));
      const share = both / Math.max(1e-9, detail.areaMm2);
      if (share < TOUCHES) continue;
      if (share > LIES_ON && both < MOST_OF_GROUND * areas[i].areaMm2 && !isDetail(areas[i]))
        found.set(detail, areas[i]);
      return;
    }
  });
  return found;
}

/** Whether two lines only cross: where they run along each other the lower one is cut. */
function doCross(a: Area, b: Area): boolean {
  if (!a.line || !b.line) return false;
  return areaWithin(common(a.rings, b.rings)) < CROSSING * a.line.widthMm * b.line.widthMm;
}

/** Parts of a shape that show and are worth sewing, out of what is left of it. */
function shownParts(area: Area, rest: readonly Points[], before: number): Area[] {
  const keep = area.keep === true;
  const least = keep ? Math.min(LEAST_PART_MM2, OF_KEPT * before) : LEAST_PART_MM2;
  // What thread can follow, with its corners; slivers go.
  const solid = offset(rest, -SLIVER_MM / 2);
  const shown = keep ? rest : solid.length > 0 ? common(rest, offset(solid, SLIVER_MM)) : [];
  if (shown.length === 0) return [];
  const isRim = areaWithin(shown) < before * (1 - NEARLY_ALL) && offset(shown, -RIM_MM / 2).length === 0;
  if (isRim && !keep) return [];
  return groupRings(shown)
    .map((rings) => fromRings(rings))
    .filter(({ areaMm2 }) => areaMm2 >= least)
    .map((part) => ({ ...area, ...part, shapeMm2: area.shapeMm2 ?? before, face: undefined }));
}

/** All that lies over a piece: one after the other, or all at once where that would take long. */
function together(areas: readonly Area[]): readonly Points[] {
  if (areas.length > MANY) {
    return unite(
      areas.flatMap(({ rings }) => rings),
      [],
    );
  }
  return areas.reduce<readonly Points[]>((above, { rings }) => (above.length === 0 ? rings : unite(above, rings)), []);
}

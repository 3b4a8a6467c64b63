import type { Matrix } from '../artwork/matrix.js';
import { boundsOf, type Bounds } from '../geometry/polyline.js';
import { mappedArea, type Area } from './area.js';

/** An object whose areas are copies of those of others. */
export interface AreaCopies {
  readonly id: string;
  /** Objects they are copies of. */
  readonly of: readonly string[];
  /** Whether each copy is finished before the next is begun, rather than thread by thread. */
  readonly oneByOne: boolean;
  /** Its copies lie above this. */
  readonly layer: number;
  /** Where they stand, by what is copied covers. */
  readonly mapsOf: (box: Bounds) => readonly Matrix[];
}

/** Words and places of a text's copies count on from here. */
const TEXT = 1000;

/** Areas, and the copies of them: everything that was said of an area is said of its copies. */
export function withCopies(areas: readonly Area[], copies: readonly AreaCopies[]): readonly Area[] {
  let all = areas;
  for (const { id, of, layer, mapsOf, oneByOne } of copies) {
    const own = all.filter(({ object }) => of.includes(object));
    if (own.length === 0) continue;
    const least = Math.min(...own.map((area) => area.layer));
    const made = mapsOf(boundsOf(own.flatMap(({ rings }) => rings))).flatMap((m, k) =>
      own.map((area, i): Area => {
        const { inText } = area;
        return {
          ...mappedArea(area, m),
          origin: 'drawn',
          object: id,
          part: `${k + 2}:${i + 1}`,
          layer: layer + area.layer - least,
          // Texts are read one after the other, copy by copy.
          inText: inText && { word: inText.word + (k + 1) * TEXT, place: inText.place + (k + 1) * TEXT },
          turn: oneByOne ? { of: id, at: k + 1 } : undefined,
          moved: undefined,
          decisions: [],
        };
      }),
    );
    const first = new Set(oneByOne ? own : []);
    all = [...all.map((area) => (first.has(area) ? { ...area, turn: { of: id, at: 0 } } : area)), ...made];
  }
  return all;
}

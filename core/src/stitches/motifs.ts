import type { Points } from '../geometry/vector.js';

/** A small figure that is sewn over and over. */
export interface Motif {
  readonly id: string;
  readonly name: string;
  /** Needle points from (0, 0) to (1, 0), in lengths of the motif; y points down. */
  readonly points: Points;
  /** How far it reaches above and below its line, in lengths. */
  readonly height: number;
}

const motif = (id: string, name: string, points: Points): Motif => {
  let [least, most] = [0, 0];
  for (let i = 1; i < points.length; i += 2) {
    least = Math.min(least, points[i]);
    most = Math.max(most, points[i]);
  }
  return { id, name, points, height: most - least };
};

/** Figures of the fair; a new one is a new line here. */
export const MOTIFS: readonly Motif[] = [
  motif(
    'swell',
    'Swell',
    [0, 0, 0.12, -0.16, 0.25, -0.22, 0.38, -0.16, 0.5, 0, 0.62, 0.16, 0.75, 0.22, 0.88, 0.16, 1, 0],
  ),
  motif('kites', 'Kites', [0, 0, 0.2, 0, 0.5, -0.34, 0.8, 0, 0.5, 0.5, 0.2, 0, 0.8, 0, 1, 0]),
  motif(
    'gulls',
    'Gulls',
    [0, 0, 0.14, -0.2, 0.3, -0.24, 0.44, -0.12, 0.5, 0.04, 0.56, -0.12, 0.7, -0.24, 0.86, -0.2, 1, 0],
  ),
  motif('bunting', 'Bunting', [0, 0, 0.12, 0, 0.5, 0.62, 0.88, 0, 0.12, 0, 0.88, 0, 1, 0]),
  motif(
    'lanterns',
    'Lanterns',
    [
      0, 0, 0.34, 0, 0.24, 0.18, 0.24, 0.42, 0.38, 0.6, 0.62, 0.6, 0.76, 0.42, 0.76, 0.18, 0.66, 0, 0.34, 0, 0.66, 0, 1,
      0,
    ],
  ),
  motif(
    'shells',
    'Shells',
    [
      0, 0, 0.1, -0.3, 0.3, -0.5, 0.5, -0.56, 0.7, -0.5, 0.9, -0.3, 1, 0, 0.5, 0, 0.3, -0.5, 0.5, 0, 0.7, -0.5, 0.5, 0,
      1, 0,
    ],
  ),
  motif('tails', 'Kite tails', [0, 0, 0.3, 0, 0.16, -0.2, 0.16, 0.2, 0.44, -0.2, 0.44, 0.2, 0.3, 0, 0.7, 0, 1, 0]),
  motif('rope', 'Rope', [0, 0, 0.25, 0.18, 0.6, -0.18, 0.75, -0.1, 0.5, 0, 0.25, -0.1, 0.4, -0.18, 0.75, 0.18, 1, 0]),
];

/** Looks a motif up; the first where there is none of that name. */
export const motifOf = (id: string): Motif => MOTIFS.find((m) => m.id === id) ?? MOTIFS[0];

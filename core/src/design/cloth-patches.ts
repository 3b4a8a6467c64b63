import type { LaidCloth } from '../pieces/laid-cloth.js';
import type { Piece } from '../pieces/piece.js';
import type { ClothPatch } from '../sequence/sewing.js';
import type { Raster } from '../picture/raster.js';
import { printedTile } from './printed-tile.js';
import type { StitchList } from '../sequence/stitch-list.js';

/** An applique of a design: its cloth, and the pieces that are its steps by their indices. */
export interface Applique {
  readonly cloth: LaidCloth;
  readonly steps: readonly number[];
}

/** The appliques of a design; steps of one hold the same cloth. */
export function appliquesOf(pieces: readonly Piece[]): Applique[] {
  const found = new Map<string, { cloth: LaidCloth; steps: number[] }>();
  for (const [i, { object, cloth }] of pieces.entries()) {
    if (!cloth) continue;
    // Copies of an applique are of one object: the places of their cloths tell them apart.
    const key = [object, ...cloth.rings.map((ring) => `${ring[0].toFixed(2)} ${ring[1].toFixed(2)}`)].join();
    const known = found.get(key);
    if (known) known.steps.push(i);
    else found.set(key, { cloth, steps: [i] });
  }
  return [...found.values()];
}

/**
 * Cloths in the order they are laid on: each before the first of its steps that is not its placement line.
 * @param stitches whose piece numbers count the pieces first
 * @param pixelsOf pixels of the project's pictures, for prints; undefined where there are none
 */
export function clothPatches(
  pieces: readonly Piece[],
  stitches: StitchList,
  pixelsOf: (source: string) => Raster | undefined,
): ClothPatch[] {
  const appliques = appliquesOf(pieces);
  if (appliques.length === 0) return [];
  const rowOf = new Map<number, number>();
  for (let row = 0; row < stitches.count; row++) {
    if (!rowOf.has(stitches.piece[row])) rowOf.set(stitches.piece[row], row);
  }
  return appliques
    .flatMap(({ cloth, steps }): ClothPatch[] => {
      const rows = steps.flatMap((i) => (pieces[i].role === 'placement' ? [] : (rowOf.get(i) ?? [])));
      if (rows.length === 0) return [];
      const pixels = cloth.look === 'print' && cloth.print ? pixelsOf(cloth.print.source) : undefined;
      return [{ ...cloth, row: Math.min(...rows), ...(pixels && { tile: printedTile(pixels) }) }];
    })
    .sort((a, b) => a.row - b.row);
}

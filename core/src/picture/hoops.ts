/** The field a hoop can sew; of a round one the circle inside it. */
export interface HoopField {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly round: boolean;
}

/** A hoop by the field it can sew. */
export interface Hoop extends HoopField {
  readonly id: string;
  readonly name: string;
}

const hoop = (widthMm: number, heightMm: number): Hoop => ({
  id: `${widthMm}x${heightMm}`,
  name: `${widthMm} x ${heightMm} mm`,
  widthMm,
  heightMm,
  round: false,
});

const roundHoop = (acrossMm: number): Hoop => ({
  id: `round-${acrossMm}`,
  name: `${acrossMm} mm round`,
  widthMm: acrossMm,
  heightMm: acrossMm,
  round: true,
});

/** Fields of common hoops. */
export const HOOPS: readonly Hoop[] = [
  hoop(100, 100),
  hoop(130, 180),
  hoop(160, 260),
  hoop(200, 200),
  hoop(200, 300),
  hoop(300, 300),
  hoop(400, 400),
  hoop(360, 80),
  roundHoop(120),
  roundHoop(180),
];

/**
 * Factor by which something is scaled so that as many whole cells as a hoop holds lie across it, the hoop turned where that
 * holds more.
 * @returns 0 where not one cell fits
 */
export function hoopFit(
  { widthMm, heightMm }: Hoop,
  size: { readonly widthMm: number; readonly heightMm: number },
  cellMm: number,
): number {
  const factors = [
    [widthMm, heightMm],
    [heightMm, widthMm],
  ].map(([w, h]) => Math.min(w / size.widthMm, h / size.heightMm));
  const cells = Math.floor((Math.max(...factors) * size.widthMm) / cellMm + 1e-9);
  return (cells * cellMm) / size.widthMm;
}

/** A stroke: its path, and what its width is multiplied by where that is not 1. */
export type Stroke = string | readonly [path: string, width: number];

/** A glyph as centre lines. */
export interface StrokeGlyph {
  /**
   * Paths of absolute M, L, C and Z; y upwards, the baseline at 0, capitals to 100, small letters to about 70. Of two
   * strokes that meet end to end or cross the earlier passes; an end on the middle of another ends there.
   */
  readonly strokes: readonly Stroke[];
  readonly left: number;
  readonly right: number;
  /** Where marks above it stand. */
  readonly top: readonly [x: number, y: number];
}

/** An alphabet whose glyphs are strokes, each sewn as one satin column. */
export interface StrokeAlphabet {
  readonly id: string;
  readonly name: string;
  readonly hint: string;
  /** Width of strokes as a share of the height of capitals, and its least in mm. */
  readonly weight: { readonly usual: number; readonly least: number; readonly most: number; readonly leastMm: number };
  /** Width of a space. */
  readonly space: number;
  /** Least height of capitals it is made for, and from which small letters keep their counters open. */
  readonly leastMm: number;
  readonly smallLettersFromMm: number;
  /** Strokes run on from letter to letter: they are set as they lie, without room between. */
  readonly joined?: boolean;
  /** Degrees by which it leans to the right. */
  readonly slant?: number;
  readonly glyphs: Readonly<Record<string, StrokeGlyph>>;
  /** Combining marks by their code in hex, drawn around the place they stand at. */
  readonly marks: Readonly<Record<string, { readonly strokes: readonly Stroke[]; readonly at: 'top' | 'foot' }>>;
}

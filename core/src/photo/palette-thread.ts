/** A thread as a palette holds it. */
export interface PaletteThread {
  readonly hex: string;
  readonly chart: string;
  readonly code: string;
  readonly name: string;
}

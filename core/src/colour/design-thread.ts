/** A thread of a design. */
export interface DesignThread {
  readonly code: string;
  readonly name: string;
  readonly hex: string;
  /** Chart it comes from; `own` for the picture's own colour. */
  readonly chart: string;
  /** CIEDE2000 between the picture's colour and the thread. */
  readonly deltaE: number;
}

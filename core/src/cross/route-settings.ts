/** How the crosses of one thread are sewn. */
export interface RouteSettings {
  /** How often each leg is sewn: once, twice or three times. */
  readonly passes: number;
  /** Thread may lie open over this many millimetres between two parts; farther apart it is cut. */
  readonly floatMm: number;
}

import type { Rgb } from '../colour/srgb.js';

/** How the ground around a picture is found. */
export interface GroundSettings {
  /** Colour of the ground as the picture shows it; found on the picture's border where it is not given. */
  readonly colour?: Rgb;
  /** The colour was found on the whole picture, not named. */
  readonly found?: boolean;
  /** Colours this near to it (CIEDE2000) are ground as well. */
  readonly tolerance: number;
  /** Also where it does not reach the border. */
  readonly everywhere: boolean;
}

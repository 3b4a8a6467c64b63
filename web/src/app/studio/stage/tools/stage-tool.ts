import type { Place } from '../camera';

/** Something that was taken hold of, until it is let go. */
export interface Grip {
  readonly cursor: string;
  /** The press itself. */
  begin?(place: Place): void;
  /**
   * @param by way since the last call in CSS pixels
   * @param free Shift is held
   * @param alt Alt is held
   */
  drag(place: Place, by: Place, free: boolean, alt: boolean): void;
  /** Let go, `moved` or not. True where the press has done its work and is no click. */
  drop?(moved: boolean): boolean;
  /** Let go without doing anything: Escape was pressed, or a second finger came. */
  cancel?(): void;
}

/** One thing that can be done on the stage with a pointer. */
export interface StageTool {
  /** What a press at a place would take hold of; undefined where this tool has nothing there. */
  grab(place: Place): Grip | undefined;
  /** Painted over the stitches. */
  paint?(context: CanvasRenderingContext2D): void;
}

import type { ThreadChoice } from '../pieces/piece-ref.js';
import type { OutlineObject } from './design-object.js';

/** How wide an outline is of which nothing else was said, in mm. */
export const OUTLINE_MM = 3;

/** An outline in satin along the edge of an object, or of everything below it where that is null. */
export const newOutline = (id: string, of: string | null, paint: ThreadChoice): OutlineObject => ({
  kind: 'outline',
  id,
  name: '',
  on: null,
  hidden: false,
  locked: false,
  of,
  offsetMm: 0,
  widthMm: OUTLINE_MM,
  as: 'satin',
  paint,
});

export { createApp, type AppDeps } from './app.js';
export { addPicture } from './api/pictures.js';
export { CHART_FOLDER, readCharts } from './charts.js';
export { allFonts, fontOutlines, outlinesFor } from './fonts/fonts.js';
export type { DesignPool } from './jobs/design-pool.js';
export {
  decodePicture,
  hashOf,
  pngOf,
  rasterOf,
  MOST_BYTES,
  MOST_PIXELS,
  type DecodedPicture,
} from './pictures/decode.js';
export { serve, type RunningServer, type ServeOptions, type Stores } from './serve.js';
export { createCupboardStore, type CupboardStore } from './store/cupboard.js';
export { openDatabase } from './store/database.js';
export { createPictureStore, type PictureStore } from './store/pictures.js';
export { createProjectStore, type ProjectStore, type StoredProject } from './store/projects.js';
export { UserError } from './user-error.js';
export * from './pictures/first-recipe.js';

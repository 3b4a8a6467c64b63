export * from './coverage.js';
export * from './crossing-rungs.js';
export * from './draw.js';
export * from './regions.js';
export * from './pieces.js';
export * from './satin-shapes.js';
export * from './line-drawing.js';
export * from './wild-svg.js';
// Parts of core that the benchmarks measure by themselves.
export { characterOf } from '../colour/suggest.js';
export { maskOfRings } from '../trace/area-mask.js';
export { findComponents } from '../trace/components.js';
export { labelPicture, plainLabelSettings, type LabelMap } from '../trace/labels.js';
export { traceLabels, type Trace } from '../trace/trace.js';
export { ringCoverage } from '../picture/coverage.js';
export * from './photo-like.js';
export * from './flat-recipe.js';
export * from './ramp-fit.js';

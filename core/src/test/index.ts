export * from './coverage.js';
export * from './draw.js';
export * from './regions.js';

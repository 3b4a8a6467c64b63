export * from './bulk.js';
export * from './check.js';
export * from './cupboard.js';
export * from './fonts.js';
export * from './machine.js';
export * from './pictures.js';
export * from './projects.js';
export * from './file-name.js';

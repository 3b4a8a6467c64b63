// Puts core into one file for Node: three hundred small ones take most of a second to load.
import { build, context } from 'esbuild';
import { fileURLToPath } from 'node:url';

const at = (path) => fileURLToPath(new URL(`../${path}`, import.meta.url));

const options = {
  entryPoints: [at('core/dist/index.js')],
  outfile: at('core/dist/bundle/index.js'),
  bundle: true,
  format: 'esm',
  platform: 'node',
  target: 'node20',
  logLevel: 'warning',
  // Packages that are CommonJS ask for `require`.
  banner: {
    js: "import { createRequire as kiteRequire } from 'node:module'; const require = kiteRequire(import.meta.url);",
  },
};
// With --watch it is put together anew whenever core was compiled anew.
if (process.argv.includes('--watch')) await (await context(options)).watch();
else await build(options);

// Server and page that follow the source: what is saved is compiled, the server starts anew, the page is loaded anew.
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';

process.chdir(fileURLToPath(new URL('..', import.meta.url)));

const PAGE = process.env.PORT ?? '4780';
const SERVER = '4790';
const once = (command, ...args) =>
  new Promise((resolve, reject) => {
    spawn(command, args, { stdio: 'inherit' }).on('close', (code) => (code === 0 ? resolve() : reject(code)));
  });
const NODE_PARTS = ['core', 'contract', 'server', 'cli', 'demo'];

await once('npx', 'tsc', '-b', ...NODE_PARTS).catch(() => process.exit(1));
await once('node', 'scripts/bundle.mjs');
await once('node', 'scripts/shelf-sample.mjs');
await once('node', 'scripts/swatches.mjs');

const folders = ['core/dist/bundle', 'contract/dist', 'server/dist', 'cli/dist', 'demo/dist'];
const watched = [
  ['npx', 'tsc', '-b', '--watch', '--preserveWatchOutput', ...NODE_PARTS],
  ['node', 'scripts/bundle.mjs', '--watch'],
  [
    'node',
    ...folders.map((folder) => `--watch-path=${folder}`),
    '--watch-preserve-output',
    'cli/bin/open-kite.js',
    'serve',
    '--demo',
    '--port',
    SERVER,
    '--data',
    process.env.DATA ?? 'data',
  ],
  ['npx', 'ng', 'serve', '--port', PAGE],
].map(([command, ...args]) => spawn(command, args, { stdio: ['ignore', 'inherit', 'inherit'] }));

const end = () => {
  for (const child of watched) child.kill();
  process.exit();
};
process.on('SIGINT', end);
process.on('SIGTERM', end);
for (const child of watched) child.on('close', end);
console.log(`The page will be at http://127.0.0.1:${PAGE}, the server at ${SERVER}.`);

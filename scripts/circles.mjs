// Says which source files import each other in a circle; none may.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

const root = fileURLToPath(new URL('..', import.meta.url));
const folders = ['core/src', 'contract/src', 'server/src', 'cli/src', 'demo/src', 'e2e/src', 'bench/src', 'web/src'];

const sources = (folder) =>
  readdirSync(join(root, folder), { recursive: true })
    .filter((name) => name.endsWith('.ts'))
    .map((name) => join(root, folder, name));

function importsOf(file) {
  const { importedFiles } = ts.preProcessFile(readFileSync(file, 'utf8'));
  return importedFiles
    .map(({ fileName }) => fileName)
    .filter((name) => name.startsWith('.'))
    .map((name) => resolve(dirname(file), name).replace(/\.js$/, ''))
    .flatMap((path) => [`${path}.ts`, join(path, 'index.ts')].filter(existsSync).slice(0, 1));
}

const state = new Map();
const circles = [];

function visit(file, path) {
  if (state.get(file) === 'done') return;
  if (state.get(file) === 'open') {
    circles.push([...path.slice(path.indexOf(file)), file]);
    return;
  }
  state.set(file, 'open');
  for (const next of importsOf(file)) visit(next, [...path, file]);
  state.set(file, 'done');
}

for (const file of folders.flatMap(sources)) visit(file, []);
for (const circle of circles) console.error(`A circle: ${circle.map((file) => relative(root, file)).join(' -> ')}`);
process.exit(circles.length > 0 ? 1 : 0);

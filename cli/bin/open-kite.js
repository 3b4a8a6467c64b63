#!/usr/bin/env node
import { existsSync } from 'node:fs';

const main = new URL('../dist/main.js', import.meta.url);
if (!existsSync(main)) {
  process.stderr.write('open-kite: not built yet; run npm run build first\n');
  process.exit(2);
}
await import(main.href);

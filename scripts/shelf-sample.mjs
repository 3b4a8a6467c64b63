// The kite that is sewn on the shelf while one looks: its picture, and the stitches the command line makes of it.
import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readStitchList } from '@open-kite/core';

const root = fileURLToPath(new URL('..', import.meta.url));
const picture = join(root, 'web/sample/kite.svg');
const out = join(root, 'web/public/sample');
const folder = mkdtempSync(join(tmpdir(), 'kite-sample-'));
try {
  const list = join(folder, 'kite.csv');
  execFileSync(process.execPath, [join(root, 'cli/bin/open-kite.js'), 'convert', picture, '--quiet', '--out', list]);
  const { threads, stitches } = readStitchList(readFileSync(list, 'utf8'));
  const { count, x, y, command, thread } = stitches;
  // Hundredths of a millimetre around the middle of the picture are as fine as a screen shows.
  const whole = (values) => Array.from(values.subarray(0, count), (mm) => Math.round(mm * 100));
  const plain = (values) => Array.from(values.subarray(0, count));
  const sample = {
    widthMm: 72,
    heightMm: 54,
    threads: threads.map(({ hex }) => hex),
    x: whole(x),
    y: whole(y),
    command: plain(command),
    thread: plain(thread),
  };
  mkdirSync(out, { recursive: true });
  writeFileSync(join(out, 'kite.json'), JSON.stringify(sample));
  copyFileSync(picture, join(out, 'kite.svg'));
} finally {
  rmSync(folder, { recursive: true, force: true });
}

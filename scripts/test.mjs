// Installs what is missing, builds, and runs every check. The last line counts the specs: "N passed, N failed".
import { execFileSync, spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

process.chdir(fileURLToPath(new URL('..', import.meta.url)));

/**
 * Runs a command; gives its exit code and output, which is shown as it comes, or at the end where others run beside it.
 */
function run(title, command, args, atOnce = true) {
  const head = `\n== ${title}\n`;
  if (atOnce) process.stdout.write(head);
  const began = Date.now();
  return new Promise((resolve) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] });
    let text = '';
    for (const stream of [child.stdout, child.stderr]) {
      stream.on('data', (part) => {
        text += part;
        if (atOnce) process.stdout.write(part);
      });
    }
    child.on('close', (code) => {
      if (!atOnce) process.stdout.write(head + text);
      console.log(`${title}: ${Math.round((Date.now() - began) / 1000)} s`);
      resolve({ code: code ?? 1, text });
    });
  });
}

async function must(title, command, args) {
  const { code } = await run(title, command, args);
  if (code === 0) return;
  console.log(`\n${title} failed\n0 passed, 1 failed`);
  process.exit(1);
}

const chromium = process.env.CHROME_BIN ?? '/usr/bin/chromium';
const missing = [
  ['chromium', existsSync(chromium)],
  ['parallel', existsSync('/usr/bin/parallel')],
].flatMap(([name, there]) => (there ? [] : [name]));
if (missing.length > 0) {
  const root = process.getuid?.() === 0;
  const apt = (...args) => (root ? ['apt-get', args] : ['sudo', ['apt-get', ...args]]);
  const install = ['install', '-y', '--no-install-recommends', ...missing];
  // Without a browser nothing can be tested; the one spec that runs GNU parallel is left out where there is none.
  if (missing.includes('chromium')) {
    await must('Package lists', ...apt('update'));
    await must('Chromium', ...apt(...install));
  } else await run('GNU parallel', ...apt(...install));
}
if (!existsSync('node_modules/.package-lock.json') || process.env.CI) await must('Install', 'npm', ['ci']);
await must('Build', 'npm', ['run', 'build']);

const ng = (project) => ['npx', ['ng', 'test', project]];
const jasmine = (folder) => ['npx', ['jasmine', `--config=${folder}/jasmine.json`]];
/** What is run two at a time, the longest first: whoever is free takes the next one. */
const suites = [
  ['The whole in Chromium', ...jasmine('e2e')],
  ['Core in Node', ...jasmine('core')],
  ['Command line', ...jasmine('cli')],
  ['Web', ...ng('web')],
  ['Lint', 'npm', ['run', 'lint'], 'no specs'],
  ['Core in Chromium', ...ng('core')],
  ['Server', ...jasmine('server')],
  ['Demo data', ...jasmine('demo')],
  ['Contract', ...jasmine('contract')],
];
let passed = 0;
let failed = 0;

async function runNext() {
  for (let suite = suites.shift(); suite; suite = suites.shift()) {
    const [title, command, args, specs] = suite;
    const { code, text } = await run(title, command, args, false);
    const plain = text.replace(/\u001b\[[0-9;]*m/g, '');
    const jasmineCount = [...plain.matchAll(/(\d+) specs?, (\d+) failures?/g)].at(-1);
    const karmaCount = [...plain.matchAll(/Executed (\d+) of \d+.*?(?:\((\d+) FAILED\))?/g)].at(-1);
    const karmaFailed = Number(/\((\d+) FAILED\)/.exec(plain)?.[1] ?? 0);
    const total = Number(jasmineCount?.[1] ?? karmaCount?.[1] ?? 0);
    const wrong = jasmineCount ? Number(jasmineCount[2]) : karmaFailed;
    passed += total - wrong;
    // A suite that ends badly without counting a failure has failed all the same.
    failed += code !== 0 && wrong === 0 ? 1 : wrong;
    if (total === 0 && specs === undefined) failed++;
  }
}

await Promise.all([runNext(), runNext()]);
console.log(`\nnode ${execFileSync('node', ['--version']).toString().trim()}`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);

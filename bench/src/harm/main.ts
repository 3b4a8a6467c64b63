// What may happen to a server over the years, done to one of its own in minutes. Arguments: which part, how many, and the
// seed; without any, all of them in small numbers.
import { attack } from './attack.js';
import { clients } from './clients.js';
import { diskFull } from './disk-full.js';
import { fuzz } from './fuzz.js';
import { kills } from './kills.js';
import { openings } from './openings.js';
import { powerLoss } from './power-loss.js';

interface Part {
  readonly name: string;
  /** How many, where nothing is said. */
  readonly count: number;
  /** @returns what went wrong */
  readonly run: (count: number, seed: number) => Promise<number>;
}

const PARTS: readonly Part[] = [
  { name: 'attack', count: 400, run: (count, seed) => attack(count, Math.round(count * 0.75), String(seed)) },
  { name: 'fuzz', count: 20_000, run: fuzz },
  { name: 'kills', count: 100, run: kills },
  { name: 'power', count: 60, run: powerLoss },
  { name: 'disk', count: 1, run: diskFull },
  { name: 'clients', count: 50, run: clients },
  { name: 'openings', count: 50, run: openings },
];

const [only, count, seed = '1'] = process.argv.slice(2);
const chosen = only === undefined ? PARTS : PARTS.filter(({ name }) => name === only);
if (chosen.length === 0)
  throw new Error(`there is no part "${only}"; there are ${PARTS.map(({ name }) => name).join(', ')}`);
let faults = 0;
for (const part of chosen) {
  const usual = only === undefined ? Math.max(1, Math.ceil(part.count / 10)) : part.count;
  faults += await part.run(count === undefined ? usual : Number(count), Number(seed));
}
console.log(`\n${faults} faults`);
process.exitCode = faults > 0 ? 1 : 0;

import { gzipSync } from 'node:zlib';
import { seededRandom } from '@open-kite/core';

/** A file meant to do harm, and what it tries. */
export interface HostileFile {
  readonly what: string;
  readonly bytes: Buffer;
}

export type Random = () => number;

const svg = (inside: string, head = ''): string =>
  `${head}<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">${inside}</svg>`;
/** One of a list. */
export const oneOf = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)];
const whole = (random: Random, least: number, most: number): number =>
  Math.floor(least + random() * (most - least + 1));
const place = (random: Random): string => `${(random() * 100).toFixed(2)} ${(random() * 100).toFixed(2)}`;
const many = (n: number, make: (i: number) => string): string => Array.from({ length: n }, (_, i) => make(i)).join('');

/** Head of a BMP that claims a size, without its pixels. */
function emptyBmp(random: Random): Buffer {
  const bytes = Buffer.alloc(whole(random, 20, 10_000));
  bytes.write('BM');
  if (bytes.length < 54) return bytes;
  bytes.writeUInt32LE(54, 10);
  bytes.writeUInt32LE(40, 14);
  bytes.writeInt32LE(whole(random, -40_000, 40_000), 18);
  bytes.writeInt32LE(whole(random, -40_000, 40_000), 22);
  bytes.writeUInt16LE(whole(random, 0, 40), 28);
  bytes.writeUInt32LE(whole(random, 0, 6), 30);
  return bytes;
}

/** Every kind of attack; each makes another file of every seed. */
const ATTACKS: Readonly<Record<string, (random: Random) => Buffer | string>> = {
  'selectors of many steps': (random) => {
    const steps = whole(random, 5, 40);
    return svg(
      `<style>.n ${'g '.repeat(steps)}rect{fill:red}</style>${'<g>'.repeat(100)}<rect width="9" height="9"/>${'</g>'.repeat(100)}`,
    );
  },
  'rules times shapes': (random) =>
    svg(
      `<style>${many(whole(random, 500, 5000), (i) => `g .a${i} .b{fill:red}`)}</style>${'<g><rect class="b" width="1" height="1"/></g>'.repeat(whole(random, 500, 15_000))}`,
    ),
  'endless numbers': (random) => svg(`<rect width="${'1'.repeat(whole(random, 1e4, 1e6))}!" height="5"/>`),
  'blanks without end': (random) => svg(`<rect fill="url(${' '.repeat(whole(random, 1e4, 1e6))}" height="5"/>`),
  'tiny dashes': (random) =>
    svg(
      `<path stroke="red" stroke-width="0.2" d="${many(whole(random, 500, 10_000), () => `M${place(random)}h0.4`)}"/>`,
    ),
  'a line wider than the world': (random) =>
    svg(`<path d="M0 0L${place(random)}" stroke="red" stroke-width="1e${whole(random, 3, 30)}"/>`),
  'shapes beyond all measure': (random) => {
    const far = 10 ** whole(random, 3, 12);
    return svg(`<path fill="red" d="M-${far} -${far}L${far} -${far}L${place(random)}Z"/>`);
  },
  scribbles: (random) =>
    svg(
      many(whole(random, 1, 100), () => `<path d="M${Array.from({ length: 190 }, () => place(random)).join('L')}Z"/>`),
    ),
  'thousands over each other': (random) =>
    svg(
      many(
        whole(random, 1000, 15_000),
        () =>
          `<rect x="${random() * 95}" y="${random() * 95}" width="5" height="5" fill="#${whole(random, 0, 4095).toString(16).padStart(3, '0')}"/>`,
      ),
    ),
  'uses of uses': (random) => {
    const depth = whole(random, 5, 11);
    const level = (i: number): string => `<g id="l${i}">${`<use href="#l${i - 1}"/>`.repeat(10)}</g>`;
    return svg(
      `<defs><rect id="l0" width="1" height="1"/>${many(depth, (i) => level(i + 1))}</defs><use href="#l${depth}"/>`,
    );
  },
  entities: (random) =>
    svg(
      '&z;',
      `<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa">${many(whole(random, 2, 12), (i) => `<!ENTITY ${'bcdefghijklmno'[i]} "${'&a;'.repeat(10)}">`)}<!ENTITY z SYSTEM "file:///etc/passwd">]>`,
    ),
  'code and addresses': (random) =>
    svg(
      oneOf(random, [
        '<script>1</script>',
        '<rect onload="a()"/>',
        '<image href="http://a.test/x.png"/>',
        '<style>@import "x"</style>',
        '<use href="file:///etc/passwd#a"/>',
      ]),
    ),
  nesting: (random) => svg('<g>'.repeat(whole(random, 100, 100_000))),
  'packed bombs': (random) => gzipSync(Buffer.alloc(whole(random, 1e6, 1.5e8), 32)),
  'packed artwork': (random) =>
    gzipSync(svg(random() < 0.5 ? '<script>1</script>' : `<rect width="${whole(random, 1, 99)}" height="9"/>`)),
  'behind a comment': (random) => `<!--${'x'.repeat(whole(random, 60_000, 2e6))}-->${svg('<script>1</script>')}`,
  'pictures without pixels': emptyBmp,
  'heads alone': (random) => {
    const heads = ['\x89PNG\r\n\x1a\n', '\xff\xd8\xff\xe0', 'RIFF\x00\x00\x00\x00WEBP', 'GIF89a', 'II*\x00', 'MM\x00*'];
    const noise = Buffer.from(Array.from({ length: whole(random, 0, 4000) }, () => whole(random, 0, 255)));
    return Buffer.concat([Buffer.from(oneOf(random, heads), 'latin1'), noise]);
  },
  noise: (random) => Buffer.from(Array.from({ length: whole(random, 0, 5000) }, () => whole(random, 0, 255))),
  'broken markup': (random) => {
    const good = svg(`<g><path d="M0 0L50 50L${place(random)}Z" fill="red"/><rect width="9" height="9"/></g>`);
    const cut = whole(random, 1, good.length);
    return random() < 0.5
      ? good.slice(0, cut)
      : good.slice(0, cut) + String.fromCharCode(whole(random, 1, 300)) + good.slice(cut);
  },
};

/** Hostile files, the same for the same seed. */
export function hostileFiles(count: number, seed: number): HostileFile[] {
  const random = seededRandom(seed);
  const attacks = Object.entries(ATTACKS);
  return Array.from({ length: count }, (_, i) => {
    const [what, make] = attacks[i % attacks.length];
    const made = make(random);
    return { what, bytes: typeof made === 'string' ? Buffer.from(made) : made };
  });
}

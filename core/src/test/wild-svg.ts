import { seededRandom } from '../geometry/chance.js';

type Random = () => number;

const n = (v: number): string => String(Number(v.toFixed(2)));
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)];
const hex = (random: Random): string =>
  '#' +
  Math.floor(random() * 0xffffff)
    .toString(16)
    .padStart(6, '0');

const COLOURS: readonly ((random: Random) => string)[] = [
  hex,
  () => 'teal',
  (r) => `rgb(${Math.floor(r() * 256)}, ${Math.floor(r() * 256)}, 30)`,
  (r) => `hsl(${Math.floor(r() * 360)}, 60%, 45%)`,
  () => 'currentColor',
  () => 'none',
  () => 'url(#fade)',
  () => 'url(#nowhere)',
  () => 'notacolour',
  () => '',
];

function pathData(random: Random): string {
  let d = `M${n(random() * 200)} ${n(random() * 150)}`;
  for (let i = 0; i < 3 + random() * 8; i++) {
    const p = (): string => `${n(random() * 200)} ${n(random() * 150)}`;
    d += pick(random, [
      () => `L${p()}`,
      () => `C${p()} ${p()} ${p()}`,
      () => `q${n(random() * 30)} ${n(random() * 30)} ${n(random() * 40 - 20)} ${n(random() * 40 - 20)}`,
      () => `A${n(random() * 40)} ${n(random() * 40)} ${n(random() * 90)} ${random() > 0.5 ? 1 : 0} 1 ${p()}`,
      () => `h${n(random() * 40 - 20)}v${n(random() * 40 - 20)}`,
      () => `t${n(random() * 20)} ${n(random() * 20)}s4 5 6 7`,
      () => `zM${p()}`,
    ])();
  }
  return d + (random() > 0.3 ? 'Z' : '');
}

const TRANSFORMS: readonly ((random: Random) => string)[] = [
  (r) => `translate(${n(r() * 60 - 30)} ${n(r() * 60 - 30)})`,
  (r) => `rotate(${n(r() * 360)}, 100, 75)`,
  (r) => `scale(${n(r() * 2 - 0.5)})`,
  (r) => `matrix(1 ${n(r() - 0.5)} ${n(r() - 0.5)} 1 0 0) skewX(${n(r() * 40)})`,
  () => 'scale(0)',
  () => 'nonsense(1 2',
  () => '',
];

function element(random: Random, depth: number): string {
  const style = `fill="${pick(random, COLOURS)(random)}" stroke="${pick(random, COLOURS)(random)}" stroke-width="${pick(random, ['1', '4', '0.5mm', '20%', '-3', 'x'])}" opacity="${n(random() * 1.3)}" fill-rule="${pick(random, ['evenodd', 'nonzero'])}"`;
  const t = `transform="${pick(random, TRANSFORMS)(random)}"`;
  const kinds: readonly (() => string)[] = [
    () => `<path ${style} ${t} d="${pathData(random)}"/>`,
    () =>
      `<rect ${style} ${t} x="${n(random() * 150)}" y="20" width="${n(random() * 60 - 5)}" height="40" rx="${n(random() * 50)}"/>`,
    () => `<circle ${style} cx="${n(random() * 200)}" cy="60" r="${n(random() * 50 - 5)}"/>`,
    () => `<ellipse ${style} class="a" cx="100" cy="60" rx="40" ry="${n(random() * 30)}"/>`,
    () => `<polygon ${style} points="0,0 100,100 100,0 0,100"/>`,
    () => `<polyline ${style} points="10 10 40 60 80 ${n(random() * 90)} nonsense"/>`,
    () => `<line ${style} x1="0" y1="0" x2="${n(random() * 200)}" y2="150"/>`,
    () => `<text x="20" y="40">${pick(random, ['Fair', '2026', ''])}</text>`,
    () => `<image href="other.png" width="20" height="20"/>`,
    () => `<use href="${pick(random, ['#star', '#loop', '#nowhere', 'other.svg#x'])}" x="20" ${t}/>`,
    () => `<g ${t} clip-path="url(#window)" style="fill: ${hex(random)}">${group(random, depth)}</g>`,
    () =>
      `<svg x="10" y="10" width="80" height="60" viewBox="0 0 ${n(random() * 100)} 50">${group(random, depth)}</svg>`,
    () => `<blob ${style}/>`,
  ];
  return pick(random, kinds)();
}

function group(random: Random, depth: number): string {
  if (depth <= 0) return '';
  let out = '';
  for (let i = 0; i < 1 + random() * 5; i++) out += element(random, depth - 1);
  return out;
}

/** Files that are broken or made to do harm. */
const HOSTILE: readonly ((random: Random) => string)[] = [
  () => '<svg xmlns="http://www.w3.org/2000/svg" width="0" height="0"><rect width="5" height="5"/></svg>',
  () => '<svg xmlns="http://www.w3.org/2000/svg"><rect width="5" height="5"',
  () => '<html><body/></html>',
  () => `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${'<g>'.repeat(400)}${'</g>'.repeat(400)}</svg>`,
  () =>
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 90"><defs>${Array.from(
      { length: 20 },
      (_, i) => `<g id="a${i}"><use href="#a${i + 1}"/><use href="#a${i + 1}"/><use href="#a${i + 1}"/></g>`,
    ).join('')}<rect id="a20" width="3" height="3"/></defs><use href="#a0"/></svg>`,
  (r) => {
    let d = 'M0 0';
    for (let i = 0; i < 10_000; i++) d += `L${n(r() * 200)} ${n(r() * 150)}`;
    return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 150"><path d="${d}Z" fill="#225566"/></svg>`;
  },
  (r) => {
    let d = 'M0 75';
    for (let i = 0; i < 10_000; i++) d += `L${n(i / 50)} ${n(75 + 60 * Math.sin(i / 40) + r() * 2)}`;
    return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 150"><path d="${d}" fill="none" stroke="#225566" stroke-width="3"/></svg>`;
  },
  () => '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 90"><path d="M1e308 0L1e309 5L-1e308 9Z"/></svg>',
  () => '<svg xmlns="http://www.w3.org/2000/svg" viewBox="nan nan 1 1" width="1e9" height="1e-9"><path d=""/></svg>',
  () =>
    '<!DOCTYPE svg [<!ENTITY a "aaaa">]><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><text>&a;</text></svg>',
];

/** Vector artwork as nobody should draw it, the same for the same seed: odd, broken and hostile files among them. */
export function wildSvg(seed: number): string {
  const random = seededRandom(seed);
  if (seed % 5 === 0) return HOSTILE[(seed / 5) % HOSTILE.length](random);
  return `<svg xmlns="http://www.w3.org/2000/svg" ${pick(random, ['viewBox="0 0 200 150"', 'width="80mm" height="60mm" viewBox="0 0 200 150"', 'width="300" height="200"', 'width="3in"'])}>
<defs><linearGradient id="fade"><stop offset="0" stop-color="red"/><stop offset="60%" stop-color="gold"/></linearGradient>
<clipPath id="window"><circle cx="100" cy="75" r="60"/></clipPath><symbol id="star" viewBox="0 0 10 10"><path d="M5 0L8 10L0 4H10L2 10Z" fill="gold"/></symbol>
<g id="loop"><use href="#loop"/></g></defs><style>.a { fill: #88aa22; } rect > path, #x { stroke: none !important }</style>${group(random, 3)}</svg>`;
}

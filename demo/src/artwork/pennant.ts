import { wordStrokes, wordWidth } from './letters.js';

/** The fair's pennant as vector artwork: gradients, groups, transforms, and lettering as outlines. */
export function pennantSvg(): string {
  const word = 'LANTERN';
  const letters = wordStrokes(word, 0, 0, 60);
  const width = wordWidth(word, 60);
  const bunting = Array.from({ length: 7 }, (_, i) => {
    const fill = ['#d8602a', '#e6b23c', '#2c6e80'][i % 3];
    return `<g transform="translate(${70 + i * 52} ${62 + i * 9}) rotate(${6 + i})"><path d="M0 0L40 0L20 46Z" fill="${fill}"/></g>`;
  }).join('\n');
  return `<svg xmlns="http://www.w3.org/2000/svg" width="160mm" height="90mm" viewBox="0 0 800 450">
<defs>
<linearGradient id="dusk" x1="0" y1="0" x2="1" y2="0"><stop offset="0" stop-color="#1f4e66"/><stop offset="1" stop-color="#5fa3a8"/></linearGradient>
<radialGradient id="glow"><stop offset="0" stop-color="#fff0b8"/><stop offset="1" stop-color="#e39a2b"/></radialGradient>
</defs>
<path id="field" d="M40 30L770 225L40 420Z" fill="url(#dusk)"/>
<path d="M40 30L770 225L40 420Z" fill="none" stroke="#22303a" stroke-width="14" stroke-linejoin="round"/>
${bunting}
<circle cx="150" cy="262" r="62" fill="url(#glow)" stroke="#22303a" stroke-width="8"/>
<g transform="translate(250 205) scale(${(270 / width).toFixed(4)})">
<path d="${letters}" fill="none" stroke="#f4ecd8" stroke-width="14" stroke-linecap="round" stroke-linejoin="round"/>
</g>
</svg>`;
}

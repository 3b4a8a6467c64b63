import { wordStrokes, wordWidth } from './letters.js';

const FJORD = '#2c6e80';
const EMBER = '#d8602a';
const WICK = '#e6b23c';
const CHALK = '#ece2cb';
const MUSSEL = '#2a3437';

/** The fair's crest: a kite over the bay with its tail, a lantern, and the fair's letters; five flat colours on white. */
export function crestSvg(): string {
  const word = 'BAY KITE';
  const size = 54;
  const letters = wordStrokes(word, 500 - wordWidth(word, size) / 2, 742, size);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="1000" viewBox="0 0 1000 1000">
<rect width="1000" height="1000" fill="#ffffff"/>
<circle cx="500" cy="500" r="470" fill="${MUSSEL}"/>
<circle cx="500" cy="500" r="428" fill="${CHALK}"/>
<clipPath id="bay"><circle cx="500" cy="500" r="428"/></clipPath>
<g clip-path="url(#bay)">
<path d="M40 640C160 580 240 600 330 630C430 664 520 650 610 606C700 562 810 590 960 640L960 980L40 980Z" fill="${FJORD}"/>
<path d="M40 880C180 838 300 862 420 880C560 902 700 856 960 886L960 980L40 980Z" fill="${CHALK}"/>
</g>
<path d="${letters}" fill="none" stroke="${CHALK}" stroke-width="11" stroke-linecap="round" stroke-linejoin="round"/>
<path d="M452 118L452 342L268 342Z" fill="${EMBER}"/>
<path d="M452 118L636 342L452 342Z" fill="${WICK}"/>
<path d="M268 342L452 342L452 596Z" fill="${WICK}"/>
<path d="M452 342L636 342L452 596Z" fill="${EMBER}"/>
<path d="M452 118L636 342L452 596L268 342ZM452 118L452 596M268 342L636 342" fill="none" stroke="${MUSSEL}" stroke-width="10" stroke-linejoin="round"/>
<path d="M452 596C520 622 528 666 474 684" fill="none" stroke="${MUSSEL}" stroke-width="8" stroke-linecap="round"/>
<g transform="translate(760 400)">
<path d="M0 -92L0 -58" stroke="${MUSSEL}" stroke-width="9" stroke-linecap="round"/>
<path d="M-36 -58L36 -58L52 -22L52 60L36 92L-36 92L-52 60L-52 -22Z" fill="${WICK}" stroke="${MUSSEL}" stroke-width="12" stroke-linejoin="round"/>
<circle cx="0" cy="22" r="26" fill="${EMBER}"/>
</g>
<circle cx="230" cy="212" r="15" fill="${FJORD}"/>
<circle cx="182" cy="268" r="11" fill="${FJORD}"/>
<circle cx="286" cy="176" r="10" fill="${FJORD}"/>
</svg>`;
}

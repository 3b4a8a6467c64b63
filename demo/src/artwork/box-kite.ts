/** A line drawing of a box kite with its bridle and line, as drawn with one black pen. */
export function boxKiteSvg(): string {
  const near = [
    [300, 180],
    [560, 120],
    [640, 260],
    [380, 330],
  ];
  const drop = 560;
  const lean = 90;
  const cells = [
    [0, 0.34],
    [0.66, 1],
  ];
  const at = (corner: number[], t: number): string => `${corner[0] + lean * t} ${corner[1] + drop * t}`;
  const lines: string[] = near.map((corner) => `M${at(corner, -0.06)}L${at(corner, 1.06)}`);
  for (const [from, to] of cells) {
    for (const t of [from, to]) lines.push(`M${near.map((corner) => at(corner, t)).join('L')}Z`);
  }
  const stripes: string[] = [];
  for (const [from, to] of cells) {
    for (let k = 1; k < 4; k++) {
      const t = from + ((to - from) * k) / 4;
      stripes.push(`M${at(near[3], t)}L${at(near[2], t)}`);
    }
  }
  return `<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="1200" viewBox="0 0 1200 1200">
<rect width="1200" height="1200" fill="#fbf9f4"/>
<g fill="none" stroke="#23282a" stroke-linecap="round" stroke-linejoin="round">
<path d="${lines.join('')}" stroke-width="11"/>
<path d="${stripes.join('')}" stroke-width="6"/>
<path d="M480 930C520 1010 610 1010 660 950C720 880 800 900 820 980C838 1050 900 1080 980 1060" stroke-width="8"/>
<path d="M980 1060L1030 1020M980 1060L1034 1090" stroke-width="8"/>
<circle cx="905" cy="240" r="92" stroke-width="10"/>
<path d="M905 110L905 70M905 370L905 410M775 240L735 240M1035 240L1075 240M813 148L785 120M997 148L1025 120M813 332L785 360M997 332L1025 360" stroke-width="9"/>
</g>
</svg>`;
}

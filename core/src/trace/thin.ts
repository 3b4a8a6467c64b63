/**
 * Thins a mask (1 inside, with a free frame of one pixel) to lines one pixel wide, in place (Zhang and Suen 1984, with
 * the condition of Lü and Wang 1986, without which slanted lines two pixels wide vanish), then takes away the corner
 * pixels that make steps of a line look like junctions.
 */
export function thin(mask: Uint8Array, width: number): void {
  const alive: number[] = [];
  for (let i = 0; i < mask.length; i++) if (mask[i]) alive.push(i);
  const ring = [-width, -width + 1, 1, width + 1, width, width - 1, -1, -width - 1];
  let open = alive;
  for (;;) {
    let removed = 0;
    for (let pass = 0; pass < 2; pass++) {
      const drop: number[] = [];
      for (const i of open) {
        let count = 0;
        let changes = 0;
        let before = mask[i + ring[7]];
        for (let k = 0; k < 8; k++) {
          const v = mask[i + ring[k]];
          count += v;
          if (v > before) changes++;
          before = v;
        }
        if (count < 3 || count > 6 || changes !== 1) continue;
        const n = mask[i + ring[0]];
        const e = mask[i + ring[2]];
        const s = mask[i + ring[4]];
        const w = mask[i + ring[6]];
        if (pass === 0 ? n * e * s === 0 && e * s * w === 0 : n * e * w === 0 && n * s * w === 0) drop.push(i);
      }
      for (const i of drop) mask[i] = 0;
      removed += drop.length;
      open = open.filter((i) => mask[i] === 1);
    }
    if (removed === 0) break;
  }
  for (const i of open) {
    const [n, , e, , s, , w] = ring.map((step) => mask[i + step]);
    const [, ne, , se, , sw, , nw] = ring.map((step) => mask[i + step]);
    // A step: two neighbours at a right angle that touch each other diagonally, and nothing on the far side.
    if ((n && e && !sw && !s && !w) || (e && s && !nw && !n && !w)) mask[i] = 0;
    else if ((s && w && !ne && !n && !e) || (w && n && !se && !s && !e)) mask[i] = 0;
  }
}

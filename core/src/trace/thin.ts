/** Which of the eight neighbours of a pixel are inside, clockwise from above: a bit each. */
const NEIGHBOURS = 8;
const ALL = 255;

/**
 * Thins a mask (1 inside, with a free frame of one pixel) to lines one pixel wide, in place (Zhang and Suen 1984, with
 * the condition of Lü and Wang 1986, without which slanted lines two pixels wide vanish), then takes away the corner
 * pixels that make steps of a line look like junctions.
 */
export function thin(mask: Uint8Array, width: number): void {
  const ring = [-width, -width + 1, 1, width + 1, width, width - 1, -1, -width - 1];
  const around = (i: number): number =>
    mask[i - width] |
    (mask[i - width + 1] << 1) |
    (mask[i + 1] << 2) |
    (mask[i + width + 1] << 3) |
    (mask[i + width] << 4) |
    (mask[i + width - 1] << 5) |
    (mask[i - 1] << 6) |
    (mask[i - width - 1] << 7);
  // What lies inside on all sides never goes: only the rim is looked at, which moves inwards as pixels go.
  const isRim = new Uint8Array(mask.length);
  let rim: number[] = [];
  for (let i = 0; i < mask.length; i++) {
    if (mask[i] === 0 || around(i) === ALL) continue;
    isRim[i] = 1;
    rim.push(i);
  }
  for (;;) {
    let removed = 0;
    for (const goes of PASSES) {
      const drop = rim.filter((i) => goes[around(i)] === 1);
      for (const i of drop) mask[i] = 0;
      if (drop.length === 0) continue;
      removed += drop.length;
      rim = rim.filter((i) => mask[i] === 1);
      for (const i of drop) {
        for (const step of ring) {
          const at = i + step;
          if (mask[at] === 0 || isRim[at] === 1) continue;
          isRim[at] = 1;
          rim.push(at);
        }
      }
    }
    if (removed === 0) break;
  }
  // In the order of the picture: a step that goes changes what its neighbours are.
  for (const i of rim.sort((a, b) => a - b)) {
    const [n, , e, , s, , w] = ring.map((step) => mask[i + step]);
    const [, ne, , se, , sw, , nw] = ring.map((step) => mask[i + step]);
    // A step: two neighbours at a right angle that touch each other diagonally, and nothing on the far side.
    if ((n && e && !sw && !s && !w) || (e && s && !nw && !n && !w)) mask[i] = 0;
    else if ((s && w && !ne && !n && !e) || (w && n && !se && !s && !e)) mask[i] = 0;
  }
}

/** For each of the two passes: whether a pixel goes, by its neighbours. */
const PASSES: readonly Uint8Array[] = [0, 1].map((pass) =>
  Uint8Array.from({ length: ALL + 1 }, (_, code) => {
    const inside = Array.from({ length: NEIGHBOURS }, (_, k) => (code >> k) & 1);
    const count = inside.reduce((sum, v) => sum + v, 0);
    const changes = inside.filter((v, k) => v > inside[(k + NEIGHBOURS - 1) % NEIGHBOURS]).length;
    if (count < 3 || count > 6 || changes !== 1) return 0;
    const [n, , e, , s, , w] = inside;
    return Number(pass === 0 ? n * e * s === 0 && e * s * w === 0 : n * e * w === 0 && n * s * w === 0);
  }),
);

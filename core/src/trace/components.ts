/** Connected areas of equal label: `of[pixel]` is the component, 0-based in reading order. */
export interface Components {
  readonly count: number;
  readonly of: Int32Array;
  readonly area: Int32Array;
  readonly label: Uint8Array;
  /** Pixel boxes, four numbers a component: left, top, right, bottom (inclusive). */
  readonly box: Int32Array;
}

/**
 * Finds connected areas of equal label, joined along edges and, at a crossing of two diagonals of equal
 * labels, along the diagonal that `saddleAt` names.
 */
export function findComponents(labels: Uint8Array, width: number, height: number): Components {
  const parent = new Int32Array(labels.length);
  const root = (i: number): number => {
    while (parent[i] !== i) {
      parent[i] = parent[parent[i]];
      i = parent[i];
    }
    return i;
  };
  const join = (a: number, b: number): void => {
    const ra = root(a);
    const rb = root(b);
    if (ra < rb) parent[rb] = ra;
    else if (rb < ra) parent[ra] = rb;
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      parent[i] = i;
      const label = labels[i];
      if (x > 0 && labels[i - 1] === label) parent[i] = root(i - 1);
      if (y > 0 && labels[i - width] === label) join(i, i - width);
      if (x > 0 && y > 0) {
        const saddle = saddleAt(labels, width, height, x, y);
        if (saddle === 1) join(i - width - 1, i);
        else if (saddle === 2) join(i - width, i - 1);
      }
    }
  }
  const of = new Int32Array(labels.length);
  const area: number[] = [];
  const label: number[] = [];
  const box: number[] = [];
  for (let i = 0; i < labels.length; i++) {
    const r = root(i);
    const x = i % width;
    const y = (i - x) / width;
    if (r === i) {
      of[i] = area.length;
      area.push(0);
      label.push(labels[i]);
      box.push(x, y, x, y);
    } else of[i] = of[r];
    const c = of[i];
    area[c]++;
    if (x < box[c * 4]) box[c * 4] = x;
    if (x > box[c * 4 + 2]) box[c * 4 + 2] = x;
    if (y > box[c * 4 + 3]) box[c * 4 + 3] = y;
  }
  return {
    count: area.length,
    of,
    area: Int32Array.from(area),
    label: Uint8Array.from(label),
    box: Int32Array.from(box),
  };
}

const CHECKED = 4;

/**
 * What happens at the pixel corner (x, y), whose four pixels are (x-1..x, y-1..y):
 * 1 where the pixels from top left to bottom right belong together across the corner, 2 where those from top
 * right to bottom left do, 0 where it is no crossing of diagonals. Where both could, the locally rarer label wins: it is a thin line that runs diagonally.
 */
export function saddleAt(labels: Uint8Array, width: number, height: number, x: number, y: number): 0 | 1 | 2 {
  const i = y * width + x;
  const tl = labels[i - width - 1];
  const tr = labels[i - width];
  const bl = labels[i - 1];
  const br = labels[i];
  if (tl === tr || tl === bl || br === tr || br === bl) return 0;
  const main = tl === br;
  const other = tr === bl;
  if (main && other) {
    let mains = 0;
    let others = 0;
    for (let yy = Math.max(0, y - 3); yy < Math.min(height, y + 3); yy++) {
      for (let xx = Math.max(0, x - 3); xx < Math.min(width, x + 3); xx++) {
        const label = labels[yy * width + xx];
        if (label === tl) mains++;
        else if (label === tr) others++;
      }
    }
    // Both are about as common: a checked pattern, whose four fields only touch.
    if (Math.abs(mains - others) <= CHECKED) return 0;
    return mains < others ? 1 : 2;
  }
  return main ? 1 : other ? 2 : 0;
}

/** Gives areas smaller than `smallest` pixels to the neighbour they share the longest border with. */
export function dropSpecks(labels: Uint8Array, width: number, height: number, smallest: number): void {
  for (let round = 0; round < 6; round++) {
    const parts = findComponents(labels, width, height);
    const small: number[] = [];
    for (let c = 0; c < parts.count; c++) if (parts.area[c] < smallest) small.push(c);
    if (small.length === 0) return;
    // Smallest first, and never into a speck that is being dissolved in the same round.
    small.sort((a, b) => parts.area[a] - parts.area[b] || a - b);
    const dissolved = new Uint8Array(parts.count);
    let moved = 0;
    for (const c of small) {
      const target = longestNeighbour(parts, width, height, c, dissolved);
      if (target < 0) continue;
      dissolved[c] = 1;
      paint(parts, labels, width, c, parts.label[target]);
      moved++;
    }
    if (moved === 0) return;
  }
}

function longestNeighbour(parts: Components, width: number, height: number, c: number, dissolved: Uint8Array): number {
  const border = new Map<number, number>();
  const { of, box } = parts;
  for (let y = box[c * 4 + 1]; y <= box[c * 4 + 3]; y++) {
    for (let x = box[c * 4]; x <= box[c * 4 + 2]; x++) {
      const i = y * width + x;
      if (of[i] !== c) continue;
      const meet = (other: number): void => {
        if (other !== c && !dissolved[other]) border.set(other, (border.get(other) ?? 0) + 1);
      };
      if (x > 0) meet(of[i - 1]);
      if (x < width - 1) meet(of[i + 1]);
      if (y > 0) meet(of[i - width]);
      if (y < height - 1) meet(of[i + width]);
    }
  }
  let best = -1;
  let most = 0;
  for (const [other, length] of border) {
    if (length > most || (length === most && best >= 0 && parts.area[other] > parts.area[best])) {
      best = other;
      most = length;
    }
  }
  return best;
}

function paint(parts: Components, labels: Uint8Array, width: number, c: number, label: number): void {
  const { of, box } = parts;
  for (let y = box[c * 4 + 1]; y <= box[c * 4 + 3]; y++) {
    for (let x = box[c * 4]; x <= box[c * 4 + 2]; x++) {
      const i = y * width + x;
      if (of[i] === c) labels[i] = label;
    }
  }
}

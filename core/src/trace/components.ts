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
  // Runs of equal label in a row are joined rather than pixels: there are far fewer of them.
  const { start, firstOfRow } = findRuns(labels, width, height);
  const runs = start.length;
  const parent = new Int32Array(runs);
  for (let r = 0; r < runs; r++) parent[r] = r;
  const root = (r: number): number => {
    while (parent[r] !== r) {
      parent[r] = parent[parent[r]];
      r = parent[r];
    }
    return r;
  };
  const join = (p: number, q: number): void => {
    const rp = root(p);
    const rq = root(q);
    if (rp < rq) parent[rq] = rp;
    else if (rq < rp) parent[rp] = rq;
  };
  for (let y = 1; y < height; y++) {
    let above = firstOfRow[y - 1];
    const lastAbove = firstOfRow[y];
    for (let run = firstOfRow[y]; run < firstOfRow[y + 1]; run++) {
      const from = start[run];
      const end = run + 1 < firstOfRow[y + 1] ? start[run + 1] : (y + 1) * width;
      while (above + 1 < lastAbove && start[above + 1] + width <= from) above++;
      // Two runs that begin at one corner may cross there.
      if (start[above] + width === from && above > firstOfRow[y - 1] && run > firstOfRow[y]) {
        const saddle = saddleAt(labels, width, height, from - y * width, y);
        if (saddle === 1) join(above - 1, run);
        else if (saddle === 2) join(above, run - 1);
      }
      for (let other = above; other < lastAbove && start[other] + width < end; other++) {
        if (labels[start[other]] === labels[from]) join(other, run);
      }
    }
  }
  const of = new Int32Array(labels.length);
  const componentOf = new Int32Array(runs);
  const area: number[] = [];
  const label: number[] = [];
  const box: number[] = [];
  for (let y = 0; y < height; y++) {
    for (let run = firstOfRow[y]; run < firstOfRow[y + 1]; run++) {
      const from = start[run];
      const end = run + 1 < firstOfRow[y + 1] ? start[run + 1] : (y + 1) * width;
      const left = from - y * width;
      const right = end - y * width - 1;
      const r = root(run);
      if (r === run) {
        componentOf[run] = area.length;
        area.push(0);
        label.push(labels[from]);
        box.push(left, y, right, y);
      } else componentOf[run] = componentOf[r];
      const c = componentOf[run];
      of.fill(c, from, end);
      area[c] += end - from;
      if (left < box[c * 4]) box[c * 4] = left;
      if (right > box[c * 4 + 2]) box[c * 4 + 2] = right;
      box[c * 4 + 3] = y;
    }
  }
  return {
    count: area.length,
    of,
    area: Int32Array.from(area),
    label: Uint8Array.from(label),
    box: Int32Array.from(box),
  };
}

/** First pixels of the runs of equal label, row by row, and the first run of every row. */
function findRuns(labels: Uint8Array, width: number, height: number): { start: Int32Array; firstOfRow: Int32Array } {
  const firstOfRow = new Int32Array(height + 1);
  let runs = 0;
  for (let y = 0; y < height; y++) {
    firstOfRow[y] = runs;
    runs++;
    for (let i = y * width + 1; i < (y + 1) * width; i++) if (labels[i] !== labels[i - 1]) runs++;
  }
  firstOfRow[height] = runs;
  const start = new Int32Array(runs);
  let run = 0;
  for (let y = 0; y < height; y++) {
    start[run++] = y * width;
    for (let i = y * width + 1; i < (y + 1) * width; i++) if (labels[i] !== labels[i - 1]) start[run++] = i;
  }
  return { start, firstOfRow };
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

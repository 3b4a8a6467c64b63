import { METRIC, squaredBy, writeMetric } from '../colour/colour-metric.js';
import { firstLine, leastLines } from './least-lines.js';
import { type Lattice } from './lattice.js';
import { KERNEL, REACH, softColours } from './soft-colours.js';
import { RowSums, SUMS } from './row-sums.js';
import { ThreadSets } from './thread-sets.js';
import { VainTries } from './vain-tries.js';
import { blurDifference } from './blur-difference.js';
import { squareOf } from './window-squares.js';
import type { WeaveOptions } from './weave-options.js';

/** Fine detail is seen by light and dark: differences in lightness weigh this much more than those in colour. */
const LIGHTNESS = 1.5;
/**
 * Squared difference of the nearest thread at which a cell's own difference counts half: where no thread is near, cells have
 * to make up for each other.
 */
const MIXED = 36;
/** Cloth looks like a hole where a thread is nearer to the picture, by this share of its difference at most. */
const NEARER = 0.25;
/** In an even area a thread that differs by so much is no part of a mixture but a dash that is seen, where another is as near as this. */
const STRANGE = 24;
const NEAR = 6;
/** Rows swept before something else may have a turn. */
const ROWS_A_TURN = 24;

/**
 * Chooses the thread of every cell so that the cells, mixed as the eye does, come near to a picture. The energy is the sum
 * of e' M e, with e the blurred difference in linear light and M the metric of CIEDE2000 at the wanted colour, and a cost
 * for every change of thread along a row. Sweeps over the rows try other threads for windows of cells; prefix sums of
 * the gradient give the change of energy of a window for every thread in constant time.
 */
export class Weave {
  readonly label: Uint8Array;
  /** What lies below the threads still to come, linear r, g, b. */
  readonly base: Float32Array;
  readonly shown: Float32Array;
  /** The metric of every cell. */
  readonly metric: Float32Array;
  /** Weight of the difference of a cell by itself. */
  private readonly sharp: Float32Array;
  /** Cells that a line through a cell has at least. */
  private readonly least: Uint8Array;
  /** Blurred difference, and M times it. */
  private readonly error: Float32Array;
  private readonly pull: Float32Array;
  /** Threads a cell must not have, one bit each; that of number 0 where it must not stay bare. */
  private readonly banned: ThreadSets;
  /** Linear r, g, b of the threads as they look sewn; `recolour` follows a change. */
  colours: Float32Array;
  /** Threads that may still be placed. */
  private open: number[];
  /** Sums along the row being swept. */
  private readonly along: RowSums;
  private readonly vain: VainTries;
  /** Buffers that are used again. */
  private readonly delta: Float64Array;
  private readonly back = new Float64Array(4);

  constructor(
    readonly lattice: Lattice,
    private readonly options: WeaveOptions,
    cloth: readonly [number, number, number],
  ) {
    const { cols, rows, inside } = lattice;
    const count = cols * rows;
    this.colours = options.colours.slice();
    this.label = new Uint8Array(count);
    this.base = new Float32Array(count * 3);
    this.shown = new Float32Array(count * 3);
    this.metric = new Float32Array(count * METRIC);
    this.error = new Float32Array(count * 3);
    this.pull = new Float32Array(count * 3);
    this.banned = new ThreadSets(count);
    this.open = Array.from({ length: options.colours.length / 3 - 1 }, (_, t) => t + 1);
    this.delta = new Float64Array(cols * 3);
    for (let i = 0; i < count; i++) for (let j = 0; j < 3; j++) this.base[i * 3 + j] = cloth[j];
    this.shown.set(this.base);
    this.sharp = new Float32Array(count);
    const soft = softColours(lattice);
    this.least = leastLines(lattice, soft, options.leastCells, options.evenCells);
    const { pull, shown, metric, sharp } = this;
    this.along = new RowSums({ lattice, pull, shown, metric, sharp });
    // A change is blurred into the difference, and the difference into the gradient.
    this.vain = new VainTries(lattice, 2 * REACH, options.leastCells + 1);
    for (let i = 0; i < count; i++) {
      if (inside[i]) writeMetric(soft[i * 3], soft[i * 3 + 1], soft[i * 3 + 2], this.metric, i * METRIC, LIGHTNESS);
    }
    for (let i = 0; i < count; i++) if (inside[i]) this.weigh(i, [soft[i * 3], soft[i * 3 + 1], soft[i * 3 + 2]]);
  }

  /** How much the difference of a cell counts by itself, and what must not lie there, by what is to be seen of it. */
  private weigh(cell: number, goal: readonly number[]): void {
    const { sharpness, farthestBare, leastCells } = this.options;
    const bare = this.distance(cell, goal, 0);
    const away = this.open.map((t) => this.distance(cell, goal, t));
    const nearest = Math.min(bare, ...away);
    this.sharp[cell] = sharpness / (1 + nearest / MIXED);
    // Cloth would look like a hole. Of few threads none may be nearer: there cloth is one of the colours that mix.
    if (bare > farthestBare ** 2 && nearest < bare * NEARER ** 2) this.banned.add(cell, 0);
    if (this.least[cell] === leastCells || nearest >= NEAR ** 2) return;
    // Nobody would take a stranger for a part of the picture there.
    this.open.forEach((t, k) => {
      if (away[k] > STRANGE ** 2) this.banned.add(cell, t);
    });
  }

  /** Starts from the thread that suits each window as long as a line best, what the rows above left over being added. */
  *begin(): Generator<number> {
    const { cols, rows, inside, wanted } = this.lattice;
    const carry = new Float32Array(cols * 3);
    for (let r = 0; r < rows; r++) {
      if (r % ROWS_A_TURN === ROWS_A_TURN - 1) yield r / rows;
      const left = [0, 0, 0];
      for (let c = 0; c < cols;) {
        const at = r * cols + c;
        if (!inside[at]) {
          carry.fill(0, c * 3, c * 3 + 3);
          left.fill(0);
          c++;
          continue;
        }
        let end = c;
        // Lines of neighbouring rows do not begin below each other: that would be seen as a seam.
        const first = c === 0 || !inside[at - 1];
        const leastCells = first ? firstLine(r, this.options.leastCells, this.least[at]) : this.least[at];
        while (end < cols && end - c < leastCells && inside[r * cols + end]) end++;
        const n = end - c;
        const goal = [left[0], left[1], left[2]];
        for (let k = c; k < end; k++) {
          for (let j = 0; j < 3; j++) goal[j] += wanted[(r * cols + k) * 3 + j] / n + carry[k * 3 + j] / n;
        }
        const mid = r * cols + ((c + end) >> 1);
        let best = 0;
        let least = Infinity;
        for (const t of [0, ...this.open]) {
          if (t === 0 && this.banned.has(mid, 0)) continue;
          const e = this.distance(mid, goal, t);
          if (e < least) [least, best] = [e, t];
        }
        for (let j = 0; j < 3; j++) {
          const shown = best === 0 ? this.base[mid * 3 + j] : this.colours[best * 3 + j];
          const rest = Math.max(-0.25, Math.min(0.25, goal[j] - shown));
          left[j] = rest * 0.35;
          for (let k = c; k < end; k++) carry[k * 3 + j] = rest * 0.5;
        }
        for (let k = c; k < end; k++) this.put(r * cols + k, best);
        c = end;
      }
    }
    this.measure();
  }

  /** Gives a thread the next number as well, so that it can be sewn twice; it is placed once it is among those that may be. */
  twin(thread: number): void {
    const { colours } = this;
    this.colours = Float32Array.from([...colours, ...colours.subarray(thread * 3, thread * 3 + 3)]);
    const twin = colours.length / 3;
    for (let i = 0; i < this.label.length; i++) if (this.banned.has(i, thread)) this.banned.add(i, twin);
  }

  /** Only these threads may be placed from now on. */
  restrict(open: readonly number[]): void {
    this.open = [...open];
    this.vain.forget();
  }

  /** Something lies there already, as linear r, g, b of every cell. */
  lay(below: Float32Array): void {
    for (let i = 0; i < this.label.length; i++) {
      if ([0, 1, 2].some((j) => below[i * 3 + j] !== this.base[i * 3 + j])) this.banned.remove(i, 0);
    }
    this.base.set(below);
    this.shown.set(below);
    this.measure();
  }

  /** A thread is sewn: what it shows is what lies below from now on, and its cells become number 0. */
  settle(thread: number): void {
    for (let i = 0; i < this.label.length; i++) {
      if (this.label[i] !== thread) continue;
      for (let j = 0; j < 3; j++) this.base[i * 3 + j] = this.shown[i * 3 + j];
      this.label[i] = 0;
      this.banned.remove(i, 0);
    }
  }

  /** What lies at a cell is painted over by a share of a thread's colour, as by a thread on its way. */
  stain(cell: number, thread: number, share: number): void {
    for (let j = 0; j < 3; j++) {
      const at = cell * 3 + j;
      this.base[at] += (this.colours[thread * 3 + j] - this.base[at]) * share;
      if (this.label[cell] === 0) this.shown[at] = this.base[at];
    }
  }

  /** Squared difference a place of a colour would have. */
  private distance(cell: number, goal: readonly number[], thread: number): number {
    const from = thread === 0 ? this.base : this.colours;
    const at = thread === 0 ? cell * 3 : thread * 3;
    return squaredBy(this.metric, cell * METRIC, from[at] - goal[0], from[at + 1] - goal[1], from[at + 2] - goal[2]);
  }

  /** Squared difference of a thread from what is wanted at a cell. */
  differenceAt(cell: number, thread: number): number {
    const { wanted } = this.lattice;
    return this.distance(cell, [wanted[cell * 3], wanted[cell * 3 + 1], wanted[cell * 3 + 2]], thread);
  }

  /** Cells that stay bare although they look like holes: 1 each. */
  holes(): Uint8Array {
    return this.label.map((label, cell) => {
      if (label > 0 || !this.lattice.inside[cell] || !this.banned.has(cell, 0)) return 0;
      return this.differenceAt(cell, 0) > this.options.farthestBare ** 2 ? 1 : 0;
    });
  }

  private put(cell: number, thread: number): void {
    this.label[cell] = thread;
    const from = thread === 0 ? this.base : this.colours;
    const at = thread === 0 ? cell * 3 : thread * 3;
    this.shown[cell * 3] = from[at];
    this.shown[cell * 3 + 1] = from[at + 1];
    this.shown[cell * 3 + 2] = from[at + 2];
  }

  /** Computes the blurred difference anew, from what is shown. */
  measure(): void {
    this.vain.forget();
    blurDifference(this.lattice, this.shown, this.error);
    for (let i = 0; i < this.label.length; i++) this.pullAt(i);
  }

  private pullAt(i: number): void {
    const m = this.metric;
    const k = i * METRIC;
    const e0 = this.error[i * 3];
    const e1 = this.error[i * 3 + 1];
    const e2 = this.error[i * 3 + 2];
    this.pull[i * 3] = m[k] * e0 + m[k + 1] * e1 + m[k + 2] * e2;
    this.pull[i * 3 + 1] = m[k + 1] * e0 + m[k + 3] * e1 + m[k + 4] * e2;
    this.pull[i * 3 + 2] = m[k + 2] * e0 + m[k + 4] * e1 + m[k + 5] * e2;
  }

  /** One sweep over all rows, from above or from below; yields the share done every few rows. */
  *sweep(down: boolean): Generator<number> {
    const { rows } = this.lattice;
    for (let k = 0; k < rows; k++) {
      this.sweepRow(down ? k : rows - 1 - k);
      if (k % ROWS_A_TURN === ROWS_A_TURN - 1) yield k / rows;
    }
  }

  /** Tries windows along a row; each that lowers the energy is taken at once. */
  private sweepRow(r: number): void {
    const { cols, inside } = this.lattice;
    this.along.begin(r);
    const from = r * cols;
    for (let c = 0; c < cols;) {
      if (!inside[from + c]) {
        c++;
        continue;
      }
      const leastCells = this.least[from + c];
      let end = c + 1;
      // What lies below differs from cell to cell: only short windows of it are alike enough.
      const most = this.label[from + c] === 0 ? Math.min(cols, c + this.options.leastCells * 3) : cols;
      while (end < most && inside[from + end] && this.label[from + end] === this.label[from + c]) end++;
      if (this.vain.isVain(r, c, end)) {
        c = end;
        continue;
      }
      // The whole run, then its ends, then windows inside.
      let best = this.tryWindow(r, c, end);
      if (!best) {
        for (const n of [1, 2, leastCells]) {
          if (n >= end - c) break;
          best ||= this.tryWindow(r, c, c + n) || this.tryWindow(r, end - n, end);
        }
      }
      if (!best) {
        for (const n of [leastCells, leastCells + 3, leastCells * 3]) {
          for (let s = c + 1; !best && s + n < end; s += n > leastCells ? 2 : 1) best ||= this.tryWindow(r, s, s + n);
        }
      }
      if (!best) this.vain.note(r, c);
      c = end;
    }
  }

  /** Gives a window the thread that lowers the energy most, if one does. */
  private tryWindow(r: number, c: number, end: number): boolean {
    const { cols, inside } = this.lattice;
    const { changeCost } = this.options;
    const { label, metric, colours } = this;
    const { sums } = this.along;
    const from = r * cols;
    const now = label[from + c];
    const before = c > 0 && inside[from + c - 1] ? label[from + c - 1] : -1;
    const after = end < cols && inside[from + end] ? label[from + end] : -1;
    const n = end - c;
    const a = c * SUMS;
    const b = end * SUMS;
    const middle = from + ((c + end) >> 1);
    const sharpness = this.sharp[middle];
    // What was left over may be mended by lines as short as anywhere.
    const leastCells = now === 0 ? this.options.leastCells : this.least[middle];
    const edges = (before !== now ? 1 : 0) + (after !== now ? 1 : 0);
    // What stays of the run on either side must be long enough.
    const restLeft = before === now ? this.reach(from, c - 1, -1, now, leastCells) : leastCells;
    const restRight = after === now ? this.reach(from, end, 1, now, leastCells) : leastCells;
    if (restLeft < leastCells || restRight < leastCells) return false;
    this.along.upTo(end);
    const g0 = sums[b] - sums[a];
    const g1 = sums[b + 1] - sums[a + 1];
    const g2 = sums[b + 2] - sums[a + 2];
    const own = sums[b + 3] - sums[a + 3];
    const m0 = (sums[b + 4] - sums[a + 4]) / n;
    const m1 = (sums[b + 5] - sums[a + 5]) / n;
    const m2 = (sums[b + 6] - sums[a + 6]) / n;
    const square = squareOf(n) + sharpness * n;
    const mid = middle * METRIC;
    let spread = 0;
    if (now === 0) {
      for (let k = (from + c) * 3; k < (from + end) * 3; k += 3) {
        spread += squaredBy(metric, mid, this.shown[k] - m0, this.shown[k + 1] - m1, this.shown[k + 2] - m2);
      }
      spread *= squareOf(1) + sharpness;
    }
    let best = -1;
    // A hole is filled by whatever is nearest.
    let least = now === 0 && this.banned.has(middle, 0) ? Infinity : -1e-7;
    for (let k = -1; k < this.open.length; k++) {
      const t = k < 0 ? 0 : this.open[k];
      if (t === now) continue;
      if (t > 0 ? this.isBarred(from + c, middle, from + end - 1, t) : this.hasHole(from + c, from + end)) continue;
      // Too short for a thread of its own: it must go on what lies beside it.
      if (n < leastCells && t !== before && t !== after && t > 0) continue;
      let d0: number;
      let d1: number;
      let d2: number;
      let linear: number;
      if (t === 0) {
        const back = this.baseChange(from, c, end);
        d0 = back[0] / n - m0;
        d1 = back[1] / n - m1;
        d2 = back[2] / n - m2;
        linear = back[3];
      } else {
        d0 = colours[t * 3] - m0;
        d1 = colours[t * 3 + 1] - m1;
        d2 = colours[t * 3 + 2] - m2;
        linear = g0 * colours[t * 3] + g1 * colours[t * 3 + 1] + g2 * colours[t * 3 + 2] - own;
      }
      const newEdges = (before !== t ? 1 : 0) + (after !== t ? 1 : 0);
      const change =
        2 * linear + square * squaredBy(metric, mid, d0, d1, d2) + spread + changeCost * (newEdges - edges);
      if (change < least) {
        least = change;
        best = t;
      }
    }
    if (best < 0) return false;
    this.change(r, c, end, best);
    return true;
  }

  /** Whether a thread must not lie at the beginning, the middle or the end of a window. */
  private isBarred(first: number, middle: number, last: number, thread: number): boolean {
    const { banned } = this;
    return banned.has(middle, thread) || banned.has(first, thread) || banned.has(last, thread);
  }

  /** Whether some of these cells must not stay bare. */
  private hasHole(from: number, to: number): boolean {
    for (let cell = from; cell < to; cell++) if (this.banned.has(cell, 0)) return true;
    return false;
  }

  /** Sum of what lies below a window, and the product of the gradient and the change where it falls back to that. */
  private baseChange(from: number, c: number, end: number): Float64Array {
    const { base, shown, back } = this;
    const { sums } = this.along;
    let d0 = 0;
    let d1 = 0;
    let d2 = 0;
    let linear = 0;
    for (let k = c; k < end; k++) {
      const i = (from + k) * 3;
      d0 += base[i];
      d1 += base[i + 1];
      d2 += base[i + 2];
      const a = k * SUMS;
      linear +=
        (sums[a + 7] - sums[a]) * (base[i] - shown[i]) +
        (sums[a + 8] - sums[a + 1]) * (base[i + 1] - shown[i + 1]) +
        (sums[a + 9] - sums[a + 2]) * (base[i + 2] - shown[i + 2]);
    }
    back[0] = d0;
    back[1] = d1;
    back[2] = d2;
    back[3] = linear;
    return back;
  }

  /** Cells of a thread from a column on, up to as many as are asked for. */
  private reach(from: number, c: number, step: number, thread: number, most: number): number {
    const { cols, inside } = this.lattice;
    let n = 0;
    while (c >= 0 && c < cols && n < most && inside[from + c] && this.label[from + c] === thread) {
      n++;
      c += step;
    }
    return n;
  }

  /** From 0 where there is detail along the row to 1 where the picture is even. */
  evenness(cell: number): number {
    const { leastCells, evenCells } = this.options;
    return evenCells > leastCells ? (this.least[cell] - leastCells) / (evenCells - leastCells) : 0;
  }

  /** Takes threads away where they are barred; what lies below shows until the next sweep. */
  enforceBans(): void {
    for (let i = 0; i < this.label.length; i++) {
      if (this.label[i] > 0 && this.banned.has(i, this.label[i])) this.put(i, 0);
    }
    this.measure();
  }

  /** Colours of threads have been changed in place: what is shown follows. */
  recolour(): void {
    for (let i = 0; i < this.label.length; i++) this.put(i, this.label[i]);
    this.measure();
  }

  /** Cells that stay open after all. */
  drop(cells: readonly number[]): void {
    for (const cell of cells) this.put(cell, 0);
  }

  ban(cell: number, thread: number): void {
    this.banned.add(cell, thread);
  }

  /** Gives a window a thread and brings difference, gradient and sums up to date around it. */
  private change(r: number, c: number, end: number, thread: number): void {
    const { cols, rows } = this.lattice;
    const { shown, error, delta } = this;
    const n = end - c;
    for (let k = 0; k < n; k++) {
      const at = (r * cols + c + k) * 3;
      const o0 = shown[at];
      const o1 = shown[at + 1];
      const o2 = shown[at + 2];
      this.put(r * cols + c + k, thread);
      delta[k * 3] = shown[at] - o0;
      delta[k * 3 + 1] = shown[at + 1] - o1;
      delta[k * 3 + 2] = shown[at + 2] - o2;
    }
    const left = Math.max(0, c - REACH);
    const right = Math.min(cols - 1, end - 1 + REACH);
    const low = Math.max(-REACH, -r);
    const high = Math.min(REACH, rows - 1 - r);
    for (let x = left; x <= right; x++) {
      let b0 = 0;
      let b1 = 0;
      let b2 = 0;
      const last = Math.min(n - 1, x + REACH - c);
      for (let k = Math.max(0, x - REACH - c); k <= last; k++) {
        const g = KERNEL[x - c - k + REACH];
        b0 += g * delta[k * 3];
        b1 += g * delta[k * 3 + 1];
        b2 += g * delta[k * 3 + 2];
      }
      for (let k = low; k <= high; k++) {
        const g = KERNEL[k + REACH];
        const i = (r + k) * cols + x;
        error[i * 3] += g * b0;
        error[i * 3 + 1] += g * b1;
        error[i * 3 + 2] += g * b2;
        this.pullAt(i);
      }
    }
    this.along.changed(left, right);
    this.vain.changed(r, c, end - 1);
  }
}

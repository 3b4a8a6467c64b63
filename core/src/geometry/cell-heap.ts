/** Cells by their cost, least first; typed arrays that are used again for every search. */
export class CellHeap {
  private readonly cells: Int32Array;
  private readonly costs: Float64Array;
  size = 0;

  constructor(most: number) {
    this.cells = new Int32Array(most);
    this.costs = new Float64Array(most);
  }

  clear(): void {
    this.size = 0;
  }

  /** Adds a cell; once it is full nothing more is taken. */
  push(cell: number, cost: number): void {
    if (this.size === this.cells.length) return;
    let i = this.size++;
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (this.costs[up] <= cost) break;
      this.cells[i] = this.cells[up];
      this.costs[i] = this.costs[up];
      i = up;
    }
    this.cells[i] = cell;
    this.costs[i] = cost;
  }

  /** Cost of the least cell. */
  get least(): number {
    return this.costs[0];
  }

  /** Takes the least cell out. */
  pop(): number {
    const top = this.cells[0];
    const cell = this.cells[--this.size];
    const cost = this.costs[this.size];
    let i = 0;
    for (;;) {
      let child = i * 2 + 1;
      if (child >= this.size) break;
      if (child + 1 < this.size && this.costs[child + 1] < this.costs[child]) child++;
      if (this.costs[child] >= cost) break;
      this.cells[i] = this.cells[child];
      this.costs[i] = this.costs[child];
      i = child;
    }
    this.cells[i] = cell;
    this.costs[i] = cost;
    return top;
  }
}

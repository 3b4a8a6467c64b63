/** Words of a set of threads: 96 numbers. */
const WORDS = 3;

/** A set of threads for every cell, one bit a thread. */
export class ThreadSets {
  private readonly words: Uint32Array;

  constructor(cells: number) {
    this.words = new Uint32Array(cells * WORDS);
  }

  has(cell: number, thread: number): boolean {
    return (this.words[cell * WORDS + (thread >> 5)] & (1 << (thread & 31))) !== 0;
  }

  add(cell: number, thread: number): void {
    this.words[cell * WORDS + (thread >> 5)] |= 1 << (thread & 31);
  }

  remove(cell: number, thread: number): void {
    this.words[cell * WORDS + (thread >> 5)] &= ~(1 << (thread & 31));
  }
}

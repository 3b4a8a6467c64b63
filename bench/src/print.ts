/** Prints one line of a table: what, the figure, and the least that is asked for. */
export function line(what: string, figure: string, least = ''): void {
  console.log(`  ${what.padEnd(66)} ${figure.padStart(22)}   ${least}`);
}

/** Prints a heading with the conditions the figures were taken under. */
export function heading(title: string, conditions: string): void {
  console.log(`\n${title}\n  (${conditions})`);
}

/** Milliseconds of the best of several runs: what the code can do, not what else the machine was doing. */
export async function best(runs: number, work: () => unknown): Promise<number> {
  let least = Infinity;
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    await work();
    least = Math.min(least, performance.now() - start);
  }
  return least;
}

export const percent = (share: number, digits = 2): string => `${(share * 100).toFixed(digits)} %`;

/** Takes steps to their end at once. */
export function toEnd<T>(steps: Generator<unknown, T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** Takes steps to their end, with a pause after each that is told the share done. */
export async function toEndWithPauses<T>(
  steps: Generator<number, T>,
  pause: (share: number) => Promise<void>,
): Promise<T> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    await pause(step.value);
  }
}

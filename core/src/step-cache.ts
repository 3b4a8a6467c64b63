/** Remembers the latest outputs of a step under the key of what went in. */
export class StepCache {
  private readonly steps = new Map<string, Map<string, unknown>>();
  /** Steps that had to be computed, by name, since the cache was made. */
  readonly computed = new Map<string, number>();

  /** @param keep outputs remembered for each step: one rough and one full one, and those before the last change */
  constructor(private readonly keep = 4) {}

  /** The remembered output, or that of `compute`, which is then remembered. */
  async get<T>(step: string, key: string, compute: () => T | Promise<T>): Promise<T> {
    let outputs = this.steps.get(step);
    if (!outputs) this.steps.set(step, (outputs = new Map()));
    if (outputs.has(key)) {
      const found = outputs.get(key) as T;
      outputs.delete(key);
      outputs.set(key, found);
      return found;
    }
    const made = await compute();
    this.computed.set(step, (this.computed.get(step) ?? 0) + 1);
    outputs.set(key, made);
    if (outputs.size > this.keep) outputs.delete(outputs.keys().next().value as string);
    return made;
  }
}

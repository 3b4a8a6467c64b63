/** Lets other work have a turn, told the share of the step that is done; throws to stop. */
export type Pause = (share: number) => Promise<void>;

/** What a step may use beside its inputs; neither says anything about them. */
export interface Turn {
  readonly pause: Pause;
  /** For steps that take other steps, with inputs of their own. */
  readonly cache: StepCache;
}

/**
 * A step of a conversion. `work` is a function of its inputs alone: declared at the top of a file, it can see nothing
 * else, and the key its output is remembered under is made from those inputs.
 */
export interface Step<I extends object, O> {
  readonly name: string;
  readonly work: (inputs: I, turn: Turn) => O | Promise<O>;
}

export const step = <I extends object, O>(name: string, work: Step<I, O>['work']): Step<I, O> => ({ name, work });

/** What objects are called in keys: outputs of steps by the inputs they were made from, sources by their content. */
const NAMES = new WeakMap<object, string>();

/** Names something large by its content, so that it can be an input of steps; the same content, the same name. */
export function named<T extends object>(value: T, name: string): T {
  if (!NAMES.has(value)) NAMES.set(value, name);
  return value;
}

/** Names something plain by its content, once: charts are looked at in every conversion and hardly ever change. */
export function namedByContent<T extends object>(value: T): T {
  return NAMES.has(value) ? value : named(value, keyOf('content', { ...value }));
}

const noPause: Pause = () => Promise.resolve();

/** Remembers the latest outputs of each step under the inputs they were made from. */
export class StepCache {
  private readonly steps = new Map<string, Map<string, unknown>>();
  private readonly memos = new Map<string, unknown>();
  /** Steps that had to be computed, by name, since the cache was made. */
  readonly computed = new Map<string, number>();

  /** @param keep outputs remembered for each step: one rough and one full one, and those before the last change */
  constructor(private readonly keep = 4) {}

  /**
   * The remembered output of a step for these inputs, or a new one, which is then remembered.
   * @param scope outputs of different scopes do not push each other out: the object a step works for
   */
  async run<I extends object, O>(
    { name, work }: Step<I, O>,
    inputs: I,
    pause: Pause = noPause,
    scope = '',
  ): Promise<O> {
    const key = keyOf(name, inputs);
    const place = `${name} ${scope}`;
    let outputs = this.steps.get(place);
    if (!outputs) this.steps.set(place, (outputs = new Map()));
    if (outputs.has(key)) {
      const found = outputs.get(key) as O;
      outputs.delete(key);
      outputs.set(key, found);
      return found;
    }
    const made = await work(inputs, { pause, cache: this });
    if (typeof made === 'object' && made !== null) named(made, key);
    this.computed.set(name, (this.computed.get(name) ?? 0) + 1);
    outputs.set(key, made);
    if (outputs.size > this.keep) outputs.delete(outputs.keys().next().value as string);
    return made;
  }

  /** A place to remember parts of work in, by what they were made from; made once for each name. */
  memo<T>(name: string, make: () => T): T {
    if (!this.memos.has(name)) this.memos.set(name, make());
    return this.memos.get(name) as T;
  }
}

/** @throws TypeError for an input that cannot be told by its content: a function, or pixels without a name */
export function keyOf(name: string, inputs: object): string {
  const text = JSON.stringify(inputs, (field, value: unknown) => {
    if (typeof value === 'number' && !Number.isFinite(value)) return { number: String(value) };
    if (typeof value === 'function') throw new TypeError(`step ${name}: ${field} is a function, which has no content`);
    if (typeof value !== 'object' || value === null) return value;
    const known = NAMES.get(value);
    if (known !== undefined) return { named: known };
    if (ArrayBuffer.isView(value) || value instanceof Map || value instanceof Set) {
      throw new TypeError(`step ${name}: ${field} has no name`);
    }
    return value;
  });
  return `${name}:${hashOf(text)}`;
}

/** Two hashes of 53 bits each (after Bob Jenkins' and Austin Appleby's mixing), and the length. */
function hashOf(text: string): string {
  return `${hash53(text, 0)}${hash53(text, 0x9e3779b9)}${text.length.toString(36)}`;
}

function hash53(text: string, seed: number): string {
  let a = 0xdeadbeef ^ seed;
  let b = 0x41c6ce57 ^ seed;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    a = Math.imul(a ^ c, 2654435761);
    b = Math.imul(b ^ c, 1597334677);
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
  return (4294967296 * (2097151 & b) + (a >>> 0)).toString(36);
}

import type { Declaration, StyleRule, Step } from './style-sheet.js';
import type { SvgElement } from './svg-tree.js';

/** Comparisons of a compound with an element that a file may ask for: more than any drawing needs, and done in a second. */
const MOST_COMPARISONS = 20_000_000;

/** The rules of all style sheets of a file, found by what their last compound asks for. */
export class StyleRules {
  private readonly byId = new Map<string, StyleRule[]>();
  private readonly byClass = new Map<string, StyleRule[]>();
  private readonly byType = new Map<string, StyleRule[]>();
  private readonly others: StyleRule[] = [];
  private readonly places: ReadonlyMap<StyleRule, number>;
  private readonly classes = new WeakMap<SvgElement, ReadonlySet<string>>();
  private comparisons = 0;

  constructor(rules: readonly StyleRule[]) {
    this.places = new Map(rules.map((rule, i) => [rule, i]));
    for (const rule of rules) {
      const { id, classes, type } = rule.steps[rule.steps.length - 1];
      if (id !== undefined) put(this.byId, id, rule);
      else if (classes.length > 0) put(this.byClass, classes[0], rule);
      else if (type !== undefined) put(this.byType, type, rule);
      else this.others.push(rule);
    }
  }

  /**
   * What the style sheets declare for an element, the weightier later.
   * @throws RangeError where the file asks for more comparisons than any drawing needs
   */
  declarationsFor(element: SvgElement): readonly (Declaration & { readonly weight: number })[] {
    const { id } = element.attributes;
    const rules = [
      ...this.others,
      ...(this.byType.get(element.name) ?? []),
      ...[...this.classesOf(element)].flatMap((name) => this.byClass.get(name) ?? []),
      ...(id === undefined ? [] : (this.byId.get(id) ?? [])),
    ].filter((rule) => this.matches(rule.steps, element));
    rules.sort((a, b) => (this.places.get(a) ?? 0) - (this.places.get(b) ?? 0));
    return rules.flatMap(({ declarations, weight }) => declarations.map((d) => ({ ...d, weight })));
  }

  /**
   * Whether a selector means an element: from the root downwards, how much of it has been met so far. That takes as many
   * comparisons as there are steps and ancestors, however they repeat.
   */
  private matches(steps: readonly Step[], element: SvgElement): boolean {
    if (!this.fits(steps[steps.length - 1], element)) return false;
    if (steps.length === 1) return true;
    const path: SvgElement[] = [];
    for (let at: SvgElement | undefined = element; at; at = at.parent) path.unshift(at);
    // Steps up to this one end at the element before, and at any one so far.
    let here: boolean[] = [];
    const above: boolean[] = steps.map(() => false);
    for (const at of path) {
      const before = here;
      here = steps.map((step, i) => {
        const led = i === 0 || (step.combinator === '>' ? before[i - 1] : above[i - 1]);
        return led && this.fits(step, at);
      });
      here.forEach((met, i) => (above[i] ||= met));
    }
    return here[steps.length - 1];
  }

  private fits({ type, id, classes }: Step, element: SvgElement): boolean {
    if (++this.comparisons > MOST_COMPARISONS) {
      throw new RangeError('SVG: its style sheets and elements are too many to be compared');
    }
    if ((type && type !== element.name) || (id && id !== element.attributes['id'])) return false;
    if (classes.length === 0) return true;
    const own = this.classesOf(element);
    return classes.every((name) => own.has(name));
  }

  private classesOf(element: SvgElement): ReadonlySet<string> {
    let own = this.classes.get(element);
    if (!own) {
      own = new Set((element.attributes['class'] ?? '').split(/\s+/).filter(Boolean));
      this.classes.set(element, own);
    }
    return own;
  }
}

function put(lists: Map<string, StyleRule[]>, key: string, rule: StyleRule): void {
  const list = lists.get(key);
  if (list) list.push(rule);
  else lists.set(key, [rule]);
}

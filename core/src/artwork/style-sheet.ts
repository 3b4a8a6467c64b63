import type { CssNode, Selector } from 'css-tree';
import parse from 'css-tree/parser';
import walk from 'css-tree/walker';

/** One selector of a style sheet with what it declares. */
export interface StyleRule {
  readonly steps: readonly Step[];
  readonly weight: number;
  readonly declarations: readonly Declaration[];
}

export interface Declaration {
  readonly property: string;
  readonly value: string;
  readonly important: boolean;
}

/** One compound of a selector, and whether the one before must be its parent or any ancestor. */
export interface Step {
  readonly combinator: ' ' | '>';
  readonly type?: string;
  readonly id?: string;
  readonly classes: readonly string[];
}

const MOST_RULES = 5000;

/** Reads style sheets; rules with selectors that go beyond types, classes, ids and descent are left out. */
export function readStyleSheet(text: string): StyleRule[] {
  const rules: StyleRule[] = [];
  const tree = parse(text, { parseValue: false, onParseError: () => undefined });
  walk(tree, {
    visit: 'Rule',
    enter(rule) {
      if (this.atrule || rule.prelude.type !== 'SelectorList') return;
      const declarations = declarationsOf(rule.block);
      rule.prelude.children.forEach((selector) => {
        const steps = selector.type === 'Selector' ? stepsOf(selector) : undefined;
        if (!steps || rules.length >= MOST_RULES) return;
        const weight = steps.reduce(
          (sum, s) => sum + (s.id ? 10_000 : 0) + s.classes.length * 100 + (s.type ? 1 : 0),
          0,
        );
        rules.push({ steps, weight, declarations });
      });
    },
  });
  return rules;
}

/** Declarations of a `style` attribute. */
export function readDeclarations(text: string): Declaration[] {
  return declarationsOf(parse(text, { context: 'declarationList', parseValue: false, onParseError: () => undefined }));
}

function declarationsOf(node: CssNode): Declaration[] {
  const out: Declaration[] = [];
  walk(node, {
    visit: 'Declaration',
    enter({ property, value, important }) {
      const raw = value.type === 'Raw' ? value.value : '';
      out.push({ property: property.toLowerCase(), value: raw.trim(), important: Boolean(important) });
    },
  });
  return out;
}

function stepsOf(selector: Selector): Step[] | undefined {
  const steps: Step[] = [];
  let step: { combinator: ' ' | '>'; type?: string; id?: string; classes: string[] } = { combinator: ' ', classes: [] };
  let known = true;
  selector.children.forEach((part) => {
    switch (part.type) {
      case 'TypeSelector':
        if (part.name !== '*') step.type = part.name;
        break;
      case 'IdSelector':
        step.id = part.name;
        break;
      case 'ClassSelector':
        step.classes.push(part.name);
        break;
      case 'Combinator':
        if (part.name !== ' ' && part.name !== '>') known = false;
        steps.push(step);
        step = { combinator: part.name === '>' ? '>' : ' ', classes: [] };
        break;
      default:
        known = false;
    }
  });
  return known ? [...steps, step] : undefined;
}

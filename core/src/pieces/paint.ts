import type { ThreadChoice } from './piece-ref.js';

/** What an area is sewn with: a colour of the picture, by its label from 1, or a thread or colour of its own. */
export type Paint = { readonly label: number } | Exclude<ThreadChoice, { readonly like: unknown }>;

/** Whether two paints are one. */
export function isSamePaint(a: Paint, b: Paint): boolean {
  if ('label' in a) return 'label' in b && a.label === b.label;
  if ('hex' in a) return 'hex' in b && a.hex === b.hex;
  return 'code' in b && a.code === b.code && a.chart === b.chart;
}

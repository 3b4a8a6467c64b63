import type { ProjectSummary } from '@open-kite/contract';

/** One way to sort the projects on the shelf. */
export interface ProjectOrder {
  readonly id: string;
  readonly name: string;
  readonly compare: (a: ProjectSummary, b: ProjectSummary) => number;
}

/** What is not sewn yet comes last. */
const falling =
  (figure: 'stitches' | 'minutes') =>
  (a: ProjectSummary, b: ProjectSummary): number =>
    (b.figures?.[figure] ?? -1) - (a.figures?.[figure] ?? -1);

export const PROJECT_ORDERS: readonly ProjectOrder[] = [
  { id: 'changed', name: 'Last changed', compare: (a, b) => b.updatedAt.localeCompare(a.updatedAt) },
  { id: 'name', name: 'Name', compare: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }) },
  { id: 'stitches', name: 'Most stitches', compare: falling('stitches') },
  { id: 'minutes', name: 'Longest to sew', compare: falling('minutes') },
];

/** Projects whose names have every word that is looked for, sorted. */
export function listed(projects: readonly ProjectSummary[], wanted: string, order: string): ProjectSummary[] {
  const words = wanted.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const { compare } = PROJECT_ORDERS.find(({ id }) => id === order) ?? PROJECT_ORDERS[0];
  return projects.filter(({ name }) => words.every((word) => name.toLocaleLowerCase().includes(word))).sort(compare);
}

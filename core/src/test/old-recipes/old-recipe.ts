/** A recipe as an earlier version wrote it, and what that version sewed. */
export interface OldRecipe {
  readonly name: string;
  readonly version: number;
  readonly picture: 'flat' | 'soft' | 'art';
  readonly recipe: unknown;
  readonly stitches: number;
  readonly threads: readonly string[];
  /** First half of the SHA-256 of its rows (x, y in micrometres, command, thread) and threads. */
  readonly sum: string;
}

/**
 * Version of what conversions give: it grows whenever the same recipe may give other stitches, so that designs stored by
 * an earlier one are made anew. The sums of the old recipes in `test/old-recipes.ts` tell when that is.
 */
export const CORE_VERSION = '2026-12-03';

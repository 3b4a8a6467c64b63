/** The name of a project or a text as a name files may have everywhere, without an ending; `design` where nothing is left. */
export const fileStem = (name: string): string =>
  name
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase()
    .slice(0, 80) || 'design';

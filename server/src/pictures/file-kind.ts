/** Kinds of picture files, told by how they begin; never by their names. */
export type FileKind = 'png' | 'jpeg' | 'webp' | 'gif' | 'tiff' | 'bmp' | 'gzip' | 'list' | 'text';

const RASTERS: readonly (readonly [FileKind, RegExp])[] = [
  ['png', /^\x89PNG\r\n\x1a\n/],
  ['jpeg', /^\xff\xd8\xff/],
  ['webp', /^RIFF[^]{4}WEBP/],
  ['gif', /^GIF8[79]a/],
  ['tiff', /^(?:II[*+]\0|MM\0[*+])/],
  ['gzip', /^\x1f\x8b\x08/],
];

/** Sizes of the header that follows the file header of a BMP. */
const BMP_HEADERS = [12, 40, 52, 56, 64, 108, 124];

/** What a file is; undefined where it is nothing that is read here. */
export function fileKind(bytes: Buffer): FileKind | undefined {
  const start = bytes.subarray(0, 16).toString('latin1');
  const known = RASTERS.find(([, begins]) => begins.test(start));
  if (known) return known[0];
  if (start.startsWith('BM') && bytes.length > 18 && BMP_HEADERS.includes(bytes.readUInt32LE(14))) return 'bmp';
  // Stitch lists and designs say what they are in their first line.
  const head = bytes
    .subarray(0, 200)
    .toString('utf8')
    .replace(/^\uFEFF/, '')
    .trimStart();
  if (head.startsWith('# open-kite stitches') || /^\{\s*"format"\s*:\s*"open-kite design"/.test(head)) return 'list';
  // Markup begins with a bracket, after a mark of its encoding and blanks.
  const text = /^(?:\xef\xbb\xbf|\xff\xfe|\xfe\xff)?[\s\0]*(?:\0?<)?/.exec(start)?.[0] ?? '';
  return text.includes('<') || (/^[\s\xef\xbb\xbf]+$/.test(start) && bytes.includes('<')) ? 'text' : undefined;
}

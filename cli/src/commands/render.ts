import { fabricUnder, pulledDesign, renderDesign, writePng, type Look } from '@open-kite/core';
import { UserError } from '@open-kite/server/user-error';
import { openDesign, writeOutputs } from '../files.js';

/** `open-kite render`: a picture of a design. */
export async function renderCommand(
  file: string,
  { out, pxPerMm, look }: { readonly out: string; readonly pxPerMm: number; readonly look: Look | 'forecast' },
): Promise<void> {
  if (!/\.png$/i.test(out)) throw new UserError(400, `${out}: a rendered picture ends in .png`);
  const { sewing } = await openDesign(file);
  // The forecast is the sewn look of stitches as they lie when the cloth has been drawn together.
  const fabric = fabricUnder(sewing);
  const drawn = look === 'forecast' && fabric ? pulledDesign(sewing, () => fabric) : sewing;
  await writeOutputs(new Map([[out, writePng(renderDesign(drawn, pxPerMm, look === 'forecast' ? 'sewn' : look))]]));
}

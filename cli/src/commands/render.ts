import { renderDesign, writePng, type Look } from '@open-kite/core';
import { UserError } from '@open-kite/server/user-error';
import { openDesign, writeOutputs } from '../files.js';

/** `open-kite render`: a picture of a design. */
export async function renderCommand(
  file: string,
  { out, pxPerMm, look }: { readonly out: string; readonly pxPerMm: number; readonly look: Look | 'forecast' },
): Promise<void> {
  if (look === 'forecast') throw new UserError(400, '--look: the pull forecast is planned and not built yet');
  if (!/\.png$/i.test(out)) throw new UserError(400, `${out}: a rendered picture ends in .png`);
  const { sewing } = await openDesign(file);
  await writeOutputs(new Map([[out, writePng(renderDesign(sewing, pxPerMm, look))]]));
}

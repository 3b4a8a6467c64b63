import {
  checkName,
  convert,
  likenessOf,
  pictureOf,
  pictureOfInput,
  preparedPicture,
  reportOf,
  withoutPieces,
  type Report,
} from '@open-kite/core';
import { CHART_FOLDER, readCharts } from '@open-kite/server/charts';
import { openDesign } from '../files.js';

/** `open-kite report`: the figures of a design. */
export async function reportCommand(file: string, json: boolean): Promise<void> {
  const { sewing, pictures, recipe, outlines } = await openDesign(file);
  const charts = readCharts(CHART_FOLDER);
  const input = recipe && pictures && pictureOf(recipe) && { pictures, recipe, charts };
  const prepared = input && (await preparedPicture(pictureOfInput(input)));
  const alone = withoutPieces(sewing, new Set(outlines));
  // An archive tells how its stitches came about: then findings have their pieces and repairs.
  const design = input ? await convert(input) : undefined;
  const known = recipe && design && design.stitches.count === sewing.stitches.count ? { design, recipe } : undefined;
  const report = reportOf(sewing, prepared && likenessOf(alone, prepared), {}, known);
  process.stdout.write(json ? JSON.stringify(report, null, 2) + '\n' : reportLines(report).join('\n') + '\n');
}

function reportLines(r: Report): string[] {
  const lines = [
    `size          ${r.widthMm} x ${r.heightMm} mm`,
    `stitches      ${r.stitches} (longest ${r.longestStitchMm} mm, ${(r.shortStitchShare * 100).toFixed(2)} % under 0.3 mm)`,
    `trims, jumps  ${r.trims}, ${r.jumps}`,
    `minutes       ${r.minutes.oneNeedle} on one needle, ${r.minutes.multiNeedle} on several`,
    `pieces        ${r.pieces}`,
    `findings      ${r.findings.problem} problems, ${r.findings.advice} advice, ${r.findings.waste} wasteful`,
    ...r.findings.list.map(({ kind, level, text, at, repairs }) => {
      const place = at ? ` at ${at.x.toFixed(1)}, ${at.y.toFixed(1)} mm` : '';
      const mend = repairs.length > 0 ? ` (repair: ${repairs.map(({ label }) => label).join(', ')})` : '';
      return `  ${level.padEnd(8)} ${checkName(kind)}${place}: ${text}${mend}`;
    }),
  ];
  if (r.likeness) lines.push(`likeness      difference ${r.likeness.deltaE}, similarity ${r.likeness.ssim}`);
  for (const t of r.threads) lines.push(`  ${t.hex} ${t.code} ${t.name}: ${t.stitches} stitches, ${t.lengthM} m`);
  return lines;
}

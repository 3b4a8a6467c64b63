import { OPTION } from '../../stitches/stitch-kind.js';
import { tonalRows, toneSpan } from '../tonal-rows.js';
import { renderMethod, said } from './render-method.js';

/** Spacing of rows and pitch of the zigzag by grade, in mm. */
const GRADES: Readonly<Record<string, readonly [spacing: number, pitch: number]>> = {
  coarse: [2.4, 0.7],
  medium: [1.7, 0.6],
  fine: [1.2, 0.5],
};

const MOST_SPACING = 4;
const MOST_PITCH = 1.6;

/** Rows of one thread that follow the tones. */
export const ROWS = renderMethod({
  id: 'rows',
  name: 'Tonal rows',
  step: 'Rows',
  hint: 'Level rows of one thread that grow wider or closer where the picture is dark.',
  threads: { from: 'list', usual: ['#22304a'], least: 1, most: 1 },
  options: {
    vary: {
      type: 'choice',
      label: 'Tones become',
      choices: [
        { id: 'width', name: 'Wider rows' },
        { id: 'closeness', name: 'Closer stitches' },
      ],
      usual: 'width',
    },
    grade: {
      type: 'choice',
      label: 'Grade',
      choices: [
        { id: 'coarse', name: 'Coarse' },
        { id: 'medium', name: 'Medium' },
        { id: 'fine', name: 'Fine' },
        { id: 'own', name: 'In millimetres' },
      ],
      usual: 'fine',
    },
    spacingMm: { ...OPTION.mm('Distance of rows', 0.8, MOST_SPACING, 1.2), when: ['grade', 'own'] },
    pitchMm: { ...OPTION.mm('Zigzag pitch', 0.25, MOST_PITCH, 0.5), when: ['grade', 'own'] },
    angle: { type: 'number', label: 'Row angle', least: -90, most: 90, step: 1, unit: '°', usual: 30 },
    slant: { type: 'number', label: 'Slant of the zigzag', least: -60, most: 60, step: 1, unit: '°', usual: 0 },
    sews: {
      type: 'choice',
      label: 'Thread lies where it is',
      choices: [
        { id: 'dark', name: 'Dark' },
        { id: 'light', name: 'Light' },
      ],
      usual: 'dark',
    },
    darkest: { type: 'number', label: 'Darkest tone', least: 0, most: 80, step: 1, unit: '', usual: 0 },
    lightest: { type: 'number', label: 'Lightest tone', least: 20, most: 100, step: 1, unit: '', usual: 100 },
    breakOff: { type: 'number', label: 'Break rows off below', least: 0, most: 0.6, step: 0.01, unit: '', usual: 0.06 },
  },
  ease: (values, share) => {
    const [spacing, pitch] = measuresOf(values);
    const spacingMm = spacing + (MOST_SPACING - spacing) * share;
    const pitchMm = pitch + (MOST_PITCH - pitch) * share;
    return {
      values: { grade: 'own', spacingMm, pitchMm },
      gaveUp: `rows ${said(spacingMm)} mm apart instead of ${said(spacing)}, pitch ${said(pitchMm)} mm instead of ${said(pitch)}`,
    };
  },
  *render({ plate, threads, clothHex, trimOverMm }, values) {
    yield 0.1;
    const [spacingMm, pitchMm] = measuresOf(values);
    // Tones count from the darkest to the lightest of this picture.
    const { low, high } = toneSpan(plate);
    const toneAt = (share: number): number => low + ((high - low) * share) / 100;
    const { layer } = tonalRows(plate, {
      hex: threads[0].hex,
      clothHex,
      angle: values.angle,
      spacingMm,
      pitchMm,
      slant: values.slant,
      vary: values.vary === 'closeness' ? 'closeness' : 'width',
      invert: values.sews === 'light',
      darkest: toneAt(values.darkest),
      lightest: toneAt(values.lightest),
      breakOff: values.breakOff,
      trimOverMm,
    });
    return { layers: layer.runs.length > 0 ? [layer] : [] };
  },
});

const measuresOf = (values: { grade: string; spacingMm: number; pitchMm: number }): readonly [number, number] =>
  GRADES[values.grade] ?? [values.spacingMm, values.pitchMm];

import { OPTION } from '../../stitches/stitch-kind.js';
import { lightnessOf, luminance } from '../../colour/lightness.js';
import { linearOf } from '../../colour/srgb.js';
import { formFlow } from '../flow.js';
import { hiddenFaces } from '../rows/hidden-faces.js';
import { ROW_SHAPES } from '../rows/row-lines.js';
import { toneRows } from '../rows/tone-rows.js';
import { tonalRows, toneSpan } from '../tonal-rows.js';
import { renderMethod, said } from './render-method.js';

/** Spacing of rows and pitch of the zigzag by grade, in mm. */
const GRADES: Readonly<Record<string, readonly [spacing: number, pitch: number]>> = {
  coarse: [2.4, 0.7],
  medium: [1.7, 0.6],
  fine: [1.2, 0.45],
  finest: [0.9, 0.6],
};
/** Rounds of comparing what was drawn with the picture. */
const ROUNDS = 8;
const QUICK_ROUNDS = 2;

const MOST_SPACING = 4;
const MOST_PITCH = 1.6;

/** Rows of one thread that follow the tones. */
export const ROWS = renderMethod({
  id: 'rows',
  name: 'Tonal rows',
  step: 'Rows',
  hint: 'Level rows of one thread that grow wider or closer where the picture is dark.',
  threads: { from: 'list', usual: ['#1a1e26'], least: 1, most: 1 },
  // Closer stitches stand where they stand.
  favours: ({ vary }) => vary === 'width',
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
        { id: 'finest', name: 'Finest' },
        { id: 'own', name: 'In millimetres' },
      ],
      usual: 'fine',
    },
    spacingMm: { ...OPTION.mm('Row spacing', 0.8, MOST_SPACING, 1.2), when: ['grade', 'own'] },
    pitchMm: { ...OPTION.mm('Zigzag pitch', 0.25, MOST_PITCH, 0.45), when: ['grade', 'own'] },
    shape: {
      type: 'choice',
      label: 'Rows run',
      choices: ROW_SHAPES.map(({ id, name }) => ({ id, name })),
      usual: ROW_SHAPES[0].id,
      when: ['vary', 'width'],
    },
    angle: { type: 'number', label: 'Row angle', least: -90, most: 90, step: 1, unit: '°', usual: 0 },
    slant: { type: 'number', label: 'Slant of the zigzag', least: -60, most: 60, step: 1, unit: '°', usual: 0 },
    sews: {
      type: 'choice',
      label: 'Thread lies where it is',
      choices: [
        { id: 'natural', name: 'Like the thread' },
        { id: 'dark', name: 'Dark' },
        { id: 'light', name: 'Light' },
      ],
      usual: 'natural',
    },
    tones: {
      type: 'choice',
      label: 'Tones beyond thread and cloth',
      choices: [
        { id: 'suited', name: 'As suits thread and cloth' },
        { id: 'clipped', name: 'Are cut off' },
        { id: 'fitted', name: 'Are drawn together' },
      ],
      usual: 'suited',
      note: 'Nothing gets darker than thread that lies close, or lighter than the cloth.',
    },
    darkest: {
      type: 'number',
      label: 'Darkest tone',
      least: 0,
      most: 80,
      step: 1,
      unit: '',
      usual: 0,
      when: ['tones', 'fitted'],
    },
    lightest: {
      type: 'number',
      label: 'Lightest tone',
      least: 20,
      most: 100,
      step: 1,
      unit: '',
      usual: 100,
      when: ['tones', 'fitted'],
    },
    breakOff: {
      type: 'number',
      label: 'Rows drop out below',
      least: 0,
      most: 0.6,
      step: 0.01,
      unit: '',
      usual: 0,
      note: 'A row is left out where it would cover less than this share of its place: lights stay bare cloth.',
    },
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
  *render({ plate, threads, clothHex, trimOverMm, favoured, quick }, values) {
    yield 0.05;
    const [spacingMm, pitchMm] = measuresOf(values);
    // Tones count from the darkest to the lightest of this picture.
    const { low, high } = toneSpan(plate);
    const toneAt = (share: number): number => low + ((high - low) * share) / 100;
    const isCloser = values.vary === 'closeness';
    const [thread, cloth] = [lightnessOfHex(threads[0].hex), lightnessOfHex(clothHex)];
    // A light thread on dark cloth is bright as soon as it lies there at all, and closer stitches have no bare cloth: tones that
    // are cut off would leave only the lights.
    const isFitted = values.tones === 'fitted' || (values.tones === 'suited' && (isCloser || thread > cloth));
    const common = {
      hex: threads[0].hex,
      clothHex,
      angle: values.angle,
      spacingMm,
      pitchMm,
      slant: values.slant,
      darkest: isFitted ? toneAt(values.darkest) : Math.min(thread, cloth),
      lightest: isFitted ? toneAt(values.lightest) : Math.max(thread, cloth),
      breakOff: values.breakOff,
      trimOverMm,
    };
    const isLight = values.sews === 'natural' ? thread > cloth : values.sews === 'light';
    const { runs } = isCloser
      ? tonalRows(plate, { ...common, invert: isLight }).layer
      : yield* toneRows(plate, {
          ...common,
          shape: values.shape,
          flow: values.shape === 'forms' ? formFlow(plate, values.angle) : undefined,
          lightIsSewn: isLight,
          tones: isFitted ? 'fitted' : 'clipped',
          rounds: quick ? QUICK_ROUNDS : ROUNDS,
          favoured,
        });
    return {
      layers: runs.length > 0 ? [{ thread: 0, runs, openMm: 0 }] : [],
      problems: hiddenFaces(favoured, spacingMm),
    };
  },
});

const lightnessOfHex = (hex: string): number => lightnessOf(luminance(...linearOf(hex)));

const measuresOf = (values: { grade: string; spacingMm: number; pitchMm: number }): readonly [number, number] =>
  GRADES[values.grade] ?? [values.spacingMm, values.pitchMm];

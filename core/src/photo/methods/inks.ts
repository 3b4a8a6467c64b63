import { OPTION } from '../../stitches/stitch-kind.js';
import { groundRows } from '../ground-rows.js';
import { chooseInks } from '../inks/choose-inks.js';
import { inkLayers } from '../inks/ink-layers.js';
import { hiddenFaces } from '../rows/hidden-faces.js';
import type { PaletteThread } from '../palette-thread.js';
import { renderMethod, said, type Layer } from './render-method.js';

const MOST_SPACING = 4;
const MOST_PITCH = 1.6;
const WHITE: PaletteThread = { code: 'OWN-W', name: 'White ground', hex: '#f8f6f0', chart: 'own' };

/** Layers of rows, one an ink, at angles of their own. */
export const INKS = renderMethod({
  id: 'inks',
  name: 'Four-ink layers',
  step: 'Inks',
  hint: 'Yellow, red, blue and black, or two to six threads of your own, as rows that cross; the eye mixes them.',
  threads: { from: 'list', usual: ['#f3c816', '#c8151b', '#1d86b8', '#23262b'], least: 2, most: 6 },
  chooses: {
    by: ['palette', 'inks', 'ground', 'spacingMm', 'mostInk'],
    choose: (plate, named, { values, clothHex, charts }) => {
      const { palette, inks, ground, spacingMm, mostInk } = values;
      const isChosen = palette === 'chosen';
      const isWhite = ground === 'white';
      if (!isChosen && ground === 'cloth') return undefined;
      return (function* () {
        const chosen =
          isChosen || ground === 'chosen'
            ? yield* chooseInks(plate, {
                count: Number(inks),
                named: isChosen ? [] : named,
                ground: ground === 'chosen',
                clothHex: isWhite ? WHITE.hex : clothHex,
                charts,
                spacingMm: Number(spacingMm),
                mostInk: Number(mostInk),
              })
            : { threads: named };
        return isWhite ? { ...chosen, ground: WHITE } : chosen;
      })();
    },
  },
  options: {
    palette: {
      type: 'choice',
      label: 'Threads',
      choices: [
        { id: 'named', name: 'As they are listed' },
        { id: 'chosen', name: 'Chosen for the picture' },
      ],
      usual: 'named',
    },
    inks: {
      type: 'number',
      label: 'Threads to choose',
      least: 2,
      most: 6,
      step: 1,
      unit: '',
      usual: 4,
      when: ['palette', 'chosen'],
    },
    spacingMm: OPTION.mm('Row spacing', 0.8, MOST_SPACING, 1.2),
    pitchMm: OPTION.mm('Zigzag pitch', 0.25, MOST_PITCH, 0.6),
    angle: { type: 'number', label: 'Angle of the first', least: -90, most: 90, step: 1, unit: '°', usual: 15 },
    turn: { type: 'number', label: 'Each next turned by', least: 10, most: 90, step: 1, unit: '°', usual: 37 },
    first: {
      type: 'choice',
      label: 'Sewn first',
      choices: [
        { id: 'light', name: 'Light threads' },
        { id: 'listed', name: 'As they are listed' },
      ],
      usual: 'light',
    },
    mostInk: { type: 'number', label: 'Layers at one place', least: 1, most: 4, step: 0.1, unit: '', usual: 2.6 },
    ground: {
      type: 'choice',
      label: 'Below',
      choices: [
        { id: 'cloth', name: 'Bare cloth' },
        { id: 'white', name: 'A white ground' },
        { id: 'chosen', name: 'A ground chosen for the picture' },
      ],
      usual: 'cloth',
    },
  },
  ease: (values, share) => {
    const spacingMm = values.spacingMm + (MOST_SPACING - values.spacingMm) * share;
    const pitchMm = values.pitchMm + (MOST_PITCH - values.pitchMm) * share;
    return {
      values: { spacingMm, pitchMm },
      gaveUp: `rows ${said(spacingMm)} mm apart instead of ${said(values.spacingMm)}, pitch ${said(pitchMm)} mm instead of ${said(values.pitchMm)}`,
    };
  },
  *render({ plate, threads, ground, clothHex, trimOverMm, favoured }, values) {
    const hexes = threads.map(({ hex }) => hex);
    const isFilled = ground >= 0;
    const below: Layer[] = isFilled ? [groundRows(plate, ground, values.angle + 90, trimOverMm)] : [];
    const layers = yield* inkLayers(plate, {
      ...values,
      first: values.first === 'listed' ? 'listed' : 'light',
      // A ground is the last of the threads.
      hexes: isFilled ? hexes.slice(0, ground) : hexes,
      groundHex: isFilled ? hexes[ground] : clothHex,
      trimOverMm,
    });
    return {
      layers: [...below, ...layers].filter(({ runs }) => runs.length > 0),
      problems: hiddenFaces(favoured, values.spacingMm),
    };
  },
});

import { characterOf } from '../colour/suggest.js';
import { fromHex, toHex } from '../colour/srgb.js';
import { seededRandom } from '../geometry/chance.js';
import { createRaster, type Raster } from '../picture/raster.js';
import { drawSmooth, flatScene } from '../test/draw.js';
import type { Anchor, ColourDecision } from './colour-decisions.js';
import { labelPicture, plainLabelSettings, type LabelMap } from './labels.js';

/** A picture with soft ramps and noise. */
function photo(seed: number): Raster {
  const random = seededRandom(seed);
  const raster = createRaster(120, 90);
  const [a, b, c] = [random(), random(), random()];
  for (let i = 0; i < 120 * 90; i++) {
    const x = i % 120;
    const y = Math.floor(i / 120);
    const n = (random() - 0.5) * 20;
    raster.data.set([60 + x * a + n, 40 + y * 1.8 * b + n, 190 - (x + y) * 0.6 * c + n, 255], i * 4);
  }
  return raster;
}

const someAnchor = (map: LabelMap, random: () => number): Anchor => {
  const info = map.infos[Math.floor(random() * map.infos.length)];
  const roll = random();
  if (roll < 0.6 || info.shades.length === 0) return info.anchor;
  if (roll < 0.85) return info.shades[Math.floor(random() * info.shades.length)].anchor;
  // Something that is nowhere in the picture.
  return {
    hex: toHex({ r: random() * 255, g: random() * 255, b: random() * 255 }),
    u: random() * 2 - 0.5,
    v: random(),
  };
};

function someDecision(map: LabelMap, random: () => number): ColourDecision {
  const at = someAnchor(map, random);
  switch (Math.floor(random() * 5)) {
    case 0:
      return { kind: 'merge', at, into: someAnchor(map, random) };
    case 1:
      return { kind: 'move', at, into: someAnchor(map, random) };
    case 2:
      return { kind: 'split', at };
    case 3:
      return { kind: 'rank', at, before: someAnchor(map, random) };
    default:
      return { kind: 'pin', at };
  }
}

describe('any row of decisions on colours', () => {
  const pictures = [
    photo(1),
    photo(2),
    ...[5, 8].map((n) => {
      const { scene, palette } = flatScene(120, n, 40 + n);
      return drawSmooth(scene, palette, 120, 120).raster;
    }),
  ];

  pictures.forEach((raster, which) => {
    it(`leaves picture ${which + 1} whole: every pixel in one colour, every shade in one group`, () => {
      const random = seededRandom(100 + which);
      const character = characterOf(raster);
      for (let round = 0; round < 5; round++) {
        const count = 2 + Math.floor(random() * 9);
        const settings = { ...plainLabelSettings(raster, count, 1) };
        let map = labelPicture(raster, character, settings);
        const decisions: ColourDecision[] = [];
        for (let step = 0; step < 6; step++) {
          decisions.push(someDecision(map, random));
          const pinned = decisions.filter((d) => d.kind === 'pin').map((d) => fromHex(d.at.hex));
          const given = { ...settings, decisions, pinned };
          map = labelPicture(raster, character, given);
          const said = JSON.stringify(decisions);
          expect(map.labels.every((l) => l >= 1 && l <= map.palette.length))
            .withContext(said)
            .toBeTrue();
          expect(map.infos.length).withContext(said).toBe(map.palette.length);
          expect(map.lost.every((i) => i >= 0 && i < decisions.length))
            .withContext(said)
            .toBeTrue();
          const shades = map.infos.flatMap((info, i) => (i + 1 === map.ground ? [] : info.shades.map((s) => s.index)));
          expect(new Set(shades).size).withContext(said).toBe(shades.length);
          // The same words give the same picture.
          expect(labelPicture(raster, character, given).labels).toEqual(map.labels);
        }
      }
    });
  });
});

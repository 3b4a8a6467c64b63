import type { OldRecipe } from './old-recipe.js';

/** Recipes as version 1 wrote them. */
export const VERSION_1: readonly OldRecipe[] = [
  {
    name: 'plain',
    version: 1,
    picture: 'flat',
    recipe: {
      version: 1,
      picture: {
        widthMm: 59.99999999999999,
        heightMm: 59.99999999999999,
        dropGround: true,
      },
      colours: {
        count: 'auto',
        charts: [],
        smallestSpotMm2: 0.4,
      },
      pieces: {
        strictnessMm: 0.04,
        cornerSharpness: 1,
        smallestMm2: 0.6,
        lineBelowMm: 0.9,
      },
      stitches: {
        fabric: 'quilting-cotton',
        spacingMm: 0.4,
        angle: 20,
        angleStep: 35,
        fillStitchMm: 3.6,
        runStitchMm: 2.5,
      },
      order: {
        needles: 1,
        trimOverMm: 3,
      },
      clothHex: '#f4f1ea',
    },
    stitches: 2037,
    threads: ['#6e4ac7', '#49ff37', '#782a67', '#aa07f9'],
    sum: '0d04e10a17f57663eea07d10e61fd27b',
  },
];

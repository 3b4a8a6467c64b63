import type { OldRecipe } from './old-recipe.js';

/** Recipes as version 2 wrote them. */
export const VERSION_2: readonly OldRecipe[] = [
  {
    name: 'mask, light and decisions',
    version: 2,
    picture: 'flat',
    recipe: {
      version: 2,
      picture: {
        widthMm: 59.99999999999999,
        heightMm: 59.99999999999999,
        turn: 12,
        mirror: true,
        mask: {
          shape: 'circle',
          x: 1,
          y: -2,
          widthMm: 50,
          heightMm: 50,
          turn: 0,
        },
        keptMasks: [],
        dropGround: false,
        groundHex: null,
        groundTolerance: 3,
        groundEverywhere: false,
      },
      light: {
        noise: 0,
        black: 0,
        white: 255,
        gamma: 1,
        brightness: 0,
        contrast: 12,
        warmth: 0,
        saturation: 10,
        sharpness: 0,
        tone: 'colour',
        threshold: 128,
      },
      colours: {
        count: 'auto',
        charts: [],
        stashOnly: false,
        distinct: true,
        smallestSpotMm2: 0.4,
        decisions: [
          {
            kind: 'merge',
            at: {
              hex: '#782a67',
              u: 0.59089,
              v: 0.21775,
            },
            into: {
              hex: '#6e4ac7',
              u: 0.31391,
              v: 0.33514,
            },
          },
          {
            kind: 'bare',
            at: {
              hex: '#49ff37',
              u: 0.7674,
              v: 0.53667,
            },
          },
        ],
      },
      pieces: {
        strictnessMm: 0.04,
        cornerSharpness: 1,
        smallestMm2: 0.6,
        lineBelowMm: 0.9,
        decisions: [
          {
            kind: 'bare',
            at: {
              hex: '#6e4ac7',
              u: 0.311705,
              v: 0.345497,
              share: 0.093905,
            },
          },
          {
            kind: 'sew',
            at: {
              hex: '#782a67',
              u: 0.588371,
              v: 0.229585,
              share: 0.117413,
            },
            as: 'tatami',
            passes: 0,
          },
          {
            kind: 'order',
            at: {
              hex: '#faf6ec',
              u: 0.217992,
              v: 0.589976,
              share: 0.359927,
            },
            before: 'last',
          },
          {
            kind: 'thread',
            at: {
              hex: '#49ff37',
              u: 0.762364,
              v: 0.560344,
              share: 0.089221,
            },
            to: {
              hex: '#336699',
            },
          },
        ],
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
    stitches: 2119,
    threads: ['#ffffff', '#6f39f3', '#d000ff', '#996ff7'],
    sum: 'cb5913b10c2420273f971d9d3d89aba5',
  },
];

import type { OldRecipe } from './old-recipe.js';

/** Recipes as version 4 wrote them. */
export const VERSION_4: readonly OldRecipe[] = [
  {
    name: 'stitch choices, guides and a gradient',
    version: 4,
    picture: 'flat',
    recipe: {
      version: 4,
      picture: {
        widthMm: 70,
        heightMm: 70,
        turn: 0,
        mirror: false,
        mask: null,
        keptMasks: [],
        dropGround: true,
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
        contrast: 0,
        warmth: 0,
        saturation: 0,
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
        decisions: [],
      },
      pieces: {
        strictnessMm: 0.04,
        cornerSharpness: 1,
        smallestMm2: 0.6,
        lineBelowMm: 0.9,
        satinBelowMm: 5,
        keepBelowMm: 4,
        decisions: [
          {
            kind: 'gradient',
            at: {
              hex: '#49ff37',
              u: 0.776515,
              v: 0.570455,
              share: 0.109372,
            },
            fill: {
              id: 'g1',
              shape: 'linear',
              way: [0.5765149999999999, 0.47045500000000007, 0.976515, 0.670455],
              stops: [
                {
                  at: 0,
                  paint: {
                    hex: '#2244aa',
                  },
                },
                {
                  at: 0.6,
                  paint: {
                    hex: '#ddbb33',
                  },
                },
                {
                  at: 1,
                  paint: {
                    bare: true,
                  },
                },
              ],
              layers: 'over',
            },
          },
          {
            kind: 'stitch',
            at: {
              hex: '#782a67',
              u: 0.587121,
              v: 0.22803,
              share: 0.081826,
            },
            set: {
              spacingMm: 0.5,
              angle: 70,
            },
          },
          {
            kind: 'guides',
            at: {
              hex: '#6e4ac7',
              u: 0.309848,
              v: 0.344697,
              share: 0.065553,
            },
            lines: [[0.209848, 0.344697, 0.309848, 0.294697, 0.409848, 0.344697]],
          },
          {
            kind: 'entry',
            at: {
              hex: '#782a67',
              u: 0.587121,
              v: 0.22803,
              share: 0.081826,
            },
            u: 0.587121,
            v: 0.22803,
          },
          {
            kind: 'sew',
            at: {
              hex: '#6e4ac7',
              u: 0.309848,
              v: 0.344697,
              share: 0.065553,
            },
            as: 'turning',
            passes: 0,
          },
        ],
        drawn: [],
      },
      stitches: {
        fabric: 'pique',
        spacingMm: 0.4,
        angle: 20,
        angleStep: 35,
        fillStitchMm: 3.6,
        runStitchMm: 2.5,
        satinSpacingMm: 0.4,
        pattern: 'third',
        corners: 'round',
        compensationMm: null,
        overlapMm: null,
      },
      order: {
        needles: 6,
        trimOverMm: 3,
        hideTravel: true,
      },
      clothHex: '#f4f1ea',
    },
    stitches: 2367,
    threads: [
      '#6e4ac7',
      '#782a67',
      '#aa07f9',
      '#9175d0',
      '#75fd64',
      '#cef8bf',
      '#b4a0da',
      '#be43f6',
      '#2244aa',
      '#ddbb33',
    ],
    sum: '2a2493c8a3e71723e2381d0182d30aa8',
  },
];

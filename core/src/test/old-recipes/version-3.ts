import type { OldRecipe } from './old-recipe.js';

/** Recipes as version 3 wrote them. */
export const VERSION_3: readonly OldRecipe[] = [
  {
    name: 'drawings',
    version: 3,
    picture: 'flat',
    recipe: {
      version: 3,
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
            kind: 'hidden',
            at: {
              hex: '#49ff37',
              u: 0.776515,
              v: 0.570455,
              share: 0.109372,
            },
            cut: false,
          },
          {
            kind: 'order',
            at: {
              drawn: 'd1',
            },
            before: 'first',
          },
          {
            kind: 'apart',
            at: {
              hex: '#782a67',
              u: 0.587121,
              v: 0.22803,
              share: 0.081826,
            },
          },
        ],
        drawn: [
          {
            id: 'd1',
            role: 'piece',
            paths: [
              {
                closed: true,
                nodes: [
                  [0.3, 0.3, 0, 0, 0, 0],
                  [0.55, 0.32, 0, 0, 0, 0],
                  [0.5, 0.6, 0, 0, 0, 0],
                ],
              },
            ],
            widthMm: 0.8,
            as: 'auto',
            passes: 0,
            paint: {
              hex: '#c8481f',
            },
            copies: {
              count: 1,
              radiusMm: 15,
            },
            replaces: null,
          },
          {
            id: 'd2',
            role: 'piece',
            paths: [
              {
                closed: false,
                nodes: [
                  [0.1, 0.1, 0, 0, 0, 0],
                  [0.4, 0.2, 0, 0, 0, 0],
                  [0.8, 0.15, 0, 0, 0, 0],
                ],
              },
            ],
            widthMm: 1.4,
            as: 'auto',
            passes: 0,
            paint: {
              like: {
                hex: '#6e4ac7',
                u: 0.31136,
                v: 0.31894,
              },
            },
            copies: {
              count: 1,
              radiusMm: 15,
            },
            replaces: null,
          },
          {
            id: 'd3',
            role: 'hole',
            paths: [
              {
                closed: true,
                nodes: [
                  [0.6, 0.6, 0, 0, 0, 0],
                  [0.7, 0.6, 0, 0, 0, 0],
                  [0.7, 0.72, 0, 0, 0, 0],
                  [0.6, 0.72, 0, 0, 0, 0],
                ],
              },
            ],
            widthMm: 0.8,
            as: 'auto',
            passes: 0,
            paint: {
              hex: '#c8481f',
            },
            copies: {
              count: 1,
              radiusMm: 15,
            },
            replaces: null,
          },
          {
            id: 'd4',
            role: 'piece',
            paths: [
              {
                closed: true,
                nodes: [
                  [0.2, 0.7, 0, 0, 0, 0],
                  [0.3, 0.7, 0, 0, 0, 0],
                  [0.25, 0.85, 0, 0, 0, 0],
                ],
              },
            ],
            widthMm: 0.8,
            as: 'auto',
            passes: 0,
            paint: {
              hex: '#1a6b4c',
            },
            copies: {
              count: 1,
              radiusMm: 15,
            },
            replaces: {
              hex: '#aa07f9',
              u: 0.594697,
              v: 0.844697,
              share: 0.050246,
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
    stitches: 2918,
    threads: [
      '#6e4ac7',
      '#49ff37',
      '#782a67',
      '#aa07f9',
      '#9175d0',
      '#75fd64',
      '#cef8bf',
      '#b4a0da',
      '#be43f6',
      '#c8481f',
      '#1a6b4c',
    ],
    sum: '5a9ee8464388f5b9f54fec082c43669a',
  },
];

export { makeArtwork } from './artwork/make-artwork.js';
export { CHART_PLANS, chartGaps, makeChart } from './charts/make-charts.js';
export { seedSamples } from './seed.js';

import { METRIC } from '../colour/colour-metric.js';
import { seededChance } from '../test/chance.js';

// What other subjects may know of this one.
export { fitnessOf, meterAdded, meterCalibrated } from './meters.js';
export { phRead, temperatureRead } from './readings.js';
export { checkMade, planChanged, readySaid, roundQuieted, tasted, titrated } from './rounds.js';

// What other subjects may know of this one.
export { holdAnew, holdLift, holdPlace, holdRuled, placeHold } from './holds.js';

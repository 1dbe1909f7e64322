// What other subjects may know of this one.
export { personAdd, personChanged, personLeave } from './people.js';
export { personTrained, refuseUntrained } from './training.js';

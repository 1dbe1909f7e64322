// What other subjects may know of this one.
export { personAdd, personLeave } from './people.js';

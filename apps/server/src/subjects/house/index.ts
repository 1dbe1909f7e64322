// What other subjects may know of this one.
export { houseFound, houseRuled, houseSet, roomAdd, roomChanged } from './house.js';

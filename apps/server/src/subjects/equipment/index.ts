// What other subjects may know of this one.
export { cleaningWords, equipmentCleaned, refuseOldSanitiser, sanitiserChecked, sanitiserMixed } from './cleaning.js';
export { equipmentAdded, equipmentChanged, equipmentChecked } from './equipment.js';

export * from './countsAs.js';
export * from './atDoor.js';
export * from './keeping.js';
export * from './count.js';
export * from './deliveryList.js';
export * from './amount.js';
export * from './red.js';
export * from './starterMaterials.js';

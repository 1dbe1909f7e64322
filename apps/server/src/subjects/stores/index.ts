// What other subjects may know of this one.
export { deliveryReceived, stockCounted, supplierAdd, supplyReceive, supplyStated } from './stores.js';

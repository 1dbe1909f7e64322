// What other subjects may know of this one.
export { customerAdded, customerChanged } from './customers.js';
export { jarsCameBack, jarsDispatched, jarsGone, jarsLeft, jarsMoved } from './dispatch.js';

export { orderClosed, orderTaken } from './orders.js';

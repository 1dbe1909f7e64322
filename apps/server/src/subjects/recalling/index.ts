// What other subjects may know of this one.
export { recallAnswered, recallClosed, recallNoticed, recallOpened } from './recalling.js';

// What other subjects may know of this one.
export { complaintClosed, complaintTaken } from './complaints.js';

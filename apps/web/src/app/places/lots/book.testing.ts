import type { BookLine } from '@clear-tally/contract';

/** A line of a book as it is read: a pH of a vessel. */
export const line = (more: Partial<BookLine>): BookLine => ({
  entryId: '018f6b1e-0000-7000-8000-0000000000b1',
  seq: 1,
  kind: 'ph.read',
  at: '2026-11-20T08:26:00Z',
  recordedAt: '2026-11-20T08:26:00Z',
  by: 'TR',
  what: 'pH',
  figure: '4.71',
  struck: [],
  words: 'blended sample',
  struckOut: false,
  correctable: true,
  value: 4.71,
  sample: 'brine',
  lotCode: 'NY26-309-A-C2',
  ...more,
});

import type { EquipmentReply } from '@clear-tally/contract';

/** A tool nobody has looked at yet. */
export const aPiece = (
  tag: string,
  more: Partial<EquipmentReply['equipment'][number]> = {},
): EquipmentReply['equipment'][number] => ({
  id: `018f6b1e-0000-7000-8000-${[...tag]
    .map((one) => one.charCodeAt(0).toString(16))
    .join('')
    .padStart(12, '0')}`,
  kind: 'tool',
  tag,
  name: 'Shredder',
  roomId: null,
  room: null,
  capacityGrams: null,
  stepGrams: null,
  count: null,
  words: null,
  inUse: true,
  checkedAt: null,
  checkedWords: null,
  checkPassed: null,
  due: null,
  cleaned: null,
  history: [],
  weighed: { times: 0, lots: [] },
  ...more,
});

import type { PackableReply } from '@clear-tally/contract';
import { lacking, NOTHING_MORE, packedWith, readDays, readFigures } from './pack-more';

const fill = (lotId: string, weightsIn: number) => ({ lotId, weightsIn }) as PackableReply['fills'][number];
const clear = { ...NOTHING_MORE, cleared: true };
const lacks = (more: typeof NOTHING_MORE, emptied: readonly string[]): unknown[] =>
  lacking(more, [fill('a', 3)], emptied, 'point').filter(Boolean);

describe('beside the jars', () => {
  it('weights of a vessel that is emptied are counted out: not counted is not there', () => {
    expect(lacks(clear, ['a'])).toEqual(['the weights, counted out']);
    expect(lacks(clear, [])).toEqual([]);
    expect(lacks({ ...clear, weightsOut: { a: 3 } }, ['a'])).toEqual([]);
    expect(lacks({ ...clear, weightsOut: { a: 2 } }, ['a'])).toEqual(['where the weights are']);
    expect(lacks({ ...clear, weightsOut: { a: 2 }, weightsReason: 'broken' }, ['a'])).toEqual([]);
  });
  it('nobody packs before the line is said to be clear', () =>
    expect(lacks(NOTHING_MORE, [])).toEqual(['that the line is clear']));
  it('weights are read with the mark of the house; what is no figure goes nowhere', () => {
    expect(readFigures('318 322,5 320', 'comma')).toEqual([318, 322.5, 320]);
    expect(readFigures('318 light 320', 'point')).toBeNull();
    expect(readDays('90, 180')).toEqual([90, 180]);
    expect(readDays('soon')).toBeNull();
    expect(packedWith({ ...clear, weights: { 330: '318 light' } }, 'point', {})).toEqual({ cleared: true });
  });
});

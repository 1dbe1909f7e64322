import { ENTRY_KINDS, PROBLEM_CODES, entrySchema } from '../src/index.js';

const entry = (body: object, more: object = {}) => ({
  id: '018f6b1e-0000-7000-8000-000000000001',
  kind: 'ph.read',
  happenedAt: '2026-11-23T08:00:00+01:00',
  by: '018f6b1e-0000-7000-8000-000000000002',
  device: 'tablet',
  body,
  ...more,
});
const reading = { lotId: '018f6b1e-0000-7000-8000-000000000003', ph: 3.71, sample: 'blended' };

describe('the shape of an entry', () => {
  it('a pH reading, with the offset of its clock kept', () =>
    expect(entrySchema.parse(entry(reading)).happenedAt).toBe('2026-11-23T08:00:00+01:00'));
  it('refuses fields nobody asked for: nothing is silently dropped', () => {
    expect(entrySchema.safeParse(entry({ ...reading, millilitres: 60 })).success).toBeFalse();
    expect(entrySchema.safeParse(entry(reading, { note: 'x' })).success).toBeFalse();
  });
  it('refuses a kind that does not exist, an id that is none, a time without offset', () => {
    expect(entrySchema.safeParse(entry(reading, { kind: 'jar.smash' })).success).toBeFalse();
    expect(entrySchema.safeParse(entry(reading, { id: '7' })).success).toBeFalse();
    expect(entrySchema.safeParse(entry(reading, { happenedAt: '2026-11-23 08:00' })).success).toBeFalse();
  });
  it('names each kind once', () => expect(new Set(ENTRY_KINDS).size).toBe(ENTRY_KINDS.length));
  it('names each problem once', () => expect(new Set(PROBLEM_CODES).size).toBe(PROBLEM_CODES.length));
});

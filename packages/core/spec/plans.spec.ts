import { type Form, planFor } from '../src/index.js';

describe('the plan a product starts from', () => {
  // First tasting, and whether its level is looked at and it is pressed down. Source: handbook 3.1.
  const TABLE: [Form, number, boolean][] = [
    ['sticks', 3, true],
    ['leaf', 3, true],
    ['wholeSmall', 7, true],
    ['shred', 14, true],
    ['cloves', 14, true],
    ['berries', 7, false],
  ];
  for (const [form, taste, open] of TABLE)
    it(`of ${form}: tasted first on day ${taste}${open ? '' : ', nothing to press in a bag'}`, () => {
      const plan = planFor(form);
      const of = (what: string) => plan.find((check) => check.what === what);
      expect(of('taste')!.rule).toEqual({ kind: 'onDays', days: [taste], thenEveryDays: null });
      expect(of('ph')!.rule).toEqual({ kind: 'onDays', days: [1, 2, 3, 5, 7], thenEveryDays: 7 });
      expect([of('level') !== undefined, of('press') !== undefined]).toEqual([open, open]);
    });
});

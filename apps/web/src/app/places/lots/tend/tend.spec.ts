import { TestBed } from '@angular/core/testing';
import type { Type } from '@angular/core';
import { usualChecks } from '@clear-tally/core';
import type { SuppliesReply, WatchReply } from '@clear-tally/contract';
import { FakeApi, inHouse, ODILE, within } from '../../../state/testing';
import { Conditions } from '../conditions';
import { Holds } from '../holds';
import { Sisters } from '../sisters';
import { Care } from './care';
import { Measure } from './measure';
import { PlanForm } from './plan-form';
import { ReadyForm } from './ready-form';
import { TasteForm } from './taste-form';
import { ThrowOut } from './throw-out';
import { TopUp } from './top-up';

const LOT = '018f6b1e-0000-7000-8000-0000000000c2';
const SALT = '018f6b1e-0000-7000-8000-0000000000a1';
const WATER = '018f6b1e-0000-7000-8000-0000000000a2';
const supply = (lotId: string, materialName: string): SuppliesReply => ({
  lots: [
    {
      lotId,
      code: 'SP-0001',
      materialId: lotId,
      materialName,
      supplierName: null,
      supplierLotCode: null,
      onHandGrams: 9000,
      receivedAt: '2026-11-01T09:00:00Z',
      useBy: null,
      hold: null,
      until: null,
      keeps: 'noDate',
      days: null,
      state: 'asReceived',
      unit: 'g',
      standsFor: null,
    },
  ],
});

describe('tending a vessel', () => {
  let api: FakeApi;
  const open = async <T>(component: Type<T>, inputs: object, person?: typeof ODILE) => {
    api = new FakeApi({
      '/api/supplies?kind=salt': supply(SALT, 'Coarse pan salt'),
      '/api/supplies?kind=water': supply(WATER, 'Tap water'),
    });
    inHouse(api, {}, person);
    const fixture = TestBed.createComponent(component);
    for (const [key, value] of Object.entries(inputs)) fixture.componentRef.setInput(key, value);
    await fixture.whenStable();
    return {
      page: within(fixture),
      component: fixture.componentInstance as never as Record<string, { set(value: unknown): void }>,
      settle: () => fixture.whenStable(),
    };
  };

  it('W8: 900 g that ran over are 21.0 g salt in 879 g water; plain water would give 2.25 %', async () => {
    const { page, component, settle } = await open(TopUp, {
      lotId: LOT,
      phase: { saltGrams: 572, waterGrams: 23_920 },
    });
    await page.type('Lost', '900');
    expect(page.text()).toContain(
      '21.0 g salt in 879 g water restores 2.34 % water-phase salt. Plain water alone would give 2.25 %',
    );
    component['salt']!.set(SALT);
    component['water']!.set(WATER);
    await settle();
    await page.press('Top up with 900 g');
    expect(api.sent[0]![0]!.body).toEqual({
      lotId: LOT,
      how: 'overflow',
      lostGrams: 900,
      saltLotId: SALT,
      saltGrams: 21,
      waterLotId: WATER,
      waterGrams: 879,
    });
  });
  it('W8: what evaporated wants water alone', async () => {
    const { page } = await open(TopUp, { lotId: LOT, phase: { saltGrams: 572, waterGrams: 23_920 } });
    await page.press('It evaporated');
    await page.type('Lost', '900');
    expect(page.text()).toContain('0.0 g salt in 900 g water');
    expect(page.text()).not.toContain('Salt from');
  });
  it('plain water that thins it under 1.5 % wants a reviewer’s reason', async () => {
    const { page } = await open(TopUp, { lotId: LOT, phase: { saltGrams: 31, waterGrams: 1970 } });
    await page.type('Lost', '200');
    await page.press('With plain water');
    expect(page.text()).toContain(
      'It would stand at 1.39 %, weak. It is thinned so only with a reviewer’s written reason',
    );
    expect(page.button('Top up with').disabled).toBeTrue();
  });
  it('where nobody knows what went in, no strength is invented', async () =>
    expect((await open(TopUp, { lotId: LOT, phase: null })).page.text()).toContain('is not known'));

  it('nobody tastes while it is not to be tasted', async () => {
    const { page } = await open(TasteForm, { lotId: LOT, why: 'tasting opens at pH 4.6 or lower' });
    expect(page.text()).toContain('Not now: tasting opens at pH 4.6 or lower');
    expect(page.button('Taste signed off')).toBeUndefined();
  });
  it('a tasting on its scale, signed off', async () => {
    const { page } = await open(TasteForm, { lotId: LOT, why: null });
    page.element.querySelectorAll<HTMLElement>('[aria-label=Sour] label')[3]!.click();
    await page.type('Off-notes', 'a little yeast');
    await page.press('Taste signed off');
    expect(api.sent[0]![0]!.body).toEqual(
      jasmine.objectContaining({
        marks: { salt: null, sour: 3, fizz: null, crunch: null, heat: null },
        offNotes: 'a little yeast',
        says: 'signedOff',
        grams: 0,
      }),
    );
  });
  it('8.6 mL of 0.1 N on 10 g are 0.77 %, with the working shown', async () => {
    const { page } = await open(Measure, { lotId: LOT });
    await page.type('Lye used', '8.6');
    await page.type('Sample', '10');
    expect(page.text()).toContain('8.6 × 0.1 × 0.09008 × 100 / 10 = 0.775 %');
    await page.press('Record 0.77 % lactic acid');
    expect(api.sent[0]![0]!.kind).toBe('acid.titrate');
  });
  it('what a hand does on the way counts, by what its closure has', async () => {
    const { page } = await open(Care, { lotId: LOT, closure: 'sealed' });
    expect(page.button('Airlock refilled')).toBeUndefined();
    await page.type('Note', 'a strong hiss');
    await page.press('Burped, gas');
    expect(api.sent[0]![0]!.body).toEqual({
      lotId: LOT,
      what: 'burp',
      words: null,
      quiet: false,
      note: 'a strong hiss',
    });
    expect(page.text()).toContain('It stands in the book.');
  });
  it('a plan is changed with its reason, for the vessel or its batch', async () => {
    const { page } = await open(PlanForm, { lotId: LOT, batchId: SALT, plan: usualChecks(7) });
    expect(page.button('For the whole batch').disabled).toBeTrue();
    await page.type('Why it is changed', 'looked at more often');
    await page.press('For this vessel');
    expect(api.sent[0]![0]!.body).toEqual(jasmine.objectContaining({ lotId: LOT, reason: 'looked at more often' }));
  });
  it('ready is said with what is not met beside it', async () => {
    const { page } = await open(ReadyForm, {
      lotId: LOT,
      ready: false,
      conditions: [{ words: 'taste signed off', state: 'open', now: 'not yet' }],
    });
    expect(page.text()).toContain('taste signed off (not yet)');
    await page.press('It is ready all the same');
    expect(api.sent[0]![0]!.body).toEqual({ lotId: LOT, ready: true, note: null });
  });
  it('throwing out wants its cause', async () => {
    const { page } = await open(ThrowOut, { lotId: LOT, code: 'C2', grams: 3066 });
    expect(page.button('Throw out').disabled).toBeTrue();
    await page.type('Cause', 'mould');
    await page.press('Throw out');
    expect(api.sent[0]![0]!.body).toEqual({ lotId: LOT, cause: 'mould', note: null });
  });

  const held = (rule: WatchReply['holds'][number]['rule'], mayLift: string | null) => ({
    watch: {
      lotId: LOT,
      holds: [{ entryId: SALT, rule, reason: 'too late', placedAt: 0, further: false, mayLift }],
      pastHolds: [],
    },
  });
  it('a lateness hold says what ends it; nobody is offered a way to lift it before that', async () => {
    const { page } = await open(Holds, held('late', 'A lateness hold ends on two blended readings.'), ODILE);
    expect(page.text()).toContain('two blended readings');
    expect(page.button('Lift')).toBeUndefined();
  });
  it('a hold that may end is ended by a reviewer, not by a maker', async () => {
    const { page } = await open(Holds, held('late', null));
    expect(page.text()).toContain('A reviewer may end it now');
    expect(page.button('Lift')).toBeUndefined();
  });
  it('a reviewer lifts one hold of several, in writing', async () => {
    const { page } = await open(Holds, held('finding', null), ODILE);
    await page.press('Lift the hold');
    await page.type('Why the hold can be lifted', 'a petal');
    await page.press('Lift this hold');
    expect(api.sent[0]![0]!.body).toEqual({ lotId: LOT, reason: 'a petal', holdId: SALT });
  });
  it('what is to be thrown out is not lifted by anybody', async () => {
    const { page } = await open(
      Holds,
      held('throwOut', 'throw it out, with a record. Adding acid does not save it.'),
      ODILE,
    );
    expect(page.button('Lift')).toBeUndefined();
    expect(page.text()).toContain('Adding acid does not save it');
  });
  it('conditions say met or not met to those who listen, too', async () =>
    expect(
      (
        await open(Conditions, {
          conditions: [
            { words: 'pH not rising', state: 'met', now: 'steady' },
            { words: 'No hold on it', state: 'hold', now: 'film' },
          ],
        })
      ).page.text(),
    ).toBe('met: pH not risingsteadynot met: No hold on itfilm'));
  it('the odd one of a batch is named beside its sisters', async () =>
    expect(
      (
        await open(Sisters, {
          code: 'C1',
          sisters: [
            {
              code: 'C1',
              vesselTag: 'C1',
              ph: 3.7,
              at: 0,
              counts: true,
              celsius: 14,
              odd: false,
              hold: false,
              closed: false,
            },
            {
              code: 'C2',
              vesselTag: 'C2',
              ph: 4.1,
              at: 0,
              counts: false,
              celsius: null,
              odd: true,
              hold: false,
              closed: false,
            },
          ],
        })
      ).page.text(),
    ).toContain('4.10 Thu 1 Jan 1970 00:00, does not count –stands apart'));
});

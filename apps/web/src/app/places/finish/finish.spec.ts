import { TestBed } from '@angular/core/testing';
import { type Finish as FinishKind, finishSheet, NOTHING_IN } from '@clear-tally/core';
import type { FinishReply, SuppliesReply } from '@clear-tally/contract';
import { Timers } from '../../state/timers';
import { FakeApi, inHouse, INES, INSPECTOR, within } from '../../state/testing';
import { Finish } from './finish';

const CODE = 'NY26-300-A-P1';
const id = (end: string): string => `018f6b1e-0000-7000-8000-0000000000${end}`;
const at = '2026-11-26T06:40:00Z';

const lot = (end: string, materialName: string, standsFor: SuppliesReply['lots'][number]['standsFor']) => ({
  lotId: id(end),
  code: `LM-00${end}`,
  materialId: id(`f${end.slice(1)}`),
  materialName,
  supplierName: 'Low Mill Spices',
  supplierLotCode: 'LMS/1',
  onHandGrams: 4000,
  receivedAt: at,
  useBy: null,
  hold: null,
  until: null,
  keeps: 'noDate' as const,
  days: null,
  state: 'asReceived' as const,
  unit: 'g' as const,
  standsFor,
});

const finish = (what: FinishKind, more: Partial<FinishReply> = {}): FinishReply => ({
  lotId: id('aa'),
  code: CODE,
  name: 'Physalis and lovage sauce',
  what,
  batchCode: 'NY26-300-A',
  vesselTag: 'P1',
  beganAt: at,
  closedAt: null,
  steps: finishSheet(what).map((step) => ({
    ...step,
    state: step.key === 'drain' ? ('done' as const) : ('open' as const),
    labourMinutes: null,
    by: null,
    at: null,
    note: null,
    unchecked: [],
    begunBy: [],
    open: null,
  })),
  parts: [
    {
      entryId: id('01'),
      lotId: id('bb'),
      code: 'NY26-300-A-D5',
      name: 'Sauce',
      as: 'product',
      grams: 9000,
      at,
      by: 'TR',
    },
  ],
  onHandGrams: 9000,
  contents: { ...NOTHING_IN, grams: 9000, waterGrams: 8100, saltGrams: 199, vegetableGrams: 9000 },
  salt: { waterPhase: 0.024, ofEverything: 0.022, ofVegetable: 0.022, band: 'usual' },
  productGrams: 9000,
  sources: [
    {
      lotId: id('bb'),
      code: 'NY26-300-A-D5',
      onHandGrams: 3000,
      closed: false,
      contents: { ...NOTHING_IN, grams: 3000, waterGrams: 2928, saltGrams: 72 },
      ph: 3.6,
    },
  ],
  sourcePh: 3.6,
  brines: [],
  byProducts: [],
  dried: null,
  restarts: [],
  lostGrams: 0,
  gate: [{ key: 'pair', words: 'pH', state: 'open', now: 'not read yet', says: 'It is finished and not read.' }],
  lastPh: null,
  usual: { brine: null, vinegar: null, thickener: { from: 0.0012, to: 0.0018, lots: 3 }, lost: null },
  jarSizes: [{ sizeMl: 150, fillGrams: 154.5 }],
  ...more,
});

describe('a finish', () => {
  const open = async (reply: FinishReply, step: string, person: typeof INES | typeof INSPECTOR = INES) => {
    const api = new FakeApi({
      [`/api/finishes/${CODE}`]: reply,
      '/api/supplies': {
        lots: [
          lot('51', 'Black pepper', null),
          lot('52', 'Cider vinegar, 5 %', 'vinegar'),
          lot('53', 'Guar, ground', 'thickener'),
        ],
      },
      '/api/timers': { now: at, timers: [] },
      '/api/supplies?kind=water': { lots: [lot('54', 'Mains water', null)] },
      '/api/supplies?kind=salt': { lots: [lot('55', 'Coarse pan salt', null)] },
    });
    inHouse(api, {}, person, [Timers]);
    const fixture = TestBed.createComponent(Finish);
    fixture.componentRef.setInput('code', CODE);
    fixture.componentRef.setInput('step', step);
    await fixture.whenStable();
    await fixture.whenStable();
    return { ...within(fixture), api };
  };
  const body = (page: { api: FakeApi }) => page.api.sent.at(-1)![0]!.body as unknown as Record<string, unknown>;

  it('W15: fresh brine as strong as the product leaves its salt and thins its acid to 0.73, said before it is poured', async () => {
    const brine = { lotId: id('cc'), code: 'NY26-300-A-b2', boiled: false, onHandGrams: 3000, boiledOffGrams: null };
    const ready = { ...NOTHING_IN, grams: 3000, waterGrams: 2928, saltGrams: 72 };
    const page = await open(finish('repack', { brines: [{ ...brine, contents: ready }] }), 'pour');
    await page.type('On the scale', '3');
    expect(page.text()).toContain('2.40 % → 2.40 %');
    expect(page.text()).toContain('0.73');
    expect(page.text()).toContain('3.60 to 3.73');
    await page.press('Record 3,000 g fresh brine');
    expect(body(page)).toEqual({ finishLotId: id('aa'), fromLotId: id('cc'), grams: 3000, as: 'brine' });
  });
  it('plain water is 1.76 %: weak, and said so; its own brine thins nothing', async () => {
    const water = { ...NOTHING_IN, grams: 3000, waterGrams: 3000 };
    const of = { lotId: id('cc'), code: 'NY26-300-A-b2', boiled: false, onHandGrams: 3000, boiledOffGrams: null };
    const plain = await open(finish('repack', { brines: [{ ...of, contents: water }] }), 'pour');
    await plain.type('On the scale', '3');
    expect(plain.text()).toContain('2.40 % → 1.76 %');
    TestBed.resetTestingModule();
    const own = await open(finish('repack'), 'pour');
    await own.type('On the scale', '3');
    expect(own.text()).toContain('as sour as it is');
  });
  it('brine for a repack is proposed as strong as the product', async () => {
    const page = await open(finish('repack'), 'brine');
    await page.press('Fresh');
    await page.type('Brine wanted', '3');
    expect(page.text()).toContain('72 g salt in 2,928 g water');
    await page.type('Water, weighed', '2.928');
    await page.type('Salt, weighed', '72');
    await page.press('Record 3,000 g fresh brine');
    expect(body(page)).toEqual(
      jasmine.objectContaining({
        how: 'fresh',
        waterGrams: 2928,
        saltGrams: 72,
        waterLotId: id('54'),
        saltLotId: id('55'),
      }),
    );
  });
  it('what boils away raises the salt, and is said before it is recorded', async () => {
    const page = await open(finish('repack'), 'brine');
    await page.press('Its own, boiled');
    await page.type('Into the pot', '2');
    await page.type('Left, cooled, weighed', '1.6');
    expect(page.text()).toContain('400 g boils away: its salt goes from 2.40 % to 3.00 %');
    await page.press('Record 1,600 g boiled brine');
    expect(body(page)).toEqual(jasmine.objectContaining({ how: 'boiled', grams: 2000, leftGrams: 1600 }));
  });
  it('brine goes back in quarters; the thickener stands beside what the house has used', async () => {
    const page = await open(finish('sauce'), 'blend');
    expect(page.text()).toContain('788 g');
    expect(page.text()).toContain('3,150 g');
    expect(page.text()).toContain('wanted 788 g');
    TestBed.resetTestingModule();
    const thick = await open(finish('sauce'), 'thicken');
    expect(thick.text()).toContain('This house: 0.12 % to 0.18 % in 3 finishes. The trade: 0.10 % to 0.30 %.');
    expect(thick.text()).toContain('wanted 16.2 g');
    await thick.type('On the scale', '16');
    await thick.press('Record 16.0 g');
    expect(body(thick)).toEqual(jasmine.objectContaining({ fromLotId: id('53'), grams: 16, as: 'thickener' }));
  });
  it('the vinegar of the stores is proposed by what it stands for, and its strength is kept', async () => {
    const page = await open(finish('sauce'), 'vinegar');
    await page.type('Acetic acid, by its bottle', '5');
    await page.type('On the scale', '360');
    expect(page.text()).toContain('0.19 %');
    await page.press('Record 360 g');
    expect(body(page)).toEqual(
      jasmine.objectContaining({ fromLotId: id('52'), as: 'vinegar', strengthPercent: 5, grams: 360 }),
    );
  });
  it('W16: bottles missing on the table are counted before the first; unread it cannot be packed', async () => {
    const page = await open(finish('sauce', { onHandGrams: 25_226 }), 'balance');
    await page.type('Set out', '160');
    expect(page.text()).toContain('163');
    expect(page.text()).toContain('3 missing');
    expect(page.text()).toContain('It is finished and not read.');
    expect(page.text()).not.toContain('Pack it');
  });
  it('sugar, honey and fruit are asked for; what they do is said', async () => {
    const page = await open(finish('sauce', { restarts: ['Honey'] }), 'season');
    expect(page.text()).toContain('Honey starts it again.');
    await page.press('Sugar, honey or fruit');
    expect(page.text()).toContain('kept cold and opened on its days');
  });
  it('without a water activity it stays cold', async () => {
    const page = await open(finish('drying', { onHandGrams: 600 }), 'dry');
    await page.type('Temperature', '55');
    await page.type('Time', '9');
    await page.type('It weighs now', '90');
    expect(page.text()).toContain('it stays cold. 510 g of water goes, 85 %.');
    await page.press('Record 90 g dried');
    expect(body(page)).toEqual({ finishLotId: id('aa'), celsius: 55, hours: 9, leftGrams: 90, waterActivity: null });
  });
  it('an inspector reads it, and is offered nothing to record', async () => {
    const page = await open(finish('sauce'), 'blend', INSPECTOR);
    expect(page.text()).toContain('Your sign-in reads and records nothing.');
    expect(page.text()).not.toContain('On the scale');
  });
});

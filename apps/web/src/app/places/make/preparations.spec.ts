import { TestBed } from '@angular/core/testing';
import type { MakeReply } from '@clear-tally/contract';
import { House } from '../../state/house';
import { BrineLeft } from './brine-left';
import { PrepareStep } from './prepare-step';
import { RinseStep } from './rinse-step';
import { id, oneBatch, ofFill } from './one-batch.testing';
import { api, body, house, open } from './bench.testing';

describe('preparations', () => {
  it('a paste of weighed lots becomes a lot of its own; formula lines in it are settled', async () => {
    house();
    const page = await open(PrepareStep, { batch: oneBatch() });
    const step = page.fixture.componentInstance as unknown as { lotId: { set(value: string): void } };
    for (const [lot, grams] of [
      [id('60'), '96'],
      [id('61'), '720'],
    ] as const) {
      step.lotId.set(lot);
      await page.type('On the scale', grams);
      await page.press('Add');
    }
    expect(page.text()).toContain('Together816 g');
    await page.type('Boiled off', '16');
    await page.press('Make paste, 800 g');
    expect(body('preparation.make')).toEqual(
      jasmine.objectContaining({
        form: 'paste',
        name: 'Paste',
        boiledOffGrams: 16,
        parts: [
          { fromLotId: id('60'), grams: 96, line: 'line-0' },
          { fromLotId: id('61'), grams: 720, line: null },
        ],
      }),
    );
  });
  it('what was made for another batch goes into these bowls by weight', async () => {
    house({
      '/api/starters': {
        starters: [
          {
            lotId: id('77'),
            code: 'NY26-320-B-b2',
            name: 'Damson paste',
            kind: 'made',
            onHandGrams: 400,
            generation: null,
            useBy: null,
            lastPh: null,
            waterPhaseSalt: 0.02,
            refusal: null,
          },
        ],
      },
    });
    const page = await open(PrepareStep, { batch: oneBatch() });
    (page.fixture.componentInstance as unknown as { lotId: { set(value: string): void } }).lotId.set(id('77'));
    await page.type('On the scale', '250');
    await page.press('250 g into the bowls');
    expect(body('ingredient.add')).toEqual({ batchId: id('b1'), fromLotId: id('77'), grams: 250 });
  });
  it('parts weighed and not yet made outlive a reload of the page', async () => {
    localStorage.setItem(
      `ct.parts.${id('b1')}`,
      JSON.stringify([{ fromLotId: id('60'), label: 'LM-0060 Juniper berries', grams: 96, line: 'line-0' }]),
    );
    house();
    const page = await open(PrepareStep, { batch: oneBatch() });
    expect(page.text()).toContain('LM-0060 Juniper berries96 g');
    await page.press('Take it off the list');
    expect(localStorage.getItem(`ct.parts.${id('b1')}`)).toBeNull();
  });
  it('a woken culture opens its sachet and starts its clock', async () => {
    localStorage.setItem(
      `ct.parts.${id('b1')}`,
      JSON.stringify([
        { fromLotId: id('60'), label: 'LM-0060 Culture', grams: 1.4, line: null },
        { fromLotId: id('61'), label: 'tap', grams: 100, line: null },
      ]),
    );
    house();
    TestBed.inject(House)
      .house()!
      .materials.push({
        id: id('e2'),
        name: 'Culture',
        kind: 'starter',
        waterFraction: 0,
        saltFraction: 0,
        allergens: [],
        caution: null,
        details: { keepsOpenedDays: 3 },
      });
    const page = await open(PrepareStep, { batch: oneBatch() });
    await page.press('Woken culture');
    await page.press('Make woken culture');
    expect(api.sent[0]!.map((entry) => entry.kind)).toEqual(['preparation.make', 'supply.state']);
    expect(api.sent[1]![0]).toEqual(
      jasmine.objectContaining({
        kind: 'timer.start',
        body: jasmine.objectContaining({ words: 'Culture wakes up', minutes: 15 }),
      }),
    );
  });
  it('W12: left-over brine asks whether it touched the product', async () => {
    house();
    const batch = oneBatch({
      preparations: [
        {
          lotId: id('d1'),
          code: 'NY26-327-A-b1',
          form: 'brine',
          name: 'Brine',
          madeGrams: 8900,
          onHandGrams: 3000,
          pouredGrams: 5900,
          elsewhereGrams: 0,
          lostGrams: 0,
          spices: [],
          touched: null,
          generation: null,
          useBy: null,
        },
      ],
      fills: [
        {
          lotId: id('c1'),
          code: 'NY26-327-A-D1',
          vesselTag: 'D1',
          grams: 12_000,
          fillFraction: 0.8,
          room: 'Net loft',
          labels: 0,
          closure: null,
          ...ofFill,
        },
      ],
    });
    const page = await open(BrineLeft, { batch });
    expect(page.text()).toContain('made 8,900 g');
    expect(page.text()).toContain('poured 5,900 g');
    await page.press('It never touched it');
    expect(body('brine.left')).toEqual({
      brineLotId: id('d1'),
      grams: 3000,
      touched: 'never',
      fillLotId: null,
      keptLotId: null,
      spices: 'none',
    });
    api.sent.length = 0;
    await page.press('Poured off it');
    expect(body('brine.left')).toEqual(jasmine.objectContaining({ touched: 'pouredOff', fillLotId: id('c1') }));
  });
});

describe('the rinsed leaf', () => {
  const leaf: NonNullable<MakeReply['leaf']> = {
    log: [],
    saltedAt: '2026-11-23T07:00:00Z',
    estimate: 0.0272,
    least: 0.021,
    most: 0.034,
    rinses: 3,
    minutes: 90,
    leafSalt: 0.0272,
    measured: false,
    drainedGrams: null,
    wanted: 0.026,
    pasteSaltGrams: 12,
  };
  it('W5: the estimate stands with its band, and the reference brines with their grams', async () => {
    house();
    const page = await open(RinseStep, { batch: oneBatch({ leaf, produceGrams: 1000 }) });
    expect(page.text()).toContain('2.72 %');
    expect(page.text()).toContain('2.1 % to 3.4 %');
    expect(page.text()).toContain('7.6 g salt in 500 g water (1.5 %)');
  });
  it('a measured value goes with the rinse it was taken after', async () => {
    house();
    const page = await open(RinseStep, { batch: oneBatch({ leaf, produceGrams: 1000 }) });
    await page.type('Water of this rinse', '2');
    await page.type('Measured salt', '3.1');
    await page.press('between the two');
    await page.press('Record the rinse with 2,000 g');
    expect(body('leaf.rinse')).toEqual({
      batchId: id('b1'),
      waterGrams: 2000,
      tasted: 'between',
      measured: { waterPhaseSalt: 0.031, how: 'meter' },
    });
  });
  it('a loss leaves do not have asks what happened', async () => {
    house();
    const page = await open(RinseStep, { batch: oneBatch({ leaf, produceGrams: 6000 }) });
    api.refusal = {
      type: '',
      title: '',
      status: 422,
      code: 'leaf.lossOutsideRange',
      detail: 'Of 6,000 g leaf 3,000 g is left: 50 % gone.',
      field: 'drainedGrams',
    };
    await page.type('Drained leaf', '3');
    await page.press('Record 3,000 g drained');
    expect(page.text()).toContain('50 % gone');
    api.refusal = null;
    await page.type('What happened to the rest?', 'a bowl fell');
    await page.press('Record 3,000 g drained');
    expect(body('leaf.drain')).toEqual(jasmine.objectContaining({ drainedGrams: 3000, reason: 'a bowl fell' }));
  });
});

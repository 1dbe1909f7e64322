import { ApplicationRef } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { FormulaReply, HouseReply } from '@clear-tally/contract';
import { FakeApi, inHouse, ODILE, within } from '../../state/testing';
import { Formula } from './formula';

const ID = '018f6b1e-0000-7000-8000-0000000000f1';
const ID_OF_ROOM = '018f6b1e-0000-7000-8000-0000000000c1';
const MATERIAL = '018f6b1e-0000-7000-8000-0000000000e1';
const SEED = '018f6b1e-0000-7000-8000-0000000000e2';
const HOUSE: Partial<HouseReply> = {
  vessels: [
    {
      id: '018f6b1e-0000-7000-8000-0000000000d1',
      tag: 'D1',
      shape: 'drum',
      brimMl: 15_000,
      maxFill: 0.88,
      minFill: 0.7,
      closure: 'airlock',
      roomId: ID_OF_ROOM,
      inUse: true,
      takenBy: null,
      cleanedAt: null,
      cleanedWith: null,
      usedSince: false,
      weightVolumeMl: 350,
      inner: null,
      details: {},
    },
  ],
  materials: [
    {
      id: MATERIAL,
      name: 'Baby turnips',
      kind: 'produce',
      waterFraction: 0.92,
      saltFraction: 0,
      allergens: [],
      caution: null,
      details: { costPerKg: 2.4 },
    },
    {
      id: SEED,
      name: 'Mustard seed',
      kind: 'flavouring',
      waterFraction: 0,
      saltFraction: 0,
      allergens: ['mustard'],
      caution: null,
      details: {},
    },
  ],
};
const formula: FormulaReply = {
  formulaId: ID,
  number: 2,
  version: 4,
  name: 'Baby turnips',
  style: 'brinedWhole',
  produce: [{ materialId: MATERIAL, share: 1, name: 'Baby turnips', waterFraction: 0.92, pieceGrams: null }],
  saltBasis: 'ofEverything',
  saltFraction: 0.026,
  waterPerProduce: 0.75,
  lines: [
    {
      materialId: SEED,
      scaleBy: 'mainMass',
      amount: 0.005,
      name: 'Mustard seed',
      waterFraction: 0,
      saltFraction: 0,
      allergens: ['mustard'],
      isStarter: false,
    },
  ],
  solidsFraction: 0.58,
  yields: { trim: 0.81, ferment: 0.93, pack: 0.97 },
  jarSizes: [{ sizeMl: 330, fillGrams: 320, perCase: 12 }],
  usualDays: 21,
  note: null,
  pastWaterPhaseSalt: [0.026, 0.0265],
  form: 'wholeSmall',
  referenceGrams: 4000,
  variants: [],
  steps: [],
  checks: [],
  rules: {},
  saltName: 'Coarse pan salt',
  learned: { trim: { median: 0.78, least: 0.75, most: 0.8, lots: 5 }, ferment: null, pack: null },
  versions: [{ version: 4, savedAt: '2026-11-01T08:00:00Z', by: 'OM' }],
  retired: null,
  outsideScope: null,
};

describe('the scaling bench', () => {
  let api: FakeApi;
  const open = async (of: FormulaReply = formula) => {
    api = new FakeApi({ [`/api/formulas/${ID}`]: of });
    inHouse(api, HOUSE, ODILE);
    const fixture = TestBed.createComponent(Formula);
    fixture.componentRef.setInput('formulaId', ID);
    await fixture.whenStable();
    await fixture.whenStable();
    return within(fixture);
  };

  it('W18: 120 jars of 320 g ask for 24.69 kg trimmed and 30.48 kg bought', async () => {
    const page = await open();
    await page.type('Jars of 330 mL', '120');
    expect(page.text()).toContain('24.69');
    expect(page.text()).toContain('30.48 kg');
  });
  it('before anything is typed it can be read; what to weigh stands in its place then', async () => {
    const page = await open();
    const written = () => page.element.querySelector('[aria-label="The formula as it is written"]')?.textContent ?? '';
    expect(written()).toContain('Salt2.60 % of everything');
    expect(written()).toContain('Water750 g per kg of produce');
    expect(written()).toContain('Mustard seed5 g per kg of trimmed produce');
    expect(written()).toContain('Jar of 330 mL320 g, 12 to a case');
    expect(written()).withContext('its heading').not.toContain('Name');
    await page.type('Jars of 330 mL', '120');
    expect(written()).toBe('');
  });
  it('a trimmed mass gives the salt with its working, and says how many jars it makes', async () => {
    const page = await open();
    await page.press('Trimmed');
    await page.type('Trimmed produce', '4');
    expect(page.text()).toContain('0.026 × (4.000 kg + 3.000 kg)');
    expect(page.text()).toContain('182.0 g');
    expect(page.text()).toContain('about 19 jars of 330 mL');
  });
  it('every figure opens its own working', async () => {
    const page = await open();
    await page.type('Jars of 330 mL', '120');
    await page.press('30.48 kg');
    expect(page.text()).toContain('to buy = trimmed ÷ trim yield');
    await page.press('123');
    expect(page.text()).toContain('a fraction of the trimmed produce');
  });
  it('names what is an allergen, on the line, on the label and in the bill', async () => {
    const page = await open();
    await page.type('Jars of 330 mL', '10');
    expect(page.text()).toContain('Mustard seed allergen');
    await page.press('Label, cost');
    expect(page.text()).toContain('Allergens');
    expect(page.text()).toContain('mustard from Mustard seed');
    expect(page.text()).toContain('Ingredients, by weight at mixing');
  });
  it('whole cases round up and say what is more than asked for', async () => {
    const page = await open();
    await page.type('Jars of 330 mL', '100');
    page.element.querySelector<HTMLInputElement>('.fields input[type=checkbox]')!.click();
    await TestBed.inject(ApplicationRef).whenStable();
    expect(page.text()).toContain('8 of 330 mL more than asked for');
  });
  it('a yield learned from the last lots replaces the formula’s, and says so', async () => {
    const page = await open();
    await page.type('Jars of 330 mL', '120');
    page.element.querySelector<HTMLInputElement>('details input[type=checkbox]')!.click();
    await TestBed.inject(ApplicationRef).whenStable();
    await page.press('31.65 kg');
    expect(page.text()).toContain('median of the last 5 lots, 75 % to 80 %');
  });
  it('from bought mass, from a stock, from chosen vessels', async () => {
    const page = await open();
    await page.press('Bought');
    await page.type('Bought, before trimming', '10');
    expect(page.text()).toContain('Start a batch of 8,100 g');
    await page.press('Stock');
    await page.select('What there is only so much of', SEED);
    await page.type('On hand', '50');
    expect(page.text()).toContain('Start a batch of 10.00 kg');
    await page.press('Vessels');
    await page.press('D1');
    await page.press('7,132');
    await page.press('7,132 g');
    expect(page.text()).toContain('usable room of the vessels');
  });
  it('holes are shown, the rest is scaled', async () => {
    const page = await open({
      ...formula,
      saltFraction: null,
      saltBasis: null,
      lines: [{ ...formula.lines[0]!, amount: null, written: 'a handful' }],
    });
    await page.type('Jars of 330 mL', '10');
    expect(page.text()).toContain('How much salt is not settled. A batch cannot start before.');
    expect(page.text()).toContain('“a handful” is no amount to weigh');
    expect(page.button('Start a batch').textContent).toContain('2,057 g');
  });
  it('a heavy-salted leaf shows its estimate, and takes what was measured', async () => {
    const page = await open({
      ...formula,
      saltBasis: 'ofVegetable',
      saltFraction: 0.1,
      waterPerProduce: 0,
      form: 'leaf',
      heavy: { minutes: 90, cut: 'leaf', rinses: 3, litresPerKg: 2, drainYield: 0.8, wanted: 0.03 },
    });
    await page.press('Trimmed');
    await page.type('Trimmed produce', '1');
    expect(page.text()).toContain('about 2.72 %');
    await page.type('Measured on the juice', '3.1');
    await page.press('0');
    expect(page.text()).toContain('measured on the drained juice, in place of the estimate');
  });
  it('a variant leaves its lines out', async () => {
    const page = await open({
      ...formula,
      variants: ['with mustard', 'without mustard'],
      lines: [{ ...formula.lines[0]!, variants: ['with mustard'] }],
    });
    await page.type('Jars of 330 mL', '10');
    expect(page.text()).toContain('Mustard seed');
    await page.press('without mustard');
    expect(page.text()).not.toContain('Mustard seed');
    await page.press('Start a batch');
    expect((api.sent[0]![0]!.body as { variant?: string }).variant).toBe('without mustard');
  });
  it('outside the scope it says why', async () => {
    const page = await open({ ...formula, outsideScope: 'Clear Tally is for vegetables and fruit.' });
    await page.type('Jars of 330 mL', '10');
    await page.press('Plan');
    expect(page.text()).toContain('Clear Tally is for vegetables and fruit.');
  });
  it('retires with a reason', async () => {
    const page = await open();
    await page.press('Retire');
    await page.type('Reason', 'too salty');
    await page.press('Retire Baby turnips');
    expect(api.sent[0]![0]!.body).toEqual({ formulaId: ID, retired: true, reason: 'too salty' } as never);
  });
  it('the worksheet is asked for with what is on the page', async () => {
    const page = await open();
    await page.type('Jars of 330 mL', '96');
    expect(page.element.querySelector('a[href*="worksheet.pdf"]')!.getAttribute('href')).toContain(
      'jars=330x96&version=4',
    );
  });
  it('starts a batch with the plan as typed', async () => {
    const page = await open();
    await page.type('Jars of 330 mL', '10');
    await page.press('Start a batch');
    expect(api.sent[0]![0]!.body).toEqual(
      jasmine.objectContaining({
        formulaId: ID,
        version: 4,
        plan: { from: 'jars', jars: [{ sizeMl: 330, count: 10, fillGrams: 320 }] },
      }) as never,
    );
  });
  it('a weak batch asks for the reviewer’s reason and sends it', async () => {
    const page = await open({ ...formula, saltFraction: 0.012 });
    await page.type('Jars of 330 mL', '10');
    expect(page.text()).toContain('a reviewer’s written reason');
    await page.type('Reviewer’s reason', 'mild batch for the market');
    await page.press('Start a batch');
    expect((api.sent[0]![0]!.body as { weakSaltReason?: string }).weakSaltReason).toBe('mild batch for the market');
  });
  it('shows what cannot be read, and reads again', async () => {
    api = new FakeApi();
    inHouse(api);
    const fixture = TestBed.createComponent(Formula);
    fixture.componentRef.setInput('formulaId', ID);
    await fixture.whenStable();
    await fixture.whenStable();
    const page = within(fixture);
    expect(page.text()).toContain('nothing at /api/formulas/');
    const before = api.asked.length;
    await page.press('Read again');
    expect(api.asked.length).toBe(before + 1);
  });
});

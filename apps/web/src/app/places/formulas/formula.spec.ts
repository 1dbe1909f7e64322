import { TestBed } from '@angular/core/testing';
import type { FormulaReply } from '@clear-tally/contract';
import { FakeApi, inHouse, within } from '../../state/testing';
import { Formula } from './formula';

const ID = '018f6b1e-0000-7000-8000-0000000000f1';
const MATERIAL = '018f6b1e-0000-7000-8000-0000000000e1';
const formula: FormulaReply = {
  formulaId: ID, number: 2, version: 4, name: 'Baby turnips', style: 'brinedWhole', produce: [{ materialId: MATERIAL, share: 1, name: 'Baby turnips', waterFraction: 0.92 }],
  saltBasis: 'ofEverything', saltFraction: 0.026, waterPerProduce: 0.75, lines: [{ materialId: MATERIAL, scaleBy: 'mainMass', amount: 0.005, name: 'Mustard seed', waterFraction: 0, saltFraction: 0, allergens: ['mustard'] }],
  solidsFraction: 0.58, yields: { trim: 0.81, ferment: 0.93, pack: 0.97 }, jarSizes: [{ sizeMl: 330, fillGrams: 320 }], usualDays: 21, note: null, pastWaterPhaseSalt: [0.026, 0.0265],
};

describe('the scaling bench', () => {
  let api: FakeApi;
  const open = async (of: FormulaReply = formula) => {
    api = new FakeApi({ [`/api/formulas/${ID}`]: of });
    inHouse(api);
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
  it('a trimmed mass gives the salt with its working, and says how many jars it makes', async () => {
    const page = await open();
    await page.press('From trimmed mass');
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
  it('names the allergens', async () => {
    const page = await open();
    await page.type('Jars of 330 mL', '10');
    expect(page.text()).toContain('mustard');
  });
  it('starts a batch with the plan as typed', async () => {
    const page = await open();
    await page.type('Jars of 330 mL', '10');
    await page.press('Start a batch');
    expect(api.sent[0]![0]!.body).toEqual(jasmine.objectContaining({ formulaId: ID, version: 4, plan: { from: 'jars', jars: [{ sizeMl: 330, count: 10, fillGrams: 320 }] } }) as never);
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

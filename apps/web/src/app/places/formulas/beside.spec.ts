import { TestBed } from '@angular/core/testing';
import type { FormulaReply } from '@clear-tally/contract';
import { FakeApi, inHouse, within } from '../../state/testing';
import { oneBatch } from '../make/one-batch.testing';
import { Beside } from './beside';
import { besideEachOther, habits } from './besideWords';

const id = (last: string): string => `018f6b1e-0000-7000-8000-0000000000${last}`;
const line = (last: string, name: string, scaleBy: 'mainMass' | 'saltMass', amount: number) => ({
  ...oneBatch().formula.lines[0]!,
  materialId: id(last),
  name,
  scaleBy,
  amount,
});
const formula = (over: Partial<FormulaReply>): FormulaReply => ({ ...oneBatch().formula, ...over });
const DRY = formula({
  name: 'Our shred',
  lines: [line('a1', 'Juniper berries', 'saltMass', 0.3), line('a2', 'Caraway', 'mainMass', 0.004)],
});
const WET = formula({
  name: 'Their shred',
  saltBasis: 'ofEverything',
  saltFraction: 0.026,
  waterPerProduce: 0.7,
  usualDays: 14,
  lines: [line('a1', 'Juniper berries', 'mainMass', 0.002)],
});

describe('two formulas beside each other', () => {
  const rows = (one: FormulaReply, other: FormulaReply) =>
    new Map(besideEachOther(habits(one), habits(other)).map((row) => [row.what, [row.one, row.other]]));

  it('both for ten kilograms, whatever each counts its salt and its spices on', () => {
    const all = rows(DRY, WET);
    // 2.2 % of 10 kg; 2.6 % of 10 kg and 7 kg of water.
    expect(all.get('Salt')).toEqual(['220 g', '442 g']);
    expect(all.get('Water')).toEqual(['none', '7,000 g']);
    // 0.3 g per gram of salt; 2 g per kg of produce.
    expect(all.get('Juniper berries')).toEqual(['66 g', '20 g']);
    // 220 ÷ (9,100 + 220).
    expect(all.get('Salt in the water phase')![0]).toBe('2.36 %, usual');
  });
  it('what only one has is nothing in the other, whichever it is', () => {
    expect(rows(DRY, WET).get('Caraway')).toEqual(['40 g', null]);
    expect(rows(WET, DRY).get('Caraway')).toEqual([null, '40 g']);
    expect(rows(DRY, WET).get('Usual days')).toEqual(['28', '14']);
  });
  it('one that is not settled is told by what it says; no mass is invented', () => {
    const all = rows(formula({ saltFraction: null, saltBasis: null }), WET);
    expect(all.get('Salt')![0]).toBe('open');
    expect(all.get('Salt in the water phase')).toEqual([null, jasmine.any(String)]);
  });
  it('the page asks for two, and shows only what differs when told to', async () => {
    const entry = (formulaId: string, name: string) => ({
      formulaId,
      number: 1,
      version: 1,
      name,
      style: 'drySaltedShred',
      saltBasis: null,
      saltFraction: null,
      usualDays: 28,
      batches: 0,
      holes: 0,
      retired: null,
      outsideScope: false,
    });
    inHouse(
      new FakeApi({
        '/api/formulas': { formulas: [entry(id('f1'), 'Our shred'), entry(id('f2'), 'Their shred')] },
        [`/api/formulas/${id('f1')}`]: DRY,
        [`/api/formulas/${id('f2')}`]: WET,
      }),
    );
    const fixture = TestBed.createComponent(Beside);
    await fixture.whenStable();
    const page = within(fixture);
    expect(page.text()).toContain('Choose two');
    fixture.componentRef.setInput('one', id('f1'));
    fixture.componentRef.setInput('other', id('f2'));
    await fixture.whenStable();
    await fixture.whenStable();
    expect(page.text()).toMatch(/Juniper berries ?66 g ?20 g/);
    expect(page.text()).toContain('Packs as');
    (page.element.querySelector('ct-tick input') as HTMLInputElement).click();
    await fixture.whenStable();
    expect(page.text()).not.toContain('Packs as');
    expect(page.text()).toMatch(/Juniper berries ?66 g ?20 g/);
  });
});

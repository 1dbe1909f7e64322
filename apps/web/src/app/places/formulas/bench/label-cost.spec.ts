import { TestBed } from '@angular/core/testing';
import { scaleFormula } from '@clear-tally/core';
import type { FormulaReply, Material } from '@clear-tally/contract';
import { A_HOUSE, within } from '../../../state/testing';
import { LabelCost } from './label-cost';

const id = (last: string): string => `018f6b1e-0000-7000-8000-0000000000${last}`;
const material = (
  last: string,
  name: string,
  kind: Material['kind'],
  allergens: string[],
  details: Material['details'] = {},
): Material => ({
  id: id(last),
  name,
  kind,
  waterFraction: 0.9,
  saltFraction: kind === 'salt' ? 1 : 0,
  allergens,
  caution: null,
  details,
});
const house = {
  ...A_HOUSE,
  settings: { currency: 'EUR', labourPerHour: 18, scaleStepGrams: 1 },
  materials: [
    material('a1', 'Swede', 'produce', [], { costPerKg: 1.2 }),
    material('a2', 'Celeriac', 'produce', ['celery'], { costPerKg: 1.9 }),
    material('a3', 'Nigella seed', 'flavouring', [], { mayContain: ['sesame'] }),
    material('a4', 'Honey', 'flavouring', [], { diet: ['honey'], costPerKg: 12 }),
  ],
};
const formula = {
  formulaId: id('f1'),
  number: 8,
  version: 1,
  name: 'Swede shred',
  style: 'dryShred',
  form: 'shred',
  produce: [{ materialId: id('a1'), share: 1, name: 'Swede', waterFraction: 0.9, pieceGrams: null }],
  saltBasis: 'ofVegetable',
  saltFraction: 0.023,
  saltMaterialId: null,
  waterPerProduce: 0,
  referenceGrams: 1000,
  lines: [
    {
      materialId: id('a3'),
      scaleBy: 'mainMass',
      amount: 0.004,
      name: 'Nigella seed',
      waterFraction: 0.06,
      saltFraction: 0,
      allergens: [],
      isStarter: false,
    },
  ],
  solidsFraction: 1,
  yields: { trim: 0.8, ferment: 0.97, pack: 0.97 },
  jarSizes: [{ sizeMl: 330, fillGrams: 320, packagingCost: 0.6, price: 6.5 }],
  labour: { fixedMinutes: 60, minutesPerKg: 0 },
} as unknown as FormulaReply;

describe('label and cost of a batch', () => {
  const open = async () => {
    const fixture = TestBed.createComponent(LabelCost);
    fixture.componentRef.setInput('formula', formula);
    fixture.componentRef.setInput('scaled', scaleFormula({ formula, target: { from: 'trimmed', trimmedGrams: 8000 } }));
    fixture.componentRef.setInput('house', house);
    fixture.componentRef.setInput('jars', [{ sizeMl: 330, count: 20 }]);
    await fixture.whenStable();
    return within(fixture);
  };
  it('produce is paid as bought, before trimming; an unpriced line is named', async () => {
    const page = await open();
    expect(page.text()).toContain('EUR 12.00');
    expect(page.text()).toContain('Without a price: Salt, Nigella seed.');
  });
  it('a jar costs material, work and packaging, and what is left of its price is said', async () => {
    const page = await open();
    // (12.00 + 18.00 + 12.00) ÷ 20
    expect(page.text()).toContain('EUR 2.10');
    expect(page.text()).toContain('EUR 4.40, 68 %');
  });
  it('ingredients stand by weight; may-contain is not contains', async () => {
    const page = await open();
    expect(page.text()).toContain('Swede, Salt, Nigella seed.');
    expect(page.text()).toContain('may contain sesame');
  });
  it('a substitution says what it changes on the label and the bill', async () => {
    const page = await open();
    await page.select('Instead of', id('a1'));
    await page.select('use', id('a2'));
    expect(page.text()).toContain('adds the allergen celery');
    expect(page.text()).toContain('cost of a jar from 2.10 to 2.45');
    await page.select('Instead of', id('a3'));
    await page.select('use', id('a4'));
    expect(page.text()).toContain('now marked honey');
  });
});

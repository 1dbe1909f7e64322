import { TestBed } from '@angular/core/testing';
import { api, body, house, open, supply } from './bench.testing';
import { id, oneBatch } from './one-batch.testing';
import { ProduceStep } from './produce-step';

const BEETS = { materialId: id('c1'), name: 'Beets' };
const GOLDEN = { materialId: id('c2'), name: 'Beets, golden' };
const part = (one: typeof BEETS) => ({ ...one, share: 0.5, waterFraction: 0.9, pieceGrams: null });
const lots = (...of: readonly (readonly [string, typeof BEETS, object?])[]) => ({
  '/api/supplies?kind=produce': {
    lots: of.map(([last, { materialId, name }, more]) => supply(last, name, { materialId, ...more })),
  },
});
/** Two beets whose names begin alike; of one, so much is weighed. */
const batch = (...weighed: readonly (readonly [typeof BEETS, number])[]) => {
  const of = oneBatch();
  return {
    ...of,
    formula: { ...of.formula, produce: [part(BEETS), part(GOLDEN)] },
    planned: {
      ...of.planned,
      lines: [BEETS, GOLDEN].map(({ materialId, name }, i) => ({
        key: `produce-${i}`,
        materialId,
        name: `${name}, trimmed`,
        role: 'produce',
        grams: 5000,
      })),
    },
    produce: weighed.map(([{ materialId, name }, grams]) => ({
      ...of.produce[0]!,
      materialId,
      materialName: name,
      grams,
    })),
    produceGrams: weighed.reduce((sum, [, grams]) => sum + grams, 0),
  };
};

describe('produce at the scale', () => {
  const chosen = (page: { element: HTMLElement }): string | null =>
    page.element.querySelector('ct-choice input')!.getAttribute('aria-description');

  it('the only lot of what is weighed next stands there, and the next one’s after it', async () => {
    house(lots(['a1', BEETS], ['a2', GOLDEN]));
    const page = await open(ProduceStep, { batch: batch() });
    expect(chosen(page)).toBe('LM-00a1 Beets');
    page.fixture.componentRef.setInput('batch', batch([BEETS, 5000]));
    await page.settle();
    expect(chosen(page)).toBe('LM-00a2 Beets, golden');
  });
  it('of two lots it is asked which; one on hold is none', async () => {
    house(lots(['a1', BEETS], ['a3', BEETS], ['a2', GOLDEN]));
    expect(chosen(await open(ProduceStep, { batch: batch() }))).toBeNull();
  });
  it('one on hold is none of two', async () => {
    house(lots(['a1', BEETS, { hold: 'pink' }], ['a3', BEETS], ['a2', GOLDEN]));
    expect(chosen(await open(ProduceStep, { batch: batch() }))).toBe('LM-00a3 Beets');
  });
  it('what was chosen stays while the stores are read again', async () => {
    house(lots(['a1', BEETS], ['a3', BEETS], ['a2', GOLDEN]));
    const page = await open(ProduceStep, { batch: batch() });
    (page.fixture.componentInstance as ProduceStep)['lotId'].set(id('a3'));
    page.fixture.componentRef.setInput('batch', batch());
    await page.settle();
    expect(chosen(page)).toBe('LM-00a3 Beets');
  });
  it('names that begin alike are two: each has its own mass', async () => {
    house(lots(['a1', BEETS], ['a2', GOLDEN]));
    const page = await open(ProduceStep, { batch: batch([GOLDEN, 3000]) });
    expect(page.text()).toMatch(/Beets, trimmed ?0 g of 5,000 g/);
    expect(page.text()).toMatch(/Beets, golden, trimmed ?3,000 g of 5,000 g/);
  });
  it('frozen produce without a starter asks for the reason, and keeps the weight typed', async () => {
    house(lots(['a1', BEETS], ['a2', GOLDEN]));
    const page = await open(ProduceStep, { batch: batch() });
    await page.type('Trimmed, on the scale', '5');
    api.refusal = {
      type: 'about:blank',
      title: 'No',
      status: 422,
      code: 'produce.frozen',
      field: 'frozenReason',
      detail: 'LM-00a1, Beets, was frozen, and nothing is in this batch that begins it.',
    };
    await page.press('Record 5,000 g trimmed');
    expect(page.text()).toContain('was frozen, and nothing is in this batch that begins it');
    api.refusal = null;
    expect(page.field('Trimmed, on the scale').value).toBe('5');
    await page.type('Why it goes in without a starter', 'a third is fresh');
    await page.press('Record 5,000 g trimmed');
    expect(body('produce.weigh')).toEqual(
      jasmine.objectContaining({ supplyLotId: id('a1'), trimmedGrams: 5000, frozenReason: 'a third is fresh' }),
    );
  });
  it('what comes in heads may be counted in the same line', async () => {
    house(lots(['a1', BEETS], ['a2', GOLDEN]));
    const page = await open(ProduceStep, { batch: batch() });
    expect(page.text()).not.toContain('Counted');
    TestBed.resetTestingModule();
    house(lots(['a1', { materialId: id('e2'), name: 'Beets' }]));
    const heads = { ...BEETS, materialId: id('e2') };
    const of = batch();
    const counted = await open(ProduceStep, {
      batch: { ...of, formula: { ...of.formula, produce: [part(heads)] } },
    });
    expect(counted.text()).toContain('Counted, bunches');
    await counted.type('Trimmed, on the scale', '5');
    await counted.type('Counted, bunches', '10');
    await counted.press('Record 5,000 g trimmed');
    expect(body('produce.weigh')).toEqual(jasmine.objectContaining({ trimmedGrams: 5000, pieces: 10 }));
  });
  it('several kinds in one bowl go in by their shares, which make the whole', async () => {
    house(lots(['a1', BEETS], ['a2', GOLDEN]));
    const page = await open(ProduceStep, { batch: batch() });
    await page.press('Weighed together in one bowl');
    await page.type('All together, on the scale', '9.999');
    const [first] = [...page.element.querySelectorAll<HTMLInputElement>('ct-mixed-bowl ct-figure input')];
    const share = async (percent: string): Promise<void> => {
      first!.value = percent;
      first!.dispatchEvent(new Event('input'));
      await page.settle();
    };
    await share('60');
    expect(page.text()).toContain('The shares make 110 %, not 100 %.');
    expect(page.text()).toContain('missing: shares that make 100 %');
    await share('50');
    api.refusal = {
      type: 'about:blank',
      title: 'No',
      status: 422,
      code: 'produce.frozen',
      field: 'frozenReason',
      detail: 'LM-00a1, Beets, was frozen.',
    };
    await page.press('Record 9,999 g as 2 kinds');
    api.refusal = null;
    await page.type('Why it goes in without a starter', 'half is fresh');
    await page.press('Record 9,999 g as 2 kinds');
    expect(body('produce.weigh').frozenReason).toBe('half is fresh');
    const sent = api.sent.flat().map(({ body: of }) => of as Record<string, unknown>);
    expect(sent.map((of) => [of['supplyLotId'], of['trimmedGrams'], of['mixedGrams']])).toEqual([
      [id('a1'), 4999.5, 9999],
      [id('a2'), 4999.5, 9999],
    ]);
  });
});

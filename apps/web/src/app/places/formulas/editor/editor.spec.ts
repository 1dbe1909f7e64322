import { TestBed } from '@angular/core/testing';
import { ruleWords } from '@clear-tally/core';
import type { FormulaReply, HouseReply } from '@clear-tally/contract';
import { FakeApi, inHouse, ODILE, within } from '../../../state/testing';
import { Editor } from './editor';
import { readRule } from './plan-editor';

const id = (last: string): string => `018f6b1e-0000-7000-8000-0000000000${last}`;
const house: Partial<HouseReply> = {
  materials: [
    {
      id: id('a1'),
      name: 'Baby turnips',
      kind: 'produce',
      waterFraction: 0.92,
      saltFraction: 0,
      allergens: [],
      caution: null,
      details: { group: 'vegetable' },
    },
    {
      id: id('a2'),
      name: 'Herring',
      kind: 'produce',
      waterFraction: 0.7,
      saltFraction: 0,
      allergens: ['fish'],
      caution: null,
      details: { group: 'fish' },
    },
    {
      id: id('a3'),
      name: 'Mustard seed',
      kind: 'flavouring',
      waterFraction: 0.06,
      saltFraction: 0,
      allergens: ['mustard'],
      caution: null,
      details: {},
    },
  ],
};
const existing = {
  formulaId: id('f1'),
  number: 2,
  version: 4,
  name: 'Turnips',
  style: 'brinedWhole',
  form: 'wholeSmall',
  produce: [{ materialId: id('a1'), share: 1, name: 'Baby turnips', waterFraction: 0.92, pieceGrams: null }],
  saltBasis: 'ofWater',
  saltFraction: 0.05,
  saltName: null,
  waterPerProduce: 0.7,
  referenceGrams: 1000,
  solidsFraction: 0.58,
  yields: { trim: 0.8, ferment: 0.93, pack: 0.97 },
  jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
  usualDays: 21,
  note: null,
  variants: [],
  steps: [],
  checks: [],
  rules: {},
  pastWaterPhaseSalt: [],
  lines: ['Mustard seed', 'Pepper'].map((name, index) => ({
    materialId: id(`b${index}`),
    scaleBy: 'mainMass',
    amount: 0.003,
    name,
    waterFraction: 0,
    saltFraction: 0,
    allergens: [],
    isStarter: false,
  })),
  learned: { trim: null, ferment: null, pack: null },
  versions: [],
  retired: null,
  outsideScope: null,
} as unknown as FormulaReply;

describe('the formula editor', () => {
  let api: FakeApi;
  const open = async (formulaId?: string) => {
    localStorage.clear();
    api = new FakeApi({ '/api/formulas': { formulas: [{ number: 8 }] }, [`/api/formulas/${id('f1')}`]: existing });
    inHouse(api, house, ODILE);
    const fixture = TestBed.createComponent(Editor);
    if (formulaId) fixture.componentRef.setInput('formulaId', formulaId);
    for (let i = 0; i < 3; i += 1) await fixture.whenStable();
    return within(fixture);
  };
  type Page = Awaited<ReturnType<typeof open>>;
  const names = (page: Page): string[] =>
    [...page.element.querySelectorAll<HTMLInputElement>('.line input[list]')].map((input) => input.value);

  it('writes a new formula with the next number', async () => {
    const page = await open();
    await page.type('Name', 'Notebook turnips');
    await page.type('Produce', 'Baby turnips');
    await page.type('The recipe is for', '4 kg');
    await page.type('Salt', '2.6 %');
    await page.type('Water', '2.8 L');
    await page.press('everything');
    expect(page.text()).toContain('2.66 %');
    expect(page.text()).toContain('Nothing is open.');
    await page.press('Keep this formula');
    expect(api.sent[0]!.map(({ kind }) => kind)).toEqual(['formula.save']);
    expect(api.sent[0]![0]!.body).toEqual(
      jasmine.objectContaining({
        number: 9,
        version: 1,
        saltBasis: 'ofEverything',
        saltFraction: 0.026,
        referenceGrams: 4000,
      }) as never,
    );
  });
  it('adds what the house does not know, in the same breath', async () => {
    const page = await open();
    await page.type('Name', 'New');
    await page.type('Produce', 'Skirret');
    await page.press('Keep this formula');
    expect(api.sent[0]!.map(({ kind }) => kind)).toEqual(['material.add', 'formula.save']);
  });
  it('a fold that hides what is missing opens, and stays open while it is typed', async () => {
    const page = await open();
    const fold = () =>
      [...page.element.querySelectorAll('details')].find((one) => one.textContent!.includes('Jars, yields, work'))!;
    expect(fold().open).toBeFalse();
    await page.type('Usual days', 'soon');
    expect(fold().open).toBeTrue();
    await page.type('Usual days', '21');
    expect(fold().open).toBeTrue();
  });
  it('names the holes, and keeps the formula with them', async () => {
    const page = await open();
    await page.type('Name', 'Open');
    await page.type('Produce', 'Baby turnips');
    expect(page.text()).toContain('How much salt is not settled.');
    await page.press('Keep this formula');
    expect((api.sent[0]![0]!.body as { saltFraction: null }).saltFraction).toBeNull();
  });
  it('reorders lines with the arrow keys, and takes it back', async () => {
    const page = await open(id('f1'));
    const handle = page.element.querySelectorAll<HTMLButtonElement>('.handle')[1]!;
    handle.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }));
    await page.press('Another produce');
    expect(names(page)).toEqual(['Pepper', 'Mustard seed']);
    await page.press('Undo');
    await page.press('Undo');
    expect(names(page)).toEqual(['Mustard seed', 'Pepper']);
    await page.press('Redo');
    expect(names(page)).toEqual(['Pepper', 'Mustard seed']);
  });
  it('a key pressed before the page has shown the last letter takes that letter back too', async () => {
    const page = await open(id('f1'));
    const amount = page.element.querySelector<HTMLInputElement>('.line input[inputmode=decimal]')!;
    const before = amount.value;
    amount.value = '8 g per kg';
    amount.dispatchEvent(new Event('input', { bubbles: true }));
    amount.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, bubbles: true }));
    await page.settle();
    expect(amount.value).toBe(before);
  });
  it('a variant with and without an ingredient, in one tap', async () => {
    const page = await open(id('f1'));
    await page.press('With and without it');
    await page.press('Keep as version 5');
    const body = api.sent[0]!.at(-1)!.body as { variants: string[]; lines: { variants?: string[] }[] };
    expect(body.variants).toEqual(['with mustard seed', 'without mustard seed']);
    expect(body.lines[0]!.variants).toEqual(['with mustard seed']);
  });
  it('a line out, and back', async () => {
    const page = await open(id('f1'));
    await page.press('Remove');
    expect(names(page)).toEqual(['Pepper']);
    await page.press('Undo');
    expect(names(page)).toEqual(['Mustard seed', 'Pepper']);
  });
  it('fish gets no check plan, and the page says why', async () => {
    const page = await open();
    await page.type('Name', 'Herring');
    await page.type('Produce', 'Herring');
    expect(page.text()).toContain('no check plan and no release');
    await page.press('Keep this formula');
    expect((api.sent[0]!.at(-1)!.body as { checks: unknown[] }).checks).toEqual([]);
  });
  it('a refusal stays beside what was typed', async () => {
    const page = await open(id('f1'));
    api.refusal = { code: 'name.taken', detail: 'Version 5 was given; the next version is 6.' } as never;
    await page.type('Name', 'Turnips, better');
    await page.press('Keep as version 5');
    expect(page.text()).toContain('the next version is 6');
    expect(page.field('Name').value).toBe('Turnips, better');
  });
  it('heavy salt comes with its school', async () => {
    const page = await open();
    await page.select('School', 'heavySaltPaste');
    expect(page.text()).toContain('Heavy salt and rinse.');
    expect(page.field('Rinses').value).toBe('3');
  });
});

describe('a check typed in words', () => {
  it('reads days and intervals', () => {
    expect(readRule('days 1, 2, 3 then 7')).toEqual({ kind: 'onDays', days: [1, 2, 3], thenEveryDays: 7 });
    expect(readRule('on day 14')).toEqual({ kind: 'onDays', days: [14], thenEveryDays: null });
    expect(readRule('every 12 h for 5 days')).toEqual({ kind: 'every', hours: 12, forDays: 5 });
    expect(readRule('every 2 days')).toEqual({ kind: 'every', hours: 48, forDays: null });
    expect(readRule('every day for 7 days')).toEqual({ kind: 'every', hours: 24, forDays: 7 });
  });
  it('asks again for anything else', () => {
    const quiet = {
      kind: 'untilQuiet' as const,
      hours: 24,
      forDays: 5,
      thenHours: 48,
      quietTimes: 2,
      thenEveryDays: 7,
    };
    expect(readRule('every day for 5 days then every 2 days until quiet then every 7 days')).toEqual(quiet);
    expect(readRule('every 12 h while crossing')).toEqual({ kind: 'aroundCrossing', hours: 12 });
    for (const rule of [
      quiet,
      { kind: 'aroundCrossing' as const, hours: 12 },
      { kind: 'every' as const, hours: 48, forDays: 14 },
      { kind: 'onDays' as const, days: [1, 2], thenEveryDays: 7 },
    ])
      expect(readRule(ruleWords(rule)))
        .withContext(ruleWords(rule))
        .toEqual(rule);
    for (const text of ['', 'now and then', 'days', 'every 0 h', 'day 900', 'every 5000 days'])
      expect(readRule(text)).withContext(text).toBeNull();
  });
});

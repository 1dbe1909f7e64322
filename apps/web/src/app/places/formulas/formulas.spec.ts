import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { FormulaReply, FormulasReply } from '@clear-tally/contract';
import { draftsFeature } from '../../state/drafts';
import { FakeApi, inHouse, INES, INSPECTOR, ODILE, within } from '../../state/testing';
import { Formulas } from './formulas';
import { TakeIn } from './take-in';
import { Versions } from './versions';

const ID = '018f6b1e-0000-7000-8000-0000000000f1';
const row = (over: Partial<FormulasReply['formulas'][number]>): FormulasReply['formulas'][number] => ({
  formulaId: ID,
  number: 1,
  version: 1,
  name: 'Swede shred',
  style: 'dryShred',
  saltBasis: 'ofVegetable',
  saltFraction: 0.023,
  usualDays: 24,
  batches: 0,
  holes: 0,
  retired: null,
  outsideScope: false,
  ...over,
});
const book: FormulasReply = {
  formulas: [
    row({}),
    row({
      formulaId: '018f6b1e-0000-7000-8000-0000000000f2',
      number: 2,
      name: 'Turnips',
      style: 'brinedWhole',
      saltBasis: null,
      saltFraction: null,
      holes: 2,
    }),
    row({ formulaId: '018f6b1e-0000-7000-8000-0000000000f3', number: 3, name: 'Old beets', retired: 'too sweet' }),
    row({ formulaId: '018f6b1e-0000-7000-8000-0000000000f4', number: 4, name: 'Herring', outsideScope: true }),
  ],
};

describe('the formula book', () => {
  const open = async (reply: FormulasReply = book, person: typeof INES | typeof ODILE | typeof INSPECTOR = ODILE) => {
    inHouse(new FakeApi({ '/api/formulas': reply }), {}, person);
    const fixture = TestBed.createComponent(Formulas);
    await fixture.whenStable();
    await fixture.whenStable();
    return within(fixture);
  };
  it('says at its line what is open and what is outside the scope', async () => {
    const page = await open();
    expect(page.text()).toContain('2 open');
    expect(page.text()).toContain('noted only, outside the scope');
  });
  it('is searched by name, school and number', async () => {
    const page = await open();
    await page.type('Find', 'brine');
    expect(page.element.querySelectorAll('tbody tr').length).toBe(1);
    await page.type('Find', 'nutmeg');
    expect(page.text()).toContain('Nothing fits what is asked for.');
  });
  it('retired formulas stand aside until they are asked for', async () => {
    const page = await open();
    expect(page.text()).not.toContain('Old beets');
    page.element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    await page.type('Find', 'old');
    expect(page.text()).toContain('Old beets');
  });
  it('an empty book says how to begin', async () =>
    expect((await open({ formulas: [] })).text()).toContain('as it stands in a notebook'));
  it('a maker writes one too, and is told who keeps it; an inspector is not offered to', async () => {
    const owner = (await open()).text();
    expect([owner.includes('New formula'), owner.includes('an owner keeps it')]).toEqual([true, false]);
    TestBed.resetTestingModule();
    const maker = (await open(book, INES)).text();
    expect([maker.includes('New formula'), maker.includes('an owner keeps it')]).toEqual([true, true]);
    TestBed.resetTestingModule();
    const inspector = (await open(book, INSPECTOR)).text();
    expect([inspector.includes('New formula'), inspector.includes('an owner keeps it')]).toEqual([false, false]);
  });
});

describe('two versions side by side', () => {
  const version = (number: number, over: Partial<FormulaReply> = {}): FormulaReply => ({
    formulaId: ID,
    number: 2,
    version: number,
    name: 'Turnips',
    style: 'brinedWhole',
    form: 'wholeSmall',
    produce: [{ materialId: ID, share: 1, name: 'Baby turnips', waterFraction: 0.92, pieceGrams: null }],
    saltBasis: 'ofEverything',
    saltFraction: 0.026,
    saltName: null,
    waterPerProduce: 0.7,
    referenceGrams: 1000,
    lines: [
      {
        materialId: ID,
        scaleBy: 'mainMass',
        amount: 0.003,
        name: 'Pepper',
        waterFraction: 0,
        saltFraction: 0,
        allergens: [],
        isStarter: false,
      },
    ],
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
    learned: { trim: null, ferment: null, pack: null },
    versions: [
      { version: 2, savedAt: '2026-11-20T08:00:00Z', by: 'OM' },
      { version: 1, savedAt: '2026-10-01T08:00:00Z', by: 'OM' },
    ],
    retired: null,
    outsideScope: null,
    ...over,
  });
  const open = async (before: Partial<FormulaReply>) => {
    inHouse(
      new FakeApi({
        [`/api/formulas/${ID}`]: version(2),
        [`/api/formulas/${ID}?version=2`]: version(2),
        [`/api/formulas/${ID}?version=1`]: version(1, before),
      }),
    );
    const fixture = TestBed.createComponent(Versions);
    fixture.componentRef.setInput('formulaId', ID);
    for (let i = 0; i < 3; i += 1) await fixture.whenStable();
    return within(fixture);
  };
  it('show what changed, what came and what went', async () => {
    const page = await open({
      saltFraction: 0.028,
      waterPerProduce: null,
      lines: [{ ...version(1).lines[0]!, materialId: '018f6b1e-0000-7000-8000-0000000000f9', name: 'Mace' }],
    });
    expect(page.text()).toContain('Version 2 against 1');
    expect(page.text()).toContain('2.80 % of everything 2.60 % of everything');
    expect(page.text()).toMatch(/Pepper ?not there/);
    expect(page.text()).toMatch(/Mace ?3 g per kg of trimmed produce ?left out/);
    expect(page.text()).toContain('open 700 g per kg');
    expect(page.text()).not.toContain('Order of the lines');
  });
  it('a version like the one before says so', async () =>
    expect((await open({})).text()).toContain('Nothing differs.'));
  it('the first has nothing before it', async () => {
    const page = await open({});
    await page.press('version 1');
    expect(page.text()).toContain('The first version: there is nothing before it.');
  });
});

describe('a recipe taken in', () => {
  const open = async () => {
    const api = new FakeApi({ '/api/formulas': book });
    inHouse(
      api,
      {
        materials: [
          {
            id: ID,
            name: 'Baby turnips',
            kind: 'produce',
            waterFraction: 0.92,
            saltFraction: 0,
            allergens: [],
            caution: null,
            details: {},
          },
        ],
      },
      ODILE,
    );
    const fixture = TestBed.createComponent(TakeIn);
    await fixture.whenStable();
    const page = within(fixture);
    const give = async (name: string, text: string): Promise<void> => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([text], name));
      const field = page.element.querySelector<HTMLInputElement>('input[type=file]')!;
      field.files = transfer.files;
      const before = page.text();
      field.dispatchEvent(new Event('change'));
      // The browser reads the file in its own time.
      for (let turn = 0; turn < 60 && page.text() === before; turn += 1) {
        await new Promise((resolve) => setTimeout(resolve, 30));
        await fixture.whenStable();
      }
    };
    const write = async (text: string): Promise<void> => {
      const area = page.element.querySelector('textarea')!;
      area.value = text;
      area.dispatchEvent(new Event('input'));
      await fixture.whenStable();
    };
    return { ...page, api, give, write };
  };
  it('shows line by line what was understood, before anything is kept', async () => {
    const page = await open();
    await page.write('2 kg baby turnips\n3 quarts water\n7 tablespoons fine salt\na handful of thyme');
    const roles = [...page.element.querySelectorAll('aside li')].map((line) => [
      line.querySelector('b')!.textContent,
      line.querySelector('.figure')?.textContent ?? null,
      line.querySelector('[aria-pressed=true]')!.textContent!.trim(),
    ]);
    expect(roles).toEqual([
      ['baby turnips', '2 kg', 'main produce'],
      ['water', '3 quarts', 'water'],
      ['fine salt', '7 tablespoons', 'salt'],
      ['thyme', null, 'flavouring'],
    ]);
    expect(page.text()).toContain('Salt by the spoon');
    expect(page.text()).toContain('Whose spoons, cups and gallons are these?');
    expect(page.text()).toContain('names no figure');
    expect(page.api.sent).toEqual([]);
  });
  it('one tap makes a line what it is; the heaviest that is nothing yet is asked about; what is typed is kept', async () => {
    const page = await open();
    await page.write('2 kg kalettes\n40 g salt\nold brine\n2 jars\nSqueeze until it is wet, rest 20 min');
    expect(page.text()).toContain('Is this the main produce?');
    const first = page.element.querySelector('aside li')!;
    [...first.querySelectorAll('button')].find((one) => one.textContent!.includes('main produce'))!.click();
    await page.settle();
    expect(page.text()).not.toContain('Is this the main produce?');
    await page.press('Write it into the book');
    const draft = JSON.stringify(TestBed.inject(Store).selectSignal(draftsFeature.selectByKey)());
    for (const part of [
      '"material":"kalettes","amount":"2 kg"',
      '"salt":"40 g"',
      '"trim":""',
      '"minutes":"20"',
      'Packed in: 2 jars.',
    ])
      expect(draft).withContext(part).toContain(part);
  });
  it('a file that is none says why', async () => {
    const page = await open();
    await page.give('x.json', '{');
    expect(page.text()).toContain('This file is no JSON');
  });
  it('materials that the house does not know come in with the file', async () => {
    const page = await open();
    await page.give(
      'one.json',
      JSON.stringify({
        format: 'clear-tally/formula',
        formatVersion: 1,
        materials: [
          { name: 'Mace', kind: 'flavouring', waterFraction: 0.1, saltFraction: 0, allergens: [], caution: null },
        ],
        formulas: [
          {
            name: 'Sent over',
            style: 'dryShred',
            produce: [{ material: 'Baby turnips', share: 1 }],
            saltBasis: 'ofVegetable',
            saltFraction: 0.022,
            waterPerProduce: 0,
            lines: [{ material: 'Mace', scaleBy: 'mainMass', amount: 0.001 }],
            solidsFraction: 1,
            yields: { trim: 0.8, ferment: 0.97, pack: 0.97 },
            jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
            usualDays: 20,
            note: null,
          },
        ],
      }),
    );
    expect(page.text()).toContain('Sent over');
    await page.press('Open it in the editor');
    expect(page.api.sent[0]!.map(({ kind, body }) => [kind, (body as { name: string }).name])).toEqual([
      ['material.add', 'Mace'],
    ]);
  });
});

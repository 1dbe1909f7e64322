import type { MakeReply } from '@clear-tally/contract';
import { INES, INSPECTOR } from '../../state/testing';
import { Bench } from './bench';
import { LinesStep } from './lines-step';
import { OtherIngredient } from './other-ingredient';
import { StepEnd } from './step-end';
import { id, oneBatch, ofFill } from './one-batch.testing';
import { type Person, supply, api, house, onScale, open, body } from './bench.testing';

describe('the end of a step', () => {
  const inspect = (over: Partial<MakeReply['steps'][number]> = {}) => ({ ...oneBatch().steps[0]!, ...over });
  it('unticked, it asks why it goes on; the reason is kept with it', async () => {
    house();
    const page = await open(StepEnd, { batch: oneBatch(), step: inspect() });
    await page.press('Done');
    expect(api.sent).toEqual([]);
    await page.type('Why does it go on without?', 'looked at in the store');
    await page.press('Done');
    expect(body('step.finish')).toEqual(
      jasmine.objectContaining({ step: 'inspect', checked: [], note: 'looked at in the store', skipped: null }),
    );
  });
  it('skipped only with a reason', async () => {
    house();
    const page = await open(StepEnd, { batch: oneBatch(), step: inspect() });
    await page.press('Skip it');
    expect(page.button('Skip Inspect').disabled).toBeTrue();
    await page.type('Why is it skipped?', 'inspected yesterday');
    await page.press('Skip Inspect');
    expect(body('step.finish')).toEqual(jasmine.objectContaining({ skipped: 'inspected yesterday' }));
  });
  it('a target that is not met is said, and leaving it wants words that the book keeps', async () => {
    house();
    const salt = {
      ...oneBatch().steps.find(({ key }) => key === 'salt')!,
      open: '0 g of 460 g of salt is in',
      checks: [],
    };
    const page = await open(StepEnd, { batch: oneBatch(), step: salt });
    expect(page.text()).toContain('Not done yet: 0 g of 460 g of salt is in');
    await page.press('Leave it so');
    expect(api.sent).toEqual([]);
    expect(page.button('Leave it so').disabled).toBeTrue();
    await page.type('Why is it left so?', 'the scale broke');
    await page.press('Leave it so');
    expect(body('step.finish')).toEqual(
      jasmine.objectContaining({ step: 'salt', note: 'the scale broke', skipped: null }),
    );
  });
  it('a weight on the scale that is in no book is not walked away from', async () => {
    house();
    const salt = { ...oneBatch().steps.find(({ key }) => key === 'salt')!, checks: [] };
    const page = await open(StepEnd, { batch: oneBatch(), step: salt });
    onScale(461);
    await page.fixture.whenStable();
    expect(page.text()).toContain('461 g stands on the scale and is not recorded');
    await page.press('Leave it so');
    expect(api.sent).toEqual([]);
  });
  it('what is looked at is ticked one by one, or all that is left with one press', async () => {
    house();
    const page = await open(StepEnd, { batch: oneBatch(), step: inspect() });
    const ticked = () => page.element.querySelectorAll('ct-checks input:checked').length;
    page.element.querySelector<HTMLInputElement>('ct-checks input')!.click();
    await page.settle();
    expect([ticked(), page.button('The other 3 are so') !== undefined]).toEqual([1, true]);
    await page.press('The other 3 are so');
    expect([ticked(), page.button('The other')]).toEqual([4, undefined] as never);
    await page.press('Done');
    expect((api.sent.flat()[0]!.body as { checked: string[] }).checked.length).toBe(4);
  });
  it('two people at one step: who was first is said, and what was ticked stays', async () => {
    house();
    api.refusal = {
      type: '',
      title: '',
      status: 409,
      code: 'making.stepDone',
      detail:
        '“Inspect the produce” was finished by Tomasz Reyk at 09:12. Nothing was recorded twice: go on with the next step.',
      field: 'step',
    };
    const page = await open(StepEnd, {
      batch: oneBatch(),
      step: inspect(),
      checked: ['firm', 'ends', 'washed', 'core'],
    });
    await page.press('Done');
    expect(page.text()).toContain('finished by Tomasz Reyk at 09:12');
  });
  it('a finished step shows the way on, and nothing to record', async () => {
    house();
    const page = await open(StepEnd, {
      batch: oneBatch(),
      step: inspect({
        state: 'done',
        by: 'TR',
        at: '2026-11-23T09:12:00Z',
        unchecked: ['Fresh and firm, no mould at all'],
        note: 'by lamp',
      }),
    });
    expect(page.text()).toContain('Not ticked: Fresh and firm');
    expect(page.button('On to: Trim and weigh')).toBeDefined();
  });
});

describe('the run sheet', () => {
  const bench = async (batch: MakeReply, inputs: Record<string, unknown> = {}, person: Person = INES) => {
    house({ [`/api/making/${id('b1')}`]: batch }, person);
    return open(Bench, { batchId: id('b1'), ...inputs });
  };
  it('opens at the first step that is open, with the outline beside it', async () => {
    const page = await bench(oneBatch());
    expect(page.element.querySelector('h1')!.textContent).toBe('Inspect the produce');
    expect(page.element.querySelectorAll('.outline .step').length).toBe(oneBatch().steps.length + 1);
  });
  it('a link to a step opens it: the same sheet on another tablet', async () =>
    expect((await bench(oneBatch(), { step: 'label' })).element.querySelector('h1')!.textContent).toBe(
      'Label before the lid',
    ));
  it('goggles are asked for at the step where the chilli is', async () => {
    const page = await bench(oneBatch(), { step: 'flavour' });
    expect(page.text()).toContain('Put on first. Red chilli: Gloves and goggles; ventilate.');
  });
  it('an inspector reads the sheet and is offered nothing to record', async () => {
    const page = await bench(oneBatch(), { step: 'salt' }, INSPECTOR);
    expect(page.text()).toContain('Your sign-in reads and records nothing');
    expect([...page.element.querySelectorAll('.main button, .main input')].length).toBe(0);
  });
  it('a formula without a step for preparations can want one all the same', async () => {
    const page = await bench(oneBatch(), { step: 'flavour' });
    await page.press('Make a preparation for it');
    expect(page.button('Woken culture')).toBeDefined();
    await page.press('Put the preparation away');
    expect(page.button('Woken culture')).toBeUndefined();
  });
  it('filling waits for its questions', async () => {
    const page = await bench(oneBatch(), { step: 'fill' });
    expect(page.text()).toContain('Tick what was looked at above');
  });
  it('closed, it says so and asks for nothing', async () => {
    const page = await bench(
      oneBatch({
        closedAt: '2026-11-23T12:00:00Z',
        fills: [
          {
            lotId: id('c1'),
            code: 'NY26-327-A-K1',
            vesselTag: 'K1',
            grams: 14_900,
            fillFraction: 0.5,
            room: 'Net loft',
            labels: 1,
            closure: 'airlock',
            ...ofFill,
          },
        ],
      }),
    );
    expect(page.text()).toContain('Nothing more goes into it');
    expect(page.button('Close the batch')).toBeDefined();
    expect(
      [...page.element.querySelectorAll('.main button')].map((button) => button.textContent!.trim()),
    ).not.toContain('Close the batch');
  });
});

describe('what usually goes in of a line', () => {
  const batch = oneBatch({ lines: [{ ...oneBatch().lines[0]!, inGrams: 10, usual: { least: 80, most: 120 } }] });

  it('is said beside the field; over it the bench asks why, the portions before counted in', async () => {
    house({ [`/api/supplies?materialId=${id('e2')}`]: { lots: [supply('60', 'Juniper berries')] } });
    const page = await open(LinesStep, { batch, station: 'flavour' });
    expect(page.text()).toContain('Usually 80 g to 120 g for this batch.');
    await page.type('On the scale', '60');
    expect(page.text()).toContain('it stays under that');
    await page.type('On the scale', '112');
    expect(page.text()).toContain('That is over it: look at the scale and at the unit.');
    expect(page.text()).toContain('why more than usual');
    await page.type('Why more goes in', 'for the market');
    expect(page.text()).not.toContain('why more than usual');
  });
});

describe('formula lines', () => {
  it('one lot of it in the house need not be chosen; the next open line follows', async () => {
    house({ [`/api/supplies?materialId=${id('e2')}`]: { lots: [supply('60', 'Juniper berries')] } });
    const page = await open(LinesStep, { batch: oneBatch(), station: 'flavour' });
    await page.type('On the scale', '96');
    await page.press('Record 96 g Juniper berries');
    expect(body('ingredient.add')).toEqual({ batchId: id('b1'), fromLotId: id('60'), grams: 96, line: 'line-0' });
  });
  it('to taste is ticked; left out wants a reason', async () => {
    house();
    const page = await open(LinesStep, { batch: oneBatch(), station: 'flavour' });
    await page.press('Dill seed');
    await page.press('In, not weighed');
    expect(api.sent).toEqual([]);
    expect(page.text()).toContain('about how many grams were it');
    await page.type('On the scale', '3');
    await page.type('No lot is chosen: why does nobody know it?', 'out of the unlabelled jar');
    await page.press('In, about 3.0 g, not weighed');
    expect(body('line.settle')).toEqual({
      how: 'ticked',
      batchId: id('b1'),
      line: 'line-1',
      note: 'out of the unlabelled jar',
      fromLotId: null,
      grams: 3,
    });
    api.sent.length = 0;
    await page.press('Left out');
    expect(page.button('Leave it out').disabled).toBeTrue();
    await page.type('Why is Juniper berries left out?', 'none in the house');
    await page.press('Leave it out');
    expect(body('line.settle')).toEqual({
      how: 'leftOut',
      batchId: id('b1'),
      line: 'line-0',
      reason: 'none in the house',
    });
  });
  it('a pinch keeps its planned mass and its lot; what is always weighed is not offered to be ticked', async () => {
    house({ [`/api/supplies?materialId=${id('e2')}`]: { lots: [supply('60', 'Juniper berries')] } });
    const page = await open(LinesStep, { batch: oneBatch(), station: 'flavour' });
    await page.press('In, not weighed');
    expect(page.text()).toContain('kept as 96 g, marked as not weighed, of the lot chosen above');
    await page.press('In, about 96 g, not weighed');
    expect(body('line.settle')).toEqual({
      how: 'ticked',
      batchId: id('b1'),
      line: 'line-0',
      note: null,
      fromLotId: id('60'),
      grams: 96,
    });
    const allergen = await open(LinesStep, {
      batch: oneBatch({ lines: [{ ...oneBatch().lines[0]!, mayTick: false }] }),
      station: 'flavour',
    });
    expect(allergen.button('In, not weighed')).toBeUndefined();
    expect(allergen.button('Left out')).toBeDefined();
  });
  for (const code of ['offline', 'server.busy'] as const)
    it(`${code}: pressed again after no answer came, it is the same entry; changed, it is another`, async () => {
      house({ [`/api/supplies?materialId=${id('e2')}`]: { lots: [supply('60', 'Juniper berries')] } });
      const page = await open(LinesStep, { batch: oneBatch(), station: 'flavour' });
      api.refusal = { code, detail: 'The server does not answer.' } as typeof api.refusal;
      await page.type('On the scale', '96');
      // The recorder tries again by itself before it gives up.
      const press = async (words: string): Promise<void> => {
        await page.press(words);
        await new Promise((done) => setTimeout(done, 1400));
        await page.fixture.whenStable();
      };
      const last = (): string => api.tried.at(-1)![0]!.id;
      await press('Record 96 g');
      const first = last();
      await press('Record 96 g');
      const again = last();
      await page.type('On the scale', '97');
      await press('Record 97 g');
      const changed = last();
      api.refusal = null;
      await page.press('Record 97 g');
      expect([first === again, again === changed, changed === last()]).toEqual([true, false, true]);
      expect(api.sent.length).toBe(1);
    });
  it('stock past its date asks for the reason, and keeps the weight typed', async () => {
    house({
      [`/api/supplies?materialId=${id('e2')}`]: {
        lots: [supply('60', 'Juniper berries', { keeps: 'past', days: -3 })],
      },
    });
    const page = await open(LinesStep, { batch: oneBatch(), station: 'flavour' });
    api.refusal = {
      type: '',
      title: '',
      status: 422,
      code: 'stock.past',
      detail: 'LM-0060 was to be used by 2026-11-20.',
      field: 'pastReason',
    };
    await page.type('On the scale', '96');
    await page.press('Record 96 g');
    expect(page.text()).toContain('was to be used by 2026-11-20');
    api.refusal = null;
    await page.type('Why it goes in all the same', 'dry and whole');
    await page.press('Record 96 g');
    expect(body('ingredient.add')).toEqual(jasmine.objectContaining({ grams: 96, pastReason: 'dry and whole' }));
  });
  it('W6: 300 g of culture water, and what holds the salt where it was', async () => {
    house();
    const w6 = {
      formula: { ...oneBatch().formula, produce: [{ ...oneBatch().formula.produce[0]!, waterFraction: 0.92 }] },
      produce: [{ ...oneBatch().produce[0]!, grams: 12_000 }],
      produceGrams: 12_000,
    };
    const page = await open(LinesStep, {
      batch: oneBatch({
        ...w6,
        salt: { ...oneBatch().salt, inGrams: 264, targetGrams: 264, waterPhaseSalt: 264 / (264 + 11_340) },
      }),
      station: 'flavour',
    });
    expect(page.text()).toContain('the water phase is at 2.28 %, it was 2.34 %. 7.2 g of salt hold it there.');
  });
  it('a late vegetable joins at the scale, and is no line of the formula', async () => {
    house({ '/api/supplies?kind=produce': { lots: [supply('61', 'Carrots'), supply('62', 'White radish')] } });
    const page = await open(OtherIngredient, { batch: oneBatch(), station: 'weigh' });
    expect(page.text()).not.toContain('On the scale');
    await page.press('Another vegetable joins');
    expect(page.text()).toContain('the target of salt follows it');
    (page.fixture.componentInstance as OtherIngredient)['lotId'].set(id('61'));
    await page.type('On the scale', '900');
    await page.press('Record 900 g');
    expect(body('ingredient.add')).toEqual({ batchId: id('b1'), fromLotId: id('61'), grams: 900 });
    expect(page.button('Another vegetable joins')).toBeDefined();
  });
  it('a spice boiled with the brine is weighed into it, and said to be strained out', async () => {
    house({ '/api/supplies?kind=flavouring': { lots: [supply('60', 'Juniper berries')] } });
    const page = await open(OtherIngredient, { batch: oneBatch(), station: 'brine' });
    await page.press('A spice goes into the brine');
    (page.fixture.componentInstance as OtherIngredient)['lotId'].set(id('60'));
    await page.press('Boiled with it, strained out');
    await page.type('On the scale', '12');
    await page.press('Record 12 g');
    expect(body('ingredient.add')).toEqual({ batchId: id('b1'), fromLotId: id('60'), grams: 12, brine: 'strained' });
  });
  it('a house that starts with kept brine asks for it at once; one that does not only offers it', async () => {
    house({
      '/api/starters': {
        starters: [
          {
            lotId: id('88'),
            code: 'NY26-310-A-K1',
            name: 'Baby turnips',
            kind: 'vessel',
            onHandGrams: 9000,
            generation: 1,
            useBy: null,
            lastPh: 3.7,
            salt: { waterPhase: 0.022, ofEverything: 0.02, ofVegetable: 0.05, band: 'usual' },
            refusal: null,
          },
        ],
      },
      '/api/supplies?kind=starter': { lots: [] },
    });
    const asks = await open(LinesStep, {
      batch: oneBatch({ lines: [], rules: { starter: 'kept' } }),
      station: 'starter',
    });
    expect(asks.text()).toContain('This house starts its batches with kept brine');
    expect(asks.text()).toContain('On the scale');
    const offers = await open(LinesStep, { batch: oneBatch({ lines: [] }), station: 'starter' });
    expect(offers.text()).not.toContain('On the scale');
    expect(offers.button('Another starter goes in')).toBeDefined();
  });
  it('so with a little vinegar, unless the formula has it', async () => {
    house({ '/api/supplies?kind=flavouring': { lots: [] } });
    const asks = await open(LinesStep, { batch: oneBatch({ rules: { vinegar: 'splash' } }), station: 'flavour' });
    expect(asks.text()).toContain('a little vinegar: weigh it in');
    const has = await open(LinesStep, {
      batch: oneBatch({
        rules: { vinegar: 'splash' },
        ingredients: [{ ...oneBatch().produce[0]!, materialId: id('e4'), materialName: 'Cider vinegar' }],
      }),
      station: 'flavour',
    });
    expect(has.text()).not.toContain('a little vinegar: weigh it in');
  });
});

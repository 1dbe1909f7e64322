import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { BodyOf, DeviceReply, MakeReply, SuppliesReply } from '@clear-tally/contract';
import { devicesWire } from '../../state/devices';
import { House } from '../../state/house';
import { FakeApi, INES, inHouse, INSPECTOR, ODILE, within } from '../../state/testing';
import { Timers } from '../../state/timers';
import { Bench } from './bench';
import { BrineLeft } from './brine-left';
import { CloseBatch } from './close-batch';
import { CloseStep } from './close-step';
import { LabelStep } from './label-step';
import { LinesStep } from './lines-step';
import { PrepareStep } from './prepare-step';
import { RinseStep } from './rinse-step';
import { SaltStep } from './salt-step';
import { StepEnd } from './step-end';
import { id, oneBatch } from './one-batch.testing';

type Reply = Record<string, object>;
type Person = typeof INES | typeof ODILE | typeof INSPECTOR;
const supply = (last: string, materialName: string, over: Partial<SuppliesReply['lots'][number]> = {}): SuppliesReply['lots'][number] => ({
  lotId: id(last), code: `LM-00${last}`, materialId: id('e2'), materialName, supplierName: 'Low Mill', supplierLotCode: 'x', onHandGrams: 2000, receivedAt: '2026-11-01T07:00:00Z', useBy: null, hold: null, until: null, keeps: 'noDate', days: null, state: 'asReceived', unit: 'g', ...over,
});
const salts = { lots: [supply('50', 'Fine table salt'), supply('51', 'Coarse pan salt', { code: 'SP-0003' })] };
const materials = [{ id: id('e2'), name: 'Juniper berries', kind: 'flavouring' as const, waterFraction: 0.1, saltFraction: 0, allergens: [], caution: null, details: {} }, { id: id('e3'), name: 'Dill seed', kind: 'flavouring' as const, waterFraction: 0.1, saltFraction: 0, allergens: [], caution: null, details: {} }];
const SCALE: DeviceReply = { id: 'scale-a', kind: 'scale', name: 'Scale A', simulated: true, connected: true, ranges: [{ capacityGrams: 3000, stepGrams: 1 }], scale: null, printer: null, garbled: 0 };

let api: FakeApi;
function house(replies: Reply = {}, person: Person = INES): void {
  api = new FakeApi({ '/api/supplies?kind=salt': salts, '/api/timers': { now: new Date().toISOString(), timers: [] }, '/api/supplies': { lots: [supply('60', 'Juniper berries'), supply('61', 'Damsons', { materialId: id('e9') })] }, '/api/making': { batches: [] }, ...replies });
  inHouse(api, { materials: [...materials] }, person, [Timers]);
}
async function open<T>(component: new (...args: never[]) => T, inputs: Record<string, unknown>) {
  const fixture = TestBed.createComponent(component as never);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  await fixture.whenStable();
  return Object.assign(within(fixture), { fixture });
}
const body = <K extends 'salt.weigh' | 'step.finish' | 'line.settle' | 'ingredient.add' | 'brine.left' | 'leaf.rinse' | 'leaf.drain' | 'preparation.make' | 'vessel.close' | 'label.print' | 'salt.confirm'>(kind: K): BodyOf<K> => api.sent.flat().find((entry) => entry.kind === kind)!.body as BodyOf<K>;
const onScale = (grams: number, over: Partial<{ settled: boolean; unit: 'g' | 'oz'; tareGrams: number }> = {}): void => TestBed.inject(Store).dispatch(devicesWire.noteArrived({
  note: { id: 'scale-a', device: { ...SCALE, scale: { state: 'reading', reading: { value: grams, unit: 'g', grams, settled: true, tareGrams: 214, range: 1, ...over } } } },
}));

describe('the salt at the scale', () => {
  it('what the scale shows stands in the empty field, moves the words, and is recorded with its tare and what was seen', async () => {
    house();
    const page = await open(SaltStep, { batch: oneBatch() });
    onScale(309);
    await page.fixture.whenStable();
    expect(page.field('Salt, on the scale').placeholder).toBe('309');
    expect(page.text()).toContain('12 g more');
    onScale(321);
    await page.fixture.whenStable();
    expect(page.text()).toContain('in: -0.1 % off the target');
    await page.press('Record 321 g salt');
    expect(body('salt.weigh')).toEqual({ batchId: id('b1'), saltLotId: id('51'), grams: 321, alreadyIn: false, tareGrams: 214, saw: { inGrams: 0, targetGrams: 321.2 } });
  });
  it('the same bowl is not taken twice', async () => {
    house();
    const page = await open(SaltStep, { batch: oneBatch() });
    onScale(200);
    await page.fixture.whenStable();
    await page.press('Record 200 g salt');
    await page.fixture.whenStable();
    expect(page.text()).toContain('200 g of this is recorded. Take the bowl off');
    expect(page.button('Record').disabled).toBeTrue();
    onScale(0);
    await page.fixture.whenStable();
    onScale(121);
    await page.fixture.whenStable();
    expect(page.button('Record').disabled).toBeFalse();
  });
  it('nothing is recorded while the scale moves, in ounces, or silent', async () => {
    house();
    const page = await open(SaltStep, { batch: oneBatch() });
    onScale(321, { settled: false });
    await page.fixture.whenStable();
    expect(page.button('Record').disabled).toBeTrue();
    onScale(321, { unit: 'oz' });
    await page.fixture.whenStable();
    expect(page.text()).toContain('The scale is switched to oz');
    await page.press('Switch it to grams');
    expect(api.said).toEqual(['scale-a UNIT g']);
    TestBed.inject(Store).dispatch(devicesWire.noteArrived({ note: { id: 'scale-a', device: { ...SCALE, scale: { state: 'silent' } } } }));
    await page.fixture.whenStable();
    expect(page.text()).toContain('says nothing');
  });
  it('what is typed takes the place of the scale', async () => {
    house();
    const page = await open(SaltStep, { batch: oneBatch() });
    onScale(309);
    await page.type('Salt, on the scale', '342');
    expect(page.text()).toContain('21 g over: take it out');
    await page.press('It is in already');
    expect(body('salt.weigh')).toEqual({ batchId: id('b1'), saltLotId: id('51'), grams: 342, alreadyIn: true, saw: { inGrams: 0, targetGrams: 321.2 } });
  });
  it('the lot chosen stays chosen when the stores are read again', async () => {
    house();
    const page = await open(SaltStep, { batch: oneBatch() });
    const step = page.fixture.componentInstance as unknown as { lotId: { set(value: string): void; (): string | null } };
    expect(step.lotId()).toBe(id('51'));
    step.lotId.set(id('50'));
    await page.type('Salt, on the scale', '200');
    await page.press('Record 200 g salt');
    await page.fixture.whenStable();
    expect(step.lotId()).toBe(id('50'));
  });
  it('bowl by bowl: parts that add up, and the beam wants the part of the bowl in hand', async () => {
    house();
    const page = await open(SaltStep, { batch: oneBatch() });
    await page.press('Bowl by bowl');
    expect(page.text()).toContain('bowl 1: 10.22 kg → 225 g');
    expect(page.text()).toContain('bowl 2: 4,380 g → 96 g');
    await page.type('Salt, on the scale', '225');
    expect(page.text()).toContain('in: 0.0 % off the target');
  });
  it('a dose too small for this scale is sent to the finer one', async () => {
    house();
    const store = TestBed.inject(Store);
    store.dispatch(devicesWire.noteArrived({ note: { id: 'scale-a', device: { ...SCALE, ranges: [{ capacityGrams: 15_000, stepGrams: 5 }], scale: { state: 'silent' } } } }));
    store.dispatch(devicesWire.noteArrived({ note: { id: 'scale-b', device: { ...SCALE, id: 'scale-b', name: 'Fine scale B', ranges: [{ capacityGrams: 500, stepGrams: 0.1 }], scale: { state: 'silent' } } } }));
    const page = await open(SaltStep, { batch: oneBatch({ salt: { ...oneBatch().salt, targetGrams: 118 } }) });
    expect(page.text()).toContain('118 g on steps of 5 g is off by more than 2 % of the dose.');
    await page.press('Use Fine scale B');
    expect(page.text()).toContain('500 g × 0.1 g');
  });
  it('a second person confirms, and not the one who weighed', async () => {
    const salted = oneBatch({ salt: { ...oneBatch().salt, inGrams: 321, waterPhaseSalt: 0.0234 }, confirmation: { wanted: true, by: null, weighedBy: [INES.id] } });
    house();
    const weigher = await open(SaltStep, { batch: salted });
    expect(weigher.button('Confirm 321 g').disabled).toBeTrue();
    TestBed.resetTestingModule();
    house({}, ODILE);
    const other = await open(SaltStep, { batch: salted });
    await other.press('Confirm 321 g');
    expect(body('salt.confirm')).toEqual({ batchId: id('b1'), sawGrams: 321 });
  });
});

describe('the end of a step', () => {
  const inspect = (over: Partial<MakeReply['steps'][number]> = {}) => ({ ...oneBatch().steps[0]!, ...over });
  it('unticked, it asks why it goes on; the reason is kept with it', async () => {
    house();
    const page = await open(StepEnd, { batch: oneBatch(), step: inspect() });
    await page.press('Done');
    expect(api.sent).toEqual([]);
    await page.type('Why does it go on without?', 'looked at in the store');
    await page.press('Done');
    expect(body('step.finish')).toEqual(jasmine.objectContaining({ step: 'inspect', checked: [], note: 'looked at in the store', skipped: null }));
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
  it('two people at one step: who was first is said, and what was ticked stays', async () => {
    house();
    api.refusal = { type: '', title: '', status: 409, code: 'making.stepDone', detail: '“Inspect the produce” was finished by Tomasz Reyk at 09:12. Nothing was recorded twice: go on with the next step.', field: 'step' };
    const page = await open(StepEnd, { batch: oneBatch(), step: inspect(), checked: ['firm', 'ends'] });
    await page.press('Done');
    expect(page.text()).toContain('finished by Tomasz Reyk at 09:12');
  });
  it('a finished step shows the way on, and nothing to record', async () => {
    house();
    const page = await open(StepEnd, { batch: oneBatch(), step: inspect({ state: 'done', by: 'TR', at: '2026-11-23T09:12:00Z', unchecked: ['Fresh and firm, no mould at all'], note: 'by lamp' }) });
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
  it('a link to a step opens it: the same sheet on another tablet', async () => expect((await bench(oneBatch(), { step: 'label' })).element.querySelector('h1')!.textContent).toBe('Label before the lid'));
  it('goggles are asked for at the step where the chilli is', async () => {
    const page = await bench(oneBatch(), { step: 'flavour' });
    expect(page.text()).toContain('Put on first. Red chilli: Gloves and goggles; ventilate.');
  });
  it('an inspector reads the sheet and is offered nothing to record', async () => {
    const page = await bench(oneBatch(), { step: 'salt' }, INSPECTOR);
    expect(page.text()).toContain('Your sign-in reads and records nothing');
    expect([...page.element.querySelectorAll('.main button, .main input')].length).toBe(0);
  });
  it('filling waits for its questions', async () => {
    const page = await bench(oneBatch(), { step: 'fill' });
    expect(page.text()).toContain('Tick what was looked at above');
  });
  it('closed, it says so and asks for nothing', async () => {
    const page = await bench(oneBatch({ closedAt: '2026-11-23T12:00:00Z', fills: [{ lotId: id('c1'), code: 'NY26-327-A-K1', vesselTag: 'K1', grams: 14_900, fillFraction: 0.5, room: 'Net loft', labels: 1, closure: 'airlock' }] }));
    expect(page.text()).toContain('Nothing more goes into it');
    expect(page.button('Close the making')).toBeDefined();
    expect([...page.element.querySelectorAll('.main button')].map((button) => button.textContent!.trim())).not.toContain('Close the making');
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
    expect(body('line.settle')).toEqual({ how: 'ticked', batchId: id('b1'), line: 'line-1', note: null });
    api.sent.length = 0;
    await page.press('Left out');
    expect(page.button('Leave it out').disabled).toBeTrue();
    await page.type('Why is Juniper berries left out?', 'none in the house');
    await page.press('Leave it out');
    expect(body('line.settle')).toEqual({ how: 'leftOut', batchId: id('b1'), line: 'line-0', reason: 'none in the house' });
  });
  it('stock past its date asks for the reason, and keeps the weight typed', async () => {
    house({ [`/api/supplies?materialId=${id('e2')}`]: { lots: [supply('60', 'Juniper berries', { keeps: 'past', days: -3 })] } });
    const page = await open(LinesStep, { batch: oneBatch(), station: 'flavour' });
    api.refusal = { type: '', title: '', status: 422, code: 'stock.past', detail: 'LM-0060 was to be used by 2026-11-20.', field: 'pastReason' };
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
    const w6 = { formula: { ...oneBatch().formula, produce: [{ ...oneBatch().formula.produce[0]!, waterFraction: 0.92 }] }, produce: [{ ...oneBatch().produce[0]!, grams: 12_000 }], produceGrams: 12_000 };
    const page = await open(LinesStep, { batch: oneBatch({ ...w6, salt: { ...oneBatch().salt, inGrams: 264, targetGrams: 264, waterPhaseSalt: 264 / (264 + 11_340) } }), station: 'flavour' });
    expect(page.text()).toContain('the water phase is at 2.28 %, it was 2.34 %. 7.2 g of salt hold it there.');
  });
});

describe('preparations', () => {
  it('a paste of weighed lots becomes a lot of its own; formula lines in it are settled', async () => {
    house();
    const page = await open(PrepareStep, { batch: oneBatch() });
    const step = page.fixture.componentInstance as unknown as { lotId: { set(value: string): void } };
    for (const [lot, grams] of [[id('60'), '96'], [id('61'), '720']] as const) {
      step.lotId.set(lot);
      await page.type('On the scale', grams);
      await page.press('Add');
    }
    expect(page.text()).toContain('Together816 g');
    await page.type('Boiled off', '16');
    await page.press('Make paste, 800 g');
    expect(body('preparation.make')).toEqual(jasmine.objectContaining({ form: 'paste', name: 'Paste', boiledOffGrams: 16, parts: [{ fromLotId: id('60'), grams: 96, line: 'line-0' }, { fromLotId: id('61'), grams: 720, line: null }] }));
  });
  it('parts weighed and not yet made outlive a reload of the page', async () => {
    localStorage.setItem(`ct.parts.${id('b1')}`, JSON.stringify([{ fromLotId: id('60'), label: 'LM-0060 Juniper berries', grams: 96, line: 'line-0' }]));
    house();
    const page = await open(PrepareStep, { batch: oneBatch() });
    expect(page.text()).toContain('LM-0060 Juniper berries96 g');
    await page.press('Take it off the list');
    expect(localStorage.getItem(`ct.parts.${id('b1')}`)).toBeNull();
  });
  it('a woken culture opens its sachet and starts its clock', async () => {
    localStorage.setItem(`ct.parts.${id('b1')}`, JSON.stringify([{ fromLotId: id('60'), label: 'LM-0060 Culture', grams: 1.4, line: null }, { fromLotId: id('61'), label: 'tap', grams: 100, line: null }]));
    house();
    TestBed.inject(House).house()!.materials.push({ id: id('e2'), name: 'Culture', kind: 'starter', waterFraction: 0, saltFraction: 0, allergens: [], caution: null, details: { keepsOpenedDays: 3 } });
    const page = await open(PrepareStep, { batch: oneBatch() });
    await page.press('Woken culture');
    await page.press('Make woken culture');
    expect(api.sent[0]!.map((entry) => entry.kind)).toEqual(['preparation.make', 'supply.state']);
    expect(api.sent[1]![0]).toEqual(jasmine.objectContaining({ kind: 'timer.start', body: jasmine.objectContaining({ words: 'Culture wakes up', minutes: 15 }) }));
  });
  it('W12: left-over brine asks whether it touched the product', async () => {
    house();
    const batch = oneBatch({ preparations: [{ lotId: id('d1'), code: 'NY26-327-A-b1', form: 'brine', name: 'Brine', madeGrams: 8900, onHandGrams: 3000, touched: null, generation: null, useBy: null }], fills: [{ lotId: id('c1'), code: 'NY26-327-A-D1', vesselTag: 'D1', grams: 12_000, fillFraction: 0.8, room: 'Net loft', labels: 0, closure: null }] });
    const page = await open(BrineLeft, { batch });
    expect(page.text()).toContain('made 8,900 g');
    expect(page.text()).toContain('poured 5,900 g');
    await page.press('It never touched it');
    expect(body('brine.left')).toEqual({ brineLotId: id('d1'), grams: 3000, touched: 'never', fillLotId: null, keptLotId: null });
    api.sent.length = 0;
    await page.press('Poured off it');
    expect(body('brine.left')).toEqual(jasmine.objectContaining({ touched: 'pouredOff', fillLotId: id('c1') }));
  });
});

describe('the rinsed leaf', () => {
  const leaf: NonNullable<MakeReply['leaf']> = { log: [], saltedAt: '2026-11-23T07:00:00Z', estimate: 0.0272, least: 0.021, most: 0.034, rinses: 3, minutes: 90, leafSalt: 0.0272, measured: false, drainedGrams: null, wanted: 0.026, pasteSaltGrams: 12 };
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
    expect(body('leaf.rinse')).toEqual({ batchId: id('b1'), waterGrams: 2000, tasted: 'between', measured: { waterPhaseSalt: 0.031, how: 'meter' } });
  });
  it('a loss leaves do not have asks what happened', async () => {
    house();
    const page = await open(RinseStep, { batch: oneBatch({ leaf, produceGrams: 6000 }) });
    api.refusal = { type: '', title: '', status: 422, code: 'leaf.lossOutsideRange', detail: 'Of 6,000 g leaf 3,000 g is left: 50 % gone.', field: 'drainedGrams' };
    await page.type('Drained leaf', '3');
    await page.press('Record 3,000 g drained');
    expect(page.text()).toContain('50 % gone');
    api.refusal = null;
    await page.type('What happened to the rest?', 'a bowl fell');
    await page.press('Record 3,000 g drained');
    expect(body('leaf.drain')).toEqual(jasmine.objectContaining({ drainedGrams: 3000, reason: 'a bowl fell' }));
  });
});

describe('closing', () => {
  const fill = (over: Partial<MakeReply['fills'][number]> = {}) => ({ lotId: id('c1'), code: 'NY26-327-A-K1', vesselTag: 'K1', grams: 14_900, fillFraction: 0.5, room: 'Net loft', labels: 0, closure: null, ...over });
  it('weights go in counted', async () => {
    house();
    const page = await open(CloseStep, { batch: oneBatch({ fills: [fill()] }) });
    await page.type('How many in', '2');
    await page.type('Headspace, mm', '60');
    await page.press('Close K1');
    expect(body('vessel.close')).toEqual({ lotId: id('c1'), closure: 'airlock', headspaceMm: 60, weightItems: [{ what: 'glass weights', count: 2, grams: null }], tray: true });
  });
  it('a label counts as printed when the printer says it is out', async () => {
    house();
    TestBed.inject(Store).dispatch(devicesWire.noteArrived({ note: { id: 'labels', device: { ...SCALE, id: 'labels', kind: 'printer', name: 'Label printer', printer: { state: 'ready', labels: 9 }, scale: null, ranges: [] } } }));
    const page = await open(LabelStep, { batch: oneBatch({ fills: [fill()] }) });
    api.refusal = { type: '', title: '', status: 409, code: 'device.refused', detail: 'The printer is jammed: open it, take the label out, close it. Nothing is marked as printed.' };
    await page.press('Print on Label printer');
    expect(page.text()).toContain('The printer is jammed');
    expect(api.sent).toEqual([]);
    api.refusal = null;
    await page.press('Print on Label printer');
    expect(body('label.print')).toEqual({ lotIds: [id('c1')], copies: 1, printer: 'Label printer' });
  });
  it('names what is open, skipped and left out before the making is closed', async () => {
    house();
    const steps = oneBatch().steps.map((step) => (step.key === 'rest' ? { ...step, state: 'skipped' as const, by: 'IC', at: '2026-11-23T09:00:00Z', note: 'juice stood at once' } : step.key === 'label' ? step : { ...step, state: 'done' as const }));
    const page = await open(CloseBatch, { batch: oneBatch({ steps, fills: [fill()], inBowlsGrams: 41, lines: [{ ...oneBatch().lines[0]!, state: 'leftOut', reason: 'none in the house' }] }) });
    expect(page.text()).toContain('Label before the lid: not done');
    expect(page.text()).toContain('Rest, turn, press: skipped, juice stood at once');
    expect(page.text()).toContain('Juniper berries: left out, none in the house');
    expect(page.button('Record 41 g as residue')).toBeDefined();
  });
});

import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { devicesWire } from '../../state/devices';
import { INES, ODILE } from '../../state/testing';
import { SaltStep } from './salt-step';
import { id, oneBatch } from './one-batch.testing';
import { SCALE, api, house, open, body, onScale } from './bench.testing';

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
    expect(body('salt.weigh')).toEqual({
      batchId: id('b1'),
      saltLotId: id('51'),
      grams: 321,
      alreadyIn: false,
      tareGrams: 214,
      saw: { inGrams: 0, targetGrams: 321.2 },
    });
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
    TestBed.inject(Store).dispatch(
      devicesWire.noteArrived({ note: { id: 'scale-a', device: { ...SCALE, scale: { state: 'silent' } } } }),
    );
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
    expect(body('salt.weigh')).toEqual({
      batchId: id('b1'),
      saltLotId: id('51'),
      grams: 342,
      alreadyIn: true,
      saw: { inGrams: 0, targetGrams: 321.2 },
    });
  });
  it('the lot chosen stays chosen when the stores are read again', async () => {
    house();
    const page = await open(SaltStep, { batch: oneBatch() });
    const step = page.fixture.componentInstance as unknown as {
      lotId: { set(value: string): void; (): string | null };
    };
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
    store.dispatch(
      devicesWire.noteArrived({
        note: {
          id: 'scale-a',
          device: { ...SCALE, ranges: [{ capacityGrams: 15_000, stepGrams: 5 }], scale: { state: 'silent' } },
        },
      }),
    );
    store.dispatch(
      devicesWire.noteArrived({
        note: {
          id: 'scale-b',
          device: {
            ...SCALE,
            id: 'scale-b',
            name: 'Fine scale B',
            ranges: [{ capacityGrams: 500, stepGrams: 0.1 }],
            scale: { state: 'silent' },
          },
        },
      }),
    );
    const page = await open(SaltStep, { batch: oneBatch({ salt: { ...oneBatch().salt, targetGrams: 118 } }) });
    expect(page.text()).toContain('118 g on steps of 5 g is off by more than 2 % of the dose.');
    await page.press('Use Fine scale B');
    expect(page.text()).toContain('500 g × 0.1 g');
  });
  it('a second person confirms, and not the one who weighed', async () => {
    const salted = oneBatch({
      salt: { ...oneBatch().salt, inGrams: 321, waterPhaseSalt: 0.0234 },
      confirmation: { wanted: true, by: null, weighedBy: [INES.id] },
    });
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

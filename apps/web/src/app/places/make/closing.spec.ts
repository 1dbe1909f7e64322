import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { MakeReply } from '@clear-tally/contract';
import { devicesWire } from '../../state/devices';
import { CloseBatch } from './close-batch';
import { FillStep } from './fill-step';
import { CloseStep } from './close-step';
import { LabelStep } from './label-step';
import { id, oneBatch, ofFill } from './one-batch.testing';
import { SCALE, api, house, open, body } from './bench.testing';

describe('closing', () => {
  const fill = (over: Partial<MakeReply['fills'][number]> = {}) => ({
    lotId: id('c1'),
    code: 'NY26-327-A-K1',
    vesselTag: 'K1',
    grams: 14_900,
    fillFraction: 0.5,
    room: 'Net loft',
    labels: 0,
    closure: null,
    ...ofFill,
    ...over,
  });
  it('what is in the bowls is split over vessels in parts that add up', async () => {
    house();
    const page = await open(FillStep, { batch: oneBatch({ inBowlsGrams: 14_921 }) });
    await page.type('Split it over', '3');
    expect(page.text()).toContain('4,974 g');
    await page.press('4,973 g');
    expect(page.field('From the bowls').value).toBe('4.973');
  });
  const brine = {
    lotId: id('d1'),
    code: 'NY26-327-A-b1',
    waterGrams: 2000,
    saltGrams: 80,
    onHandGrams: 2080,
    contents: { grams: 2080, waterGrams: 2000, saltGrams: 80, vegetableGrams: 0, known: true },
  };
  const turnips = { grams: 1400, waterGrams: 1288, saltGrams: 0, vegetableGrams: 1400, known: true };
  it('at the lid stands the salt of what is poured, not of what was planned', async () => {
    house();
    const page = await open(FillStep, { batch: oneBatch({ bowls: turnips, brine, inBowlsGrams: 1400 }) });
    await page.type('From the bowls', '1.4');
    await page.type('Brine poured', '0.9');
    expect(page.text()).toContain('would stand at 1.58 % water-phase salt, caution · 1.51 % of the total mass');
    await page.type('Brine poured', '0.5');
    expect(page.text()).toContain('1.08 % water-phase salt, weak');
    expect(page.text()).toContain('ask a reviewer');
    expect(page.button('Fill').disabled).toBeTrue();
  });
  it('a vessel that stands weak is not closed by a maker', async () => {
    house();
    const weak = fill({ salt: { waterPhase: 0.0108, ofEverything: 0.0101, ofVegetable: null, band: 'weak' } });
    const page = await open(CloseStep, { batch: oneBatch({ fills: [weak] }) });
    expect(page.text()).toContain('closed so only with a reviewer’s written reason');
    expect(page.button('Close K1').disabled).toBeTrue();
    const accepted = await open(CloseStep, { batch: oneBatch({ fills: [{ ...weak, weakAccepted: true }] }) });
    expect(accepted.button('Close K1').disabled).toBeFalse();
  });
  it('closure and weight are proposed as this house does it', async () => {
    house();
    const page = await open(CloseStep, {
      batch: oneBatch({ fills: [fill()], rules: { lid: 'loose', weight: 'leaf' } }),
    });
    await page.type('How many in', '1');
    await page.press('Close K1');
    expect(body('vessel.close')).toEqual(
      jasmine.objectContaining({ closure: 'loose', weightItems: [{ what: 'cover leaf', count: 1, grams: null }] }),
    );
  });
  it('weights go in counted', async () => {
    house();
    const page = await open(CloseStep, { batch: oneBatch({ fills: [fill()] }) });
    await page.type('How many in', '2');
    await page.type('Headspace, mm', '60');
    await page.press('Close K1');
    expect(body('vessel.close')).toEqual({
      lotId: id('c1'),
      closure: 'airlock',
      headspaceMm: 60,
      weightItems: [{ what: 'glass weights', count: 2, grams: null }],
      tray: true,
    });
  });
  it('a label counts as printed when the printer says it is out', async () => {
    house();
    TestBed.inject(Store).dispatch(
      devicesWire.noteArrived({
        note: {
          id: 'labels',
          device: {
            ...SCALE,
            id: 'labels',
            kind: 'printer',
            name: 'Label printer',
            printer: { state: 'ready', labels: 9 },
            scale: null,
            ranges: [],
          },
        },
      }),
    );
    const page = await open(LabelStep, { batch: oneBatch({ fills: [fill()] }) });
    api.refusal = {
      type: '',
      title: '',
      status: 409,
      code: 'device.refused',
      detail: 'The printer is jammed: open it, take the label out, close it. Nothing is marked as printed.',
    };
    await page.press('Print on Label printer');
    expect(page.text()).toContain('The printer is jammed');
    expect(api.sent).toEqual([]);
    api.refusal = null;
    await page.press('Print on Label printer');
    expect(body('label.print')).toEqual({ lotIds: [id('c1')], copies: 1, printer: 'Label printer' });
  });
  it('names what is open, skipped and left out before the making is closed', async () => {
    house();
    const steps = oneBatch().steps.map((step) =>
      step.key === 'rest'
        ? { ...step, state: 'skipped' as const, by: 'IC', at: '2026-11-23T09:00:00Z', note: 'juice stood at once' }
        : step.key === 'label'
          ? step
          : { ...step, state: 'done' as const },
    );
    const page = await open(CloseBatch, {
      batch: oneBatch({
        steps,
        fills: [fill()],
        inBowlsGrams: 41,
        lines: [{ ...oneBatch().lines[0]!, state: 'leftOut', reason: 'none in the house' }],
      }),
    });
    expect(page.text()).toContain('Label before the lid: not done');
    expect(page.text()).toContain('Rest, turn, press: skipped, juice stood at once');
    expect(page.text()).toContain('Juniper berries: left out, none in the house');
    expect(page.button('Record 41 g as residue')).toBeDefined();
  });
});

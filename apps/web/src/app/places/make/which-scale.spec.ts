import { TestBed } from '@angular/core/testing';
import { A_HOUSE, INES } from '../../state/testing';
import { oneBatch, weighed } from './one-batch.testing';
import { api, body, house, onScale, open, registered } from './bench.testing';
import { ProduceStep } from './produce-step';
import { SaltStep } from './salt-step';

const [SC1, SC2, SC3] = [registered('SC1', 6000, 1), registered('SC2', 150_000, 50), registered('SC3', 500, 0.1)];
const scales = { scales: [SC1, SC2, SC3] };

describe('the scale something is weighed on', () => {
  it('is said once, goes with every mass, and makes targets as fine as it shows them', async () => {
    house({}, INES, scales);
    const page = await open(SaltStep, { batch: oneBatch() });
    expect(page.text()).toContain('Salt wanted321 g');
    await page.choose('Weighed on', SC3.id);
    expect(page.text()).toContain('Salt wanted321.2 g');
    await page.type('Salt, on the scale', '160.5');
    await page.press('Record 160.5 g salt');
    expect(body('salt.weigh')).toEqual(jasmine.objectContaining({ grams: 160.5, scaleId: SC3.id }));
    // Another tablet's page, and another step of this one: what is weighed there is weighed elsewhere.
    TestBed.resetTestingModule();
    house({}, INES, scales);
    await (await open(SaltStep, { batch: oneBatch() })).type('Salt, on the scale', '100');
    await (await open(ProduceStep, { batch: oneBatch() })).settle();
    expect((await open(SaltStep, { batch: oneBatch() })).text()).toContain('Salt wanted321.2 g');
    expect((await open(ProduceStep, { batch: oneBatch() })).text()).not.toContain('due for a weight');
  });

  it('too coarse for the dose says which is fine enough; found wrong or due it says so', async () => {
    house({}, INES, scales);
    const page = await open(SaltStep, { batch: oneBatch() });
    await page.choose('Weighed on', SC2.id);
    expect(page.text()).toContain(
      '321 g on steps of 50 g is off by more than 2 % of the dose. SC1 A scale is fine enough.',
    );
    TestBed.resetTestingModule();
    house({}, INES, { scales: [{ ...SC2, passed: false }] });
    expect((await open(ProduceStep, { batch: oneBatch() })).text()).toContain('did not show its weight right');
    TestBed.resetTestingModule();
    house({}, INES, { scales: [{ ...SC2, passed: null, checkedAt: null }] });
    expect((await open(ProduceStep, { batch: oneBatch() })).text()).toContain('never held against a weight');
  });

  it('a scale that speaks is another one than what is typed', async () => {
    house({}, INES, scales);
    const page = await open(SaltStep, { batch: oneBatch() });
    onScale(160);
    await page.settle();
    await page.choose('Weighed on', SC1.id);
    await page.press('Record 160 g salt');
    expect(body('salt.weigh')).toEqual(jasmine.objectContaining({ scaleId: SC1.id, tareGrams: 214 }));
  });

  beforeEach(() => localStorage.removeItem('ct.weighed-on'));
});

describe('one unit at the bench', () => {
  it('stands in the field and is what is meant; typed with its unit any is taken', async () => {
    const of = (massUnit: 'g' | 'kg' | 'both') => ({ settings: { ...A_HOUSE.settings, massUnit } });
    for (const [unit, typed] of [
      ['g', '14600'],
      ['kg', '14.6'],
      ['both', '14.6'],
      ['g', '14.6 kg'],
    ] as const) {
      TestBed.resetTestingModule();
      house({}, INES, of(unit));
      const page = await open(ProduceStep, { batch: oneBatch() });
      await page.type('Trimmed, on the scale', typed);
      expect(page.text()).withContext(`${unit} ${typed}`).toContain('Record 14.60 kg trimmed');
    }
    TestBed.resetTestingModule();
    house({}, INES, of('g'));
    const page = await open(ProduceStep, { batch: oneBatch() });
    await page.type('Trimmed, on the scale', '14.6');
    expect(page.text()).toContain('15 g, where 14.60 kg is planned: was 14.60 kg meant?');
    await page.type('Trimmed off', '0.9');
    expect(page.text()).toContain('0.9 g, where such a mass is usually weighed in kilograms: was 900 g meant?');
    await page.type('Trimmed off', '0.9 g');
    expect(page.text()).not.toContain('was 900 g meant?');
    TestBed.resetTestingModule();
    house({}, INES, of('kg'));
    const salt = await open(SaltStep, { batch: oneBatch() });
    await salt.type('Salt, on the scale', '0.321');
    expect(salt.text()).toContain('Record 321 g salt');
  });
});

describe('a bowl that was weighed with what is in it', () => {
  it('is taken off by a correction of mass and tare, from the list beside the scale', async () => {
    const row = weighed('a1', 10_706);
    const batch = oneBatch({ produce: [row] });
    const entry = {
      entryId: row.entryId,
      kind: 'produce.weigh',
      happenedAt: '2026-11-23T07:00:00Z',
      body: { batchId: batch.batchId, supplyLotId: row.entryId, trimmedGrams: 10_706, trimWasteGrams: 0 },
    };
    house({ [`/api/entries/${row.entryId}`]: entry });
    const page = await open(ProduceStep, { batch });
    await page.press('Bowl off');
    await page.type('The empty bowl of CG-0001', '486');
    await page.press('10.71 kg less the bowl: 10.22 kg');
    expect(api.sent.flat().map(({ kind, body: sent }) => [kind, sent])).toEqual([
      [
        'entry.correct',
        {
          corrects: row.entryId,
          reason: 'the bowl was on it: 486 g',
          instead: {
            kind: 'produce.weigh',
            happenedAt: entry.happenedAt,
            body: { ...entry.body, trimmedGrams: 10_220, tareGrams: 486 },
          },
        },
      ],
    ]);
    await page.press('Bowl off');
    await page.type('The empty bowl of CG-0001', '11 kg');
    expect(page.text()).toContain('missing: a bowl lighter than the mass');
  });

  it('comes off what was weighed, not off what is left of it after some went back; a tare of before counts with it', async () => {
    const row = weighed('a1', 9_000);
    const batch = oneBatch({ produce: [row] });
    const was = { batchId: batch.batchId, supplyLotId: row.entryId, trimmedGrams: 10_706, trimWasteGrams: 0 };
    const entry = { entryId: row.entryId, kind: 'produce.weigh', happenedAt: '2026-11-23T07:00:00Z' };
    house({ [`/api/entries/${row.entryId}`]: { ...entry, body: { ...was, tareGrams: 214 } } });
    const page = await open(ProduceStep, { batch });
    await page.press('Bowl off');
    await page.type('The empty bowl of CG-0001', '486');
    await page.press('9,000 g less the bowl: 8,514 g');
    const { instead } = api.sent.flat()[0]!.body as { instead: { body: object } };
    expect(instead.body).toEqual({ ...was, trimmedGrams: 10_220, tareGrams: 700 });
  });

  it('cannot be pressed before what stands in the book has been read, and says when it cannot be', async () => {
    house();
    const page = await open(ProduceStep, { batch: oneBatch({ produce: [weighed('a1', 10_706)] }) });
    await page.press('Bowl off');
    await page.type('The empty bowl of CG-0001', '486');
    expect(page.button('10.71 kg less the bowl: 10.22 kg')!.disabled).toBeTrue();
    expect(page.text()).toContain('missing: what stands in the book; it is being read');
    expect(page.text()).toContain(`nothing at /api/entries/${weighed('a1', 0).entryId}`);
  });

  it('is not taken off a share of what was weighed together', async () => {
    house();
    const page = await open(ProduceStep, { batch: oneBatch({ produce: [weighed('a1', 5714, { together: true })] }) });
    expect(page.button('Bowl off')).toBeUndefined();
  });
});

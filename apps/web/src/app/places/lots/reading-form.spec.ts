import { TestBed } from '@angular/core/testing';
import { FakeApi, inHouse, INES, within } from '../../state/testing';
import { When } from '../../state/when';
import { ReadingForm } from './reading-form';

const LOT = '018f6b1e-0000-7000-8000-0000000000aa';

describe('a reading at the head of the book', () => {
  let api: FakeApi;
  const open = async (reads: Record<string, object> = {}) => {
    api = new FakeApi(reads);
    inHouse(api);
    const fixture = TestBed.createComponent(ReadingForm);
    fixture.componentRef.setInput('lotId', LOT);
    await fixture.whenStable();
    return within(fixture);
  };

  it('pH and temperature go together, in the maker’s name, and the fields are empty again', async () => {
    const page = await open();
    await page.type('pH', '3.68');
    await page.type('Vessel, °C', '57.2 F');
    await page.press('Record pH 3.68, 14.0 °C');
    expect(api.sent[0]!.map((entry) => [entry.kind, entry.by])).toEqual([
      ['ph.read', INES.id],
      ['temperature.read', INES.id],
    ]);
    expect(api.sent[0]![0]!.body).toEqual({ lotId: LOT, ph: 3.68, sample: 'blended' });
    expect(page.field('pH').value).toBe('');
  });
  it('either alone will do, and brine only is said', async () => {
    const page = await open();
    await page.press('Brine only');
    await page.type('pH', '3,9');
    await page.press('Record pH 3.9');
    expect(api.sent[0]!.length).toBe(1);
    expect(api.sent[0]![0]!.body).toEqual({ lotId: LOT, ph: 3.9, sample: 'brine' });
  });
  it('what was chosen stays, though the last reading becomes known only now', async () => {
    api = new FakeApi({});
    inHouse(api);
    const fixture = TestBed.createComponent(ReadingForm);
    fixture.componentRef.setInput('lotId', LOT);
    const page = within(fixture);
    await fixture.whenStable();
    await page.press('Brine only');
    fixture.componentRef.setInput('lastSample', 'blended');
    await page.type('pH', '3.72');
    await page.press('Record pH 3.72');
    expect(api.sent[0]![0]!.body).toEqual({ lotId: LOT, ph: 3.72, sample: 'brine' });
  });
  it('pH 45 is refused in its field, with a guess', async () => {
    const page = await open();
    await page.type('pH', '45');
    expect(page.text()).toContain('Did you mean 4.5?');
    expect(page.button('Record a reading').disabled).toBeTrue();
  });
  it('a rare pH is asked about, and taken when it is confirmed', async () => {
    const page = await open();
    await page.type('pH', '8.1');
    expect(page.button('Record a reading').disabled).toBeTrue();
    await page.press('Read again: it is pH 8.1');
    await page.press('Record pH 8.1');
    expect(api.sent[0]![0]!.body).toEqual({ lotId: LOT, ph: 8.1, sample: 'blended', confirmedUnusual: true });
  });
  it('a rare pH typed with its sign is the figure it says', async () => {
    const page = await open();
    await page.type('pH', 'pH 2.1');
    await page.press('Read again: it is pH');
    await page.press('Record pH 2.1');
    expect(api.sent[0]![0]!.body).toEqual({ lotId: LOT, ph: 2.1, sample: 'blended', confirmedUnusual: true });
  });
  it('the sample’s temperature is not the vessel’s: two fields, two facts', async () => {
    const page = await open({
      '/api/meters': {
        meters: [
          {
            meterId: LOT,
            tag: 'M2',
            name: 'Bench meter',
            kind: 'meter',
            fit: true,
            reasons: [],
            since: null,
            until: '2026-11-24T06:00:00Z',
            calibrations: [],
          },
        ],
      },
    });
    await page.type('pH', '3.7');
    await page.type('Sample, °C', '21');
    await page.press('Record pH 3.7');
    expect(api.sent[0]!.map(({ kind }) => kind)).toEqual(['ph.read']);
    expect(api.sent[0]![0]!.body).toEqual(jasmine.objectContaining({ sampleCelsius: 21, meterId: LOT }));
  });
  it('read late, a meter is what it was then: the only one is in hand, and it says whether it was fit', async () => {
    const calibration = {
      by: 'TR',
      buffers: [7, 4.01],
      slopePercent: 98,
      offsetMillivolts: 2,
      check: { buffer: 4.01, read: 4.02 },
    };
    const meter = {
      meterId: LOT,
      tag: 'M1',
      name: 'Bench meter',
      kind: 'meter',
      fit: false,
      reasons: ['last calibrated 460 h ago, 24 h are granted'],
      since: null,
      until: null,
      calibrations: ['2026-11-20T09:00:00Z', '2026-11-08T09:00:00Z'].map((at) => ({ ...calibration, at })),
    };
    const page = await open({ '/api/meters': { meters: [meter] } });
    await page.type('pH', '4.4');
    expect(page.text()).toContain('not for release: last calibrated 460 h ago');
    for (const [moment, says] of [
      ['2026-11-08T09:30:00Z', 'fit for release then'],
      ['2026-11-09T09:30:00Z', 'not for release: last calibrated 24 h ago, 24 h are granted'],
      ['2026-11-08T08:30:00Z', 'not for release: no calibration before then is known'],
      ['2026-11-20T10:00:00Z', 'fit for release then'],
    ] as const) {
      TestBed.inject(When).choose(Date.parse(moment));
      await page.settle();
      expect(page.text()).withContext(moment).toContain(says);
    }
    await page.press('Record pH 4.4');
    expect(api.sent[0]![0]!.body).toEqual(jasmine.objectContaining({ ph: 4.4, meterId: LOT }));
  });
  it('a refusal of the house is shown, and what was typed stays', async () => {
    const page = await open();
    api.refusal = { type: '', title: '', status: 422, code: 'lot.notYet', detail: 'filled after the time given' };
    await page.type('pH', '3.7');
    await page.press('Record pH 3.7');
    expect(page.text()).toContain('filled after the time given');
    expect(page.field('pH').value).toBe('3.7');
    await page.type('pH', '3.71');
    expect(page.text()).not.toContain('filled after the time given');
  });
});

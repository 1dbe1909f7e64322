import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { MetersReply } from '@clear-tally/contract';
import { devicesWire } from '../../state/devices';
import { FakeApi, inHouse, INSPECTOR, ODILE, within } from '../../state/testing';
import { Limits } from './limits';
import { Meters } from './meters';

const M2 = '018f6b1e-0000-7000-8000-00000000eee2';
const METERS: MetersReply = {
  meters: [
    {
      meterId: M2,
      tag: 'M2',
      name: 'Bench meter',
      kind: 'meter',
      fit: false,
      reasons: ['last calibrated 30 h ago, 24 h are granted'],
      since: null,
      until: null,
      calibrations: [],
    },
    {
      meterId: '018f6b1e-0000-7000-8000-00000000eee3',
      tag: 'S1',
      name: 'Strips',
      kind: 'strips',
      fit: false,
      reasons: ['strips are for watching, never for release'],
      since: null,
      until: null,
      calibrations: [],
    },
  ],
};

describe('meters', () => {
  let api: FakeApi;
  const open = async (person?: typeof ODILE | typeof INSPECTOR) => {
    api = new FakeApi({ '/api/meters': METERS });
    inHouse(api, {}, person as typeof ODILE);
    const fixture = TestBed.createComponent(Meters);
    await fixture.whenStable();
    return {
      page: within(fixture),
      settle: () => fixture.whenStable(),
      all: (label: string) =>
        [...(fixture.nativeElement as HTMLElement).querySelectorAll('label')]
          .filter((one) => one.textContent!.trim() === label)
          .map((one) =>
            (fixture.nativeElement as HTMLElement).querySelector<HTMLInputElement>(`#${CSS.escape(one.htmlFor)}`)!,
          ),
    };
  };
  const type = (field: HTMLInputElement, text: string): void => {
    field.value = text;
    field.dispatchEvent(new Event('input'));
  };

  it('says why a meter is not fit', async () =>
    expect((await open()).page.text()).toContain('not for release: last calibrated 30 h ago'));
  it('two buffers give slope and offset before anything is recorded', async () => {
    const { page, settle, all } = await open();
    const [high, low] = all('reads');
    type(high!, '2');
    type(low!, '172.5');
    await settle();
    expect(page.text()).toContain('Slope 98.0 %, offset 2.0 mV');
    await page.type('Buffer 4.01 again', '4.03');
    expect(page.text()).toContain('check off by 0.02');
    await page.press('Record the calibration');
    expect(api.sent[0]![0]!.body).toEqual({
      meterId: M2,
      celsius: 20,
      by: {
        how: 'buffers',
        buffers: [
          { ph: 7, millivolts: 2 },
          { ph: 4.01, millivolts: 172.5 },
        ],
      },
      check: { buffer: 4.01, read: 4.03 },
    });
  });
  it('takes millivolts from a meter on the bench once it stands', async () => {
    const { page, settle, all } = await open();
    const note = (settled: boolean) => ({
      id: 'ph',
      device: {
        id: 'ph',
        kind: 'phMeter' as const,
        name: 'pH meter',
        simulated: true,
        connected: true,
        ranges: [],
        ph: { ph: 7.16, millivolts: -9.1, celsius: 20, settled },
        celsius: null,
        scale: null,
        printer: null,
        garbled: 0,
      },
    });
    TestBed.inject(Store).dispatch(devicesWire.noteArrived({ note: note(false) }));
    await settle();
    expect(page.button('moving').disabled).toBeTrue();
    TestBed.inject(Store).dispatch(devicesWire.noteArrived({ note: note(true) }));
    await settle();
    await page.press('Take -9.1 mV');
    expect(all('reads')[0]!.value).toBe('-9.1');
  });
  it('strips are not calibrated', async () => {
    const { page } = await open();
    await page.press('S1');
    expect(page.button('Record the calibration')).toBeUndefined();
  });
  it('an owner adds a meter, an inspector calibrates none', async () => {
    const { page } = await open(ODILE);
    await page.type('Tag', 'm3');
    await page.type('Name', 'Spare');
    await page.press('Add it');
    expect(api.sent[0]![0]!.body).toEqual(jasmine.objectContaining({ tag: 'M3', name: 'Spare', kind: 'meter' }));
    TestBed.resetTestingModule();
    expect((await open(INSPECTOR)).page.button('Record the calibration')).toBeUndefined();
  });
});

describe('hours to 4.6', () => {
  it('a house shortens them, never lengthens them', async () => {
    const api = new FakeApi();
    inHouse(api, {}, ODILE);
    const fixture = TestBed.createComponent(Limits);
    await fixture.whenStable();
    const page = within(fixture);
    await page.type('above 15 to 20 °C', '400');
    expect(page.text()).toContain('12 to 120 is accepted');
    await page.type('above 15 to 20 °C', '96');
    await page.press('Keep these hours');
    expect(api.sent[0]![0]!.body).toEqual({ acidByHours: { above20: 72, above15: 96, above10: 240, cold: 504 } });
  });
});

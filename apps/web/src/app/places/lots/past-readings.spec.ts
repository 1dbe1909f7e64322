import { TestBed } from '@angular/core/testing';
import { FakeApi, inHouse, within } from '../../state/testing';
import { PastReadings } from './past-readings';

const LOT = '018f6b1e-0000-7000-8000-0000000000aa';
const METER = '018f6b1e-0000-7000-8000-0000000000ab';

describe('past readings of a vessel', () => {
  let api: FakeApi;
  beforeEach(() => {
    jasmine.clock().install();
    jasmine.clock().mockDate(new Date('2026-11-26T09:00:00Z'));
  });
  afterEach(() => jasmine.clock().uninstall());
  const open = (decimalMark: 'point' | 'comma' = 'point', reads: Record<string, object> = {}) => {
    api = new FakeApi(reads);
    inHouse(api, { decimalMark });
    const fixture = TestBed.createComponent(PastReadings);
    fixture.componentRef.setInput('lotId', LOT);
    fixture.componentRef.setInput('from', '2026-11-10T09:00:00Z');
    fixture.detectChanges();
    const page = within(fixture);
    return {
      ...page,
      paste: (text: string): void => {
        const area = page.element.querySelector('textarea')!;
        area.value = text;
        area.dispatchEvent(new Event('input'));
        fixture.detectChanges();
      },
      look: () => fixture.detectChanges(),
    };
  };

  it('are pasted, understood line by line, and recorded of their own moments, the oldest first', () => {
    const page = open();
    page.paste('13 Nov, 18:30, 4.70, 17.5\n12 Nov, 8:15, 5.20');
    expect(page.text()).toContain('Fri 13 Nov 18:30');
    page.button('Record 2 pH, 1 °C').click();
    expect(api.sent[0]!.map(({ kind, happenedAt, body }) => [kind, happenedAt, body])).toEqual([
      ['ph.read', '2026-11-12T08:15:00.000Z', { lotId: LOT, ph: 5.2, sample: 'blended', confirmedJump: true }],
      ['ph.read', '2026-11-13T18:30:00.000Z', { lotId: LOT, ph: 4.7, sample: 'blended', confirmedJump: true }],
      ['temperature.read', '2026-11-13T18:30:00.000Z', { lotId: LOT, celsius: 17.5 }],
    ] as never);
    page.look();
    expect(page.element.querySelector('textarea')!.value).toBe('');
  });

  it('count where the meter they were read by was fit then; where nobody knows which, they are for watching', async () => {
    const calibration = { by: 'TR', buffers: [7, 4.01], slopePercent: 98, offsetMillivolts: 2 };
    const check = { buffer: 4.01, read: 4.02 };
    const page = open('point', {
      '/api/meters': {
        meters: [
          {
            meterId: METER,
            tag: 'M1',
            name: 'Bench meter',
            kind: 'meter',
            fit: false,
            reasons: [],
            since: null,
            until: null,
            calibrations: [{ ...calibration, check, at: '2026-11-13T09:00:00Z' }],
          },
        ],
      },
    });
    page.paste('12 Nov, 8:15, 5.20\n13 Nov, 18:30, 4.70\n14 Nov, 9:30, 4.40');
    expect(page.text()).toContain('For watching: a limit asks for blended samples');
    await page.select('Read by', METER);
    page.look();
    expect(page.text()).toContain('M1 was fit for release at 1 of these 3 pH: the others are for watching.');
    page.button('Record 3 pH').click();
    expect(api.sent[0]![0]!.body).toEqual(jasmine.objectContaining({ ph: 5.2, meterId: METER, sampleCelsius: null }));
  });

  it('cells of a sheet, decimal commas beside commas, and semicolons are told apart', () => {
    const page = open('comma');
    for (const text of ['12 Nov\t8:15\t5,2\t17,5', '12 Nov; 8:15; 5,2; 17,5', '12 Nov, 8:15, 5,2, 17,5']) {
      page.paste(text);
      expect(page.button('Record 1 pH, 1 °C')).withContext(text).toBeDefined();
    }
  });

  it('a line to be mended is said at its line, and nothing goes before it is mended', () => {
    const page = open();
    page.paste('12 Nov, 8:15, 5.20, 18\n9 Nov, 8:15, 5.9');
    expect(page.text()).toContain('It is before the vessel was filled.');
    expect(page.button('Record 2 pH').disabled).toBeTrue();
    expect(page.text()).toContain('missing: a line to be mended');
    page.paste('12 Nov, 8:15, 5.20, 18');
    expect(page.button('Record 1 pH').disabled).toBeFalse();
  });

  it('a file’s rows stand in the field, where they can be mended', async () => {
    const page = open();
    jasmine.clock().uninstall();
    await page.give(new File(['Day;Time;pH\n12.11.;8:15;5.20\n'], 'book.csv'));
    await new Promise((resolve) => setTimeout(resolve, 100));
    expect(page.element.querySelector('textarea')!.value).toBe('Day; Time; pH\n12.11.; 8:15; 5.20');
    page.look();
    expect(page.text()).toContain('5.20');
  });
});

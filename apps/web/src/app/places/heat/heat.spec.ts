import { TestBed } from '@angular/core/testing';
import type { HeatProcessReply, RunHeatReply } from '@clear-tally/contract';
import { Store } from '@ngrx/store';
import { devicesWire } from '../../state/devices';
import { POINT_EVERY_MS } from '../../state/kettle-log';
import { FakeApi, inHouse, INES, ODILE, within } from '../../state/testing';
import { Timers } from '../../state/timers';
import { Processes } from './processes';
import { RunHeat } from './run-heat';

const CODE = 'NY26-288-A-01';
const process: HeatProcessReply = {
  processId: '11111111-1111-4111-8111-111111111111',
  name: 'Sauces in bottles, hot fill',
  formulaId: null,
  formula: null,
  limits: {
    method: 'hotFill',
    maxPh: 4,
    sizeMl: 500,
    processC: 85,
    minutes: 12,
    fillC: 82,
    initialC: null,
    headspaceMm: null,
    turnedSeconds: 120,
    coverMm: null,
    restMinutes: null,
    cooledC: null,
    lethality: { refC: 93.33, z: 8.89, minutes: 1.2, countsComeUp: true },
    altitudeM: 60,
  },
  critical: 'Sieved',
  issuer: 'An authority',
  issuedOn: '2026-03-02',
  validUntil: null,
  document: null,
  ended: null,
  loads: 2,
};
const KETTLE = {
  id: 'kettle',
  kind: 'thermometer' as const,
  name: 'Kettle probe',
  simulated: true,
  connected: true,
  ranges: [],
  ph: null,
  scale: null,
  printer: null,
  garbled: 0,
};
const W17 = [60, 65, 70, 75, 80, ...Array.from({ length: 13 }, () => 85), 75, 65, 55]
  .map((celsius, minute) => `14:${String(minute).padStart(2, '0')} ${celsius}`)
  .join('\n');

describe('heat', () => {
  const runHeat = async (loads: RunHeatReply['loads'] = [], person: typeof INES = INES) => {
    TestBed.resetTestingModule();
    const api = new FakeApi({ [`/api/runs/${CODE}/heat`]: { processes: [process], loads, jars: [] } });
    inHouse(api, {}, person, [Timers]);
    const fixture = TestBed.createComponent(RunHeat);
    const inputs = { code: CODE, runLotId: 'run-1', packedAt: '2026-11-10T13:00:00Z', jars: 140, storage: 'ambient' };
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    await fixture.whenStable();
    return { ...within(fixture), api };
  };

  it('W17 typed as it was written down: what it is worth is said, and recorded with the last bottle', async () => {
    const page = await runHeat();
    expect(page.button('Record the heat of 140 jars').textContent).toContain('missing: the log');
    await page.type('Log at the cold spot, a line a point', W17);
    expect(page.text()).toContain('21 points over 20 min, 55 to 85 °C.');
    expect(page.text()).toContain('12 of 12 min at 85 °C or more, at a stretch.');
    expect(page.text()).toContain('F 1.52 min over the whole log.');
    await page.type('In the last bottle, 140', '82.4');
    await page.type('In others: jar and °C', '1 84; 70 83,5');
    await page.type('Turned, or steam', '130');
    await page.press('Record the heat of 140 jars');
    const body = page.api.sent.at(-1)![0]!.body as unknown as Record<string, unknown>;
    expect(body).toEqual(
      jasmine.objectContaining({
        first: 1,
        last: 140,
        startedAt: '2026-11-10T14:00:00.000Z',
        fills: [
          { serial: 1, celsius: 84 },
          { serial: 70, celsius: 83.5 },
          { serial: 140, celsius: 82.4 },
        ],
        turnedSeconds: 130,
        coverMm: null,
        criticalKept: false,
      }),
    );
    expect((body['points'] as unknown[]).length).toBe(21);
  });
  it('a log that goes back, or has a gap, is asked about; nothing typed is lost', async () => {
    const page = await runHeat();
    await page.type('Log at the cold spot, a line a point', '14:00 85\n14:05 85\n14:03 85');
    expect(page.text()).toContain('Line 3, “14:03 85”: not after the line before it.');
    expect(page.text()).toContain('Between minute 0 and 5 nobody knows how warm it was');
    expect(page.button('Record the heat').textContent).toContain('a log without open questions');
  });
  it('the probe in the kettle is taken down, a point at a time; a silence leaves a gap', async () => {
    const page = await runHeat();
    expect(page.text()).not.toContain('Take its log down');
    const says = (celsius: number | null) =>
      TestBed.inject(Store).dispatch(
        devicesWire.noteArrived({ note: { id: 'kettle', device: { ...KETTLE, celsius } } }),
      );
    jasmine.clock().install().mockDate(new Date('2026-11-10T13:00:00Z'));
    try {
      says(60.2);
      TestBed.tick();
      page.button('Take its log down').click();
      // It speaks twenty times a second; a point is taken every quarter of a minute.
      for (let beat = 0; beat < 20; beat += 1) {
        says(60.2 + beat / 1000);
        TestBed.tick();
        jasmine.clock().tick(50);
      }
      says(60.2);
      jasmine.clock().tick(POINT_EVERY_MS);
      says(71);
      jasmine.clock().tick(POINT_EVERY_MS);
      says(null);
      jasmine.clock().tick(4 * POINT_EVERY_MS);
      TestBed.tick();
      says(85.1);
      TestBed.tick();
    } finally {
      jasmine.clock().uninstall();
    }
    await page.settle();
    const log = page.field('Log at the cold spot, a line a point');
    expect(log.value.split('\n')).toEqual(['13:00:00 60.2', '13:00:15 60.2', '13:00:30 71.0', '13:01:31 85.1']);
    await page.press('Stop taking it down');
    expect(page.text()).toContain('Take its log down');
  });
  it('what is waited for starts with one tap, and the log begins with it', async () => {
    const page = await runHeat();
    await page.press('At 85 °C: 12 min');
    expect(page.api.sent.at(-1)![0]).toEqual(
      jasmine.objectContaining({
        kind: 'timer.start',
        body: jasmine.objectContaining({ words: `${CODE} 1–140: At 85 °C`, minutes: 12 }),
      }),
    );
    expect(page.field('Began at').value).toMatch(/^\d\d:\d\d$/);
    expect(page.text()).toContain('Turned: 2 min');
    expect(page.text()).toContain('Lifted, left alone: 12 h');
  });
  it('seals: the jars that are not tight, by number, and what became of them', async () => {
    const page = await runHeat([
      {
        loadId: '22222222-2222-4222-8222-222222222222',
        first: 1,
        last: 36,
        process: process.name,
        startedAt: '2026-11-10T14:00:00.000Z',
        by: 'TR',
        note: null,
        stands: 'missing',
        rows: [{ key: 'seals', words: 'Seals', state: 'missing', now: 'left alone until then' }],
        points: [],
        processC: 85,
        lethality: null,
        seals: false,
        anew: false,
      },
    ]);
    expect(page.text()).toContain('All 36 are tight');
    await page.type('Seals: jars that are not tight', '3, 40');
    expect(page.text()).toContain('Jar 40 was given; this load has 1 to 36.');
    await page.type('Seals: jars that are not tight', '3, 17');
    expect(page.button('2 not tight').textContent).toContain('what became of them');
    await page.select('They are', 'thrownOut');
    await page.press('2 not tight');
    expect(page.api.sent.at(-1)![0]!.body).toEqual(jasmine.objectContaining({ failed: [3, 17], then: 'thrownOut' }));
  });
  it('a process goes on file by an owner; others read it', async () => {
    const open = async (person: typeof INES | typeof ODILE) => {
      TestBed.resetTestingModule();
      const api = new FakeApi({ '/api/processes': { processes: [process] }, '/api/formulas': { formulas: [] } });
      inHouse(api, {}, person);
      const fixture = TestBed.createComponent(Processes);
      await fixture.whenStable();
      await fixture.whenStable();
      return { ...within(fixture), api };
    };
    const others = await open(INES);
    expect(others.text()).toContain('in every bottle, the last too, at least 82 °C');
    expect(others.text()).toContain('An owner of the house puts processes on file.');
    const page = await open(ODILE);
    await page.type('What it is called', 'Sauce, 150 mL');
    await page.type('Issued by', 'An authority');
    expect(page.button('Put it on file').textContent).toContain('the temperature in the bottle');
  });
});

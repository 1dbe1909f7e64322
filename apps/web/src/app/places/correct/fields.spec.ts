import { ENTRY_KINDS } from '@clear-tally/contract';
import { bodySchema, fieldsOf, valueAt, withOffered, withValue } from './fields';
import { localMoment, momentAt } from '../../ui/moment-at';

const lot = (name: string, made = false) => ({ name, made, of: 'lot' as const });

describe('the form of a correction', () => {
  it('has a field for whatever a kind says, but not for what the entry itself made', () => {
    const body = { fillLotId: 'f', batchId: 'b', vesselId: 'v', grams: 1400, brine: { brineLotId: 'l', grams: 900 } };
    const names = {
      f: lot('NY1-C1', true),
      b: lot('NY1'),
      l: lot('NY1-b1'),
      v: { name: 'C1', made: false, of: 'vessel' as const },
    };
    const fields = fieldsOf('vessel.fill', body, names);
    expect(fields.map(({ label, type }) => `${label}: ${type}`)).toEqual([
      'Batch: lot',
      'Vessel: listed',
      'Mass: mass',
      'Brine: group',
      'Brine, brine: lot',
      'Brine, mass: mass',
      'Why with so little salt: text',
      'Why so full: text',
      'Tare: mass',
      'Weighed on: listed',
    ]);
  });
  it('goes into lists and into whichever shape of several was written', () => {
    const fields = fieldsOf(
      'meter.calibrate',
      {
        meterId: 'm',
        celsius: 20,
        by: {
          how: 'buffers',
          buffers: [
            { ph: 7, millivolts: 2 },
            { ph: 4.01, millivolts: 172 },
          ],
        },
        check: null,
      },
      { m: { name: 'M1', made: false, of: 'meter' } },
    );
    expect(fields.map(({ label }) => label)).toEqual([
      'Meter',
      'Temperature',
      'By, buffers 1, pH',
      'By, buffers 1, millivolts',
      'By, buffers 2, pH',
      'By, buffers 2, millivolts',
      'Check',
    ]);
    expect(fields[4]!.path).toEqual(['by', 'buffers', 1, 'ph']);
  });
  it('opens what was left out, and closes it again', () => {
    const body = { fillLotId: 'f', batchId: 'b', vesselId: 'v', grams: 1400, brine: null };
    const names = { f: lot('NY1-C1', true), b: lot('NY1'), v: { name: 'C1', made: false, of: 'vessel' as const } };
    const labels = (of: object) => fieldsOf('vessel.fill', of as typeof body, names).map(({ label }) => label);
    expect(labels(body)).toContain('Brine');
    expect(labels(body)).not.toContain('Brine, mass');
    const group = fieldsOf('vessel.fill', body, names).find(({ type }) => type === 'group')!;
    const opened = withValue(body, group.path, {});
    expect(labels(opened)).toContain('Brine, brine');
    expect(labels(opened)).toContain('Brine, mass');
    expect(withValue(opened, group.path, group.blank)).toEqual(body);
  });
  it('keeps the field of whatever was chosen instead, so that a third can be chosen', () => {
    for (const [kind, key, of, type] of [
      ['vessel.fill', 'vesselId', 'vessel', 'listed'],
      ['vessel.move', 'roomId', 'room', 'listed'],
      ['supply.receive', 'materialId', 'material', 'listed'],
      ['supply.receive', 'supplierId', 'supplier', 'listed'],
      ['meter.calibrate', 'meterId', 'meter', 'listed'],
      ['produce.weigh', 'scaleId', 'equipment', 'listed'],
      ['equipment.check', 'equipmentId', 'equipment', 'listed'],
      ['jars.dispatch', 'customerId', 'customer', 'listed'],
      ['person.train', 'personId', 'person', 'listed'],
      ['batch.start', 'formulaId', 'formula', 'listed'],
      ['remainder.return', 'of', 'lot', 'lot'],
    ] as const) {
      const names = { x: { name: 'X', made: false, of } };
      for (const id of ['x', 'another', undefined]) {
        const found = fieldsOf(kind, { [key]: id }, names).find(({ path }) => path.join('.') === key);
        expect(found?.type).withContext(`${kind} ${key} ${id}`).toBe(type);
        if (type === 'listed') expect(found?.of).withContext(`${kind} ${key} ${id}`).toBe(of);
      }
    }
  });
  it('has no field for what the entry made, whatever that is', () => {
    const names = { v: { name: 'C1', made: true, of: 'vessel' as const } };
    const labels = fieldsOf('vessel.add', { vesselId: 'v', tag: 'C1' }, names).map(({ label }) => label);
    expect(labels).toContain('Tag');
    expect(labels).not.toContain('Vessel');
  });
  it('asks for days as days, and says the unit of what is counted in one', () => {
    const fields = fieldsOf('order.take', { wantedOn: '2026-12-01', lines: [{ sizeMl: 720, count: 24 }] }, {});
    expect(fields.map(({ label, type, unit }) => [label, type, unit ?? ''].join(' '))).toEqual([
      'Customer listed ',
      'Wanted on day ',
      'Lines, formula listed ',
      'Lines, jar size number mL',
      'Lines, how many number ',
      'Lines more ',
      'Note text ',
    ]);
  });
  it('what is kept as a key is chosen in words, and what is offered follows the field beside it', () => {
    const choices = {
      step: [
        { id: 'inspect', label: 'Inspect the produce' },
        { id: 'clean', label: 'Clean vessels' },
      ],
      checked: [
        { id: 'firm', label: 'Fresh and firm', where: { field: 'step', is: 'inspect' } },
        { id: 'whole', label: 'No chip', where: { field: 'step', is: 'clean' } },
        { id: 'tools', label: 'Tools too', where: { field: 'step', is: 'clean' } },
      ],
    };
    const form = (step: string, checked: string[]) =>
      fieldsOf('step.finish', { batchId: 'b', step, minutes: 4, checked, skipped: null, note: null }, {}, choices);
    const shown = (fields: ReturnType<typeof form>) =>
      fields
        .filter(({ options }) => options)
        .map(({ label, type, options }) => `${label}, ${type}: ${options!.map((one) => one.label).join(' | ')}`);
    expect(shown(form('clean', ['whole']))).toEqual([
      'Step, choice: Inspect the produce | Clean vessels',
      'Ticked, ticks: No chip | Tools too',
    ]);
    expect(shown(form('inspect', []))[1]).toBe('Ticked, ticks: Fresh and firm');
    const other = withOffered({ step: 'inspect', checked: ['whole', 'firm'] }, form('inspect', ['whole', 'firm']));
    expect(other)
      .withContext('ticks of another step')
      .toEqual({ step: 'inspect', checked: ['firm'] });
    expect(form('clean', []).every(({ label }) => !/clean|whole|firm/.test(label))).toBeTrue();
  });
  it('a formula chosen otherwise brings its own versions, and its newest stands', () => {
    const version = (number: number, is: string) => ({
      id: String(number),
      label: `version ${number}`,
      where: { field: 'formulaId', is },
    });
    const choices = { version: [version(1, 'kraut'), version(2, 'kraut'), version(3, 'kraut'), version(1, 'sticks')] };
    const names = { sticks: { name: 'Sticks', made: false, of: 'formula' as const } };
    const body = { batchId: 'b', formulaId: 'sticks', version: 3 };
    const fields = fieldsOf('batch.start', body, names, choices);
    expect(fields.find(({ label }) => label === 'Version')).toEqual(
      jasmine.objectContaining({ type: 'choice', counted: true, options: [{ id: '1', label: 'version 1' }] }),
    );
    expect(withOffered(body, fields)).toEqual({ ...body, version: 1 });
    const as = { ...body, formulaId: 'kraut', version: 2 };
    expect(withOffered(as, fieldsOf('batch.start', as, {}, choices)))
      .withContext('is one of it')
      .toBe(as);
  });
  it('asks for moments as a day and a time', () => {
    const type = (kind: string, key: string) => fieldsOf(kind, {}, {}).find(({ path }) => path[0] === key)?.type;
    expect(type('recall.open', 'heardAt')).toBe('moment');
    expect(type('sanitiser.mix', 'goodUntil')).toBe('moment');
    expect(type('heat.load', 'startedAt')).toBe('moment');
  });
  it('writes nothing as the kind writes it: left out, or said to be none', () => {
    const of = (kind: string, key: string) => fieldsOf(kind, {}, {}).find(({ path }) => path[0] === key)!;
    expect(of('produce.weigh', 'scaleId').nothing).toBeUndefined();
    expect(of('jars.dispatch', 'note').nothing).toBeNull();
  });
  it('knows the schema of every kind', () => {
    for (const kind of ENTRY_KINDS) expect(bodySchema(kind)).withContext(kind).not.toBeNull();
  });
  it('changes one value and leaves the others; nothing leaves a field out', () => {
    const body = { by: { buffers: [{ ph: 7 }, { ph: 10 }] }, note: 'x' };
    expect(withValue(body, ['by', 'buffers', 1, 'ph'], 4.01)).toEqual({
      by: { buffers: [{ ph: 7 }, { ph: 4.01 }] },
      note: 'x',
    });
    expect(Object.keys(withValue<object>(body, ['note'], undefined))).toEqual(['by']);
    expect(body.by.buffers[1]!.ph).toBe(10);
    expect(valueAt(body, ['by', 'buffers', 0, 'ph'])).toBe(7);
    expect(valueAt(body, ['by', 'nothing', 'there'])).toBeUndefined();
  });
  it('reads a time by the house’s clock, also where the clocks change', () => {
    for (const [day, time, zone, at] of [
      ['2026-11-25', '06:10', 'Europe/Dublin', '2026-11-25T06:10:00.000Z'],
      ['2026-07-01', '06:10', 'Europe/Dublin', '2026-07-01T05:10:00.000Z'],
      ['2026-03-29', '12:00', 'Europe/Berlin', '2026-03-29T10:00:00.000Z'],
      ['2026-10-25', '00:30', 'Europe/Berlin', '2026-10-24T22:30:00.000Z'],
      ['2026-09-27', '14:00', 'Pacific/Auckland', '2026-09-27T01:00:00.000Z'],
    ] as const) {
      expect(momentAt(day, time, zone))
        .withContext(`${day} ${time} ${zone}`)
        .toBe(at);
      expect(localMoment(at, zone)).toEqual({ day, time });
    }
    expect(momentAt('2026-03-29', '02:30', 'Europe/Berlin'))
      .withContext('an hour that is skipped')
      .toBeNull();
    for (const wrong of ['25:00', '6', '', '12:61'])
      expect(momentAt('2026-11-25', wrong, 'UTC'))
        .withContext(wrong)
        .toBeNull();
  });
});

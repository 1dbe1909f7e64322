import { type BodyOf, processesReply, runHeatReply, runReply, type RunHeatReply } from '@clear-tally/contract';
import { Client } from './client.js';
import { ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, readWell, sour } from './oneBatch.js';

const LIMITS: BodyOf<'heat.process'>['limits'] = {
  method: 'hotFill',
  maxPh: 4,
  sizeMl: 330,
  processC: 85,
  minutes: 12,
  fillC: 82,
  initialC: null,
  headspaceMm: null,
  turnedSeconds: 120,
  coverMm: null,
  restMinutes: null,
  cooledC: 40,
  lethality: { refC: 93.33, z: 8.89, minutes: 1.2, countsComeUp: true },
  altitudeM: 200,
};
/** 60 to 85 °C in five minutes, so long there, and down again; a point a minute. */
const course = (hold: number): { minute: number; celsius: number }[] =>
  Array.from({ length: 9 + hold }, (_, minute) => ({
    minute,
    celsius: minute < 5 ? 60 + minute * 5 : minute <= 5 + hold ? 85 : 85 - 10 * (minute - 5 - hold),
  }));

describe('heated to a process, or not kept ambient', () => {
  let house: TestHouse;
  let maker: Client;
  let owner: Client;
  let fillId: string;
  let run: { id: string; code: string };
  const processId = ids.next();
  const packedAt = daysAgo(9);

  const pack = (): BodyOf<'pack.run'> => ({
    runLotId: ids.next(),
    from: [{ fillLotId: fillId, grams: 12_900, empties: false }],
    jars: [{ sizeMl: 330, netGrams: 320, count: 40 }],
    sampleGrams: 60,
    leftoverGrams: 0,
    wasteGrams: 40,
    tallyReason: null,
    brine: 'own',
    storage: 'ambient',
  });
  const load = (first: number, last: number, more: Partial<BodyOf<'heat.load'>> = {}): BodyOf<'heat.load'> => ({
    loadId: ids.next(),
    runLotId: run.id,
    first,
    last,
    processId,
    startedAt: new Date(packedAt.getTime() - 3_600_000).toISOString(),
    points: course(12),
    fills: [{ serial: last, celsius: 83 }],
    initialC: null,
    headspaceMm: null,
    turnedSeconds: 130,
    coverMm: null,
    restMinutes: null,
    cooledC: 38,
    criticalKept: null,
    note: null,
    ...more,
  });
  const heat = async (): Promise<RunHeatReply> =>
    runHeatReply.parse((await owner.get(`/api/runs/${run.code}/heat`)).body);
  const conditions = async () => runReply.parse((await owner.get(`/api/runs/${run.code}`)).body).conditions;
  const heatRow = async () => (await conditions()).find(({ key }) => key === 'heat')!;

  beforeAll(async () => {
    house = await openHouse('spec_heat');
    maker = await Client.signIn(house, house.maker);
    owner = await Client.signIn(house, house.owner);
    ({ fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(40) }));
    await sour(house, fillId, daysAgo(40), packedAt);
  }, 60_000);
  afterAll(() => house.close());

  it('without a process on file nothing is packed to be kept ambient', async () => {
    const tried = house.record('pack.run', pack(), { at: packedAt, by: house.maker });
    await expectAsync(tried).toBeRejectedWithError(/no scheduled process is on file for this run/);
  });
  it('a process is put on file by an owner, and asked about where it cannot be meant', async () => {
    const body = {
      processId,
      name: 'Sauce in 330 mL, hot fill',
      formulaId: null,
      limits: LIMITS,
      critical: null,
      issuer: 'Process authority of the made-up county',
      issuedOn: '2026-03-02',
      validUntil: null,
      document: null,
    };
    expect((await maker.record('heat.process', body)).body.code).toBe('who.notAllowed');
    expect((await owner.record('heat.process', { ...body, limits: { ...LIMITS, maxPh: 4.9 } })).body.code).toBe(
      'heat.process',
    );
    expect((await owner.record('heat.process', body)).status).toBe(200);
    const { processes } = processesReply.parse((await owner.get('/api/processes')).body);
    expect(processes.map(({ name, loads, ended }) => [name, loads, ended])).toEqual([[body.name, 0, null]]);
  });
  it('a run packed for ambient waits for its heat', async () => {
    const body = pack();
    const recorded = await house.record('pack.run', body, { at: packedAt, by: house.maker });
    run = { id: body.runLotId, code: String(recorded.facts['code']) };
    expect((await heatRow()).state).toBe('open');
    expect((await heatRow()).now).toBe('40 jars never heated');
    expect((await heat()).loads).toEqual([]);
  });
  it('a load names its jars: unknown ones, and fill temperatures of others, are refused', async () => {
    expect((await maker.record('heat.load', load(1, 41))).body.code).toBe('jar.unknown');
    expect((await maker.record('heat.load', load(1, 20, { fills: [{ serial: 21, celsius: 84 }] }))).body.code).toBe(
      'heat.jarElsewhere',
    );
    const tomorrow = new Date(Date.now() + 86_400_000).toISOString();
    expect((await maker.record('heat.load', load(1, 20, { startedAt: tomorrow }))).body.code).toBe('time.future');
    expect((await maker.record('heat.load', load(1, 20, { points: [...course(12)].reverse() }))).status).toBe(400);
    expect((await heat()).loads).toEqual([]);
  });
  it('a minute short holds exactly its own jars; the last bottle’s missing temperature is missing', async () => {
    await house.record('heat.load', load(1, 24), { at: packedAt, by: house.maker });
    await house.record('heat.load', load(25, 36, { points: course(11) }), { at: packedAt, by: house.maker });
    await house.record('heat.load', load(37, 40, { fills: [] }), { at: packedAt, by: house.maker });
    const { loads, jars } = await heat();
    expect(loads.map(({ first, stands }) => [first, stands])).toEqual([
      [1, 'missing'],
      [25, 'notMet'],
      [37, 'missing'],
    ]);
    expect(loads[1]!.rows.find(({ key }) => key === 'held')!.now).toMatch(/^11 min at a stretch, from \d\d:\d\d to/);
    expect(loads[0]!.lethality).toMatch(/^F 1\.5\d min/);
    expect(loads[2]!.rows.filter(({ state }) => state === 'missing').map(({ key }) => key)).toEqual(['fill', 'seals']);
    expect(jars.filter(({ held }) => held).map(({ first, last }) => [first, last])).toEqual([[25, 36]]);
    expect((await heatRow()).now).toBe('28 jars of a load that lacks something');
  });
  it('what was not written down is put right at its line; seals a day later name what is not tight', async () => {
    const all = (await heat()).loads;
    const wrong = load(37, 40, { fills: [{ serial: 40, celsius: 82.5 }] });
    await house.record('heat.load', wrong, { at: new Date(packedAt.getTime() + 60_000), by: house.maker });
    for (const [loadId, failed] of [
      [all[0]!.loadId, [3, 7]],
      [wrong.loadId, []],
    ] as const)
      await house.record(
        'heat.seals',
        { loadId, failed: [...failed], then: failed.length > 0 ? 'thrownOut' : null, note: null },
        { at: daysAgo(8), by: house.maker },
      );
    const row = await heatRow();
    expect([row.state, row.now]).toEqual(['met', '26 jars heated to the process; 12 held, and none of them leaves']);
    const of = runReply.parse((await owner.get(`/api/runs/${run.code}`)).body);
    expect(of.run.inHouse).toBe(38);
  });
  it('seals that are not tight, and nobody says what became of them: asked', async () => {
    const [first] = (await heat()).loads;
    const answer = await maker.record('heat.seals', { loadId: first!.loadId, failed: [1], then: null, note: null });
    expect(answer.body.code).toBe('heat.jarElsewhere');
    const strange = await maker.record('heat.seals', {
      loadId: first!.loadId,
      failed: [30],
      then: 'chilled',
      note: null,
    });
    expect(strange.body.code).toBe('heat.jarElsewhere');
  });
  it('released, its held jars do not leave; the others do', async () => {
    await house.record(
      'run.check',
      { runLotId: run.id, what: 'gas', says: 'quiet', opened: null, note: null, photo: null },
      { at: daysAgo(1), by: house.maker },
    );
    await readWell(house, run.id, 3.7, daysAgo(1));
    await owner.send('POST', '/api/session/proof', { pin: PIN });
    const signed = await owner.record('run.release', { runLotId: run.id, excuses: { checks: 'seen by eye' } });
    expect(signed.status).withContext(JSON.stringify(signed.body)).toBe(200);
    const out = (first: number, last: number) =>
      maker.record('jars.out', { jars: [{ runLotId: run.id, first, last }], how: 'market', note: null });
    const held = await out(20, 26);
    expect([held.status, held.body.code]).toEqual([409, 'heat.jarHeld']);
    expect(held.body.detail).toContain('held: its load does not meet the process');
    expect((await out(20, 24)).status).toBe(200);
  });
  it('a process that ended is used no more, and what was heated to it stays', async () => {
    await owner.record('heat.processEnd', { processId, reason: 'a new one was set' });
    expect((await maker.record('heat.load', load(25, 36))).body.code).toBe('heat.processEnded');
    expect((await heatRow()).state).toBe('met');
    expect((await heat()).loads.length).toBe(4);
  });
});

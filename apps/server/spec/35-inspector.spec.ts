import type { LooksReply, PeopleReply } from '@clear-tally/contract';
import { setPin } from '../src/session/session.js';
import { Client } from './client.js';
import { ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch } from './oneBatch.js';

describe('an inspector’s view', () => {
  let house: TestHouse;
  let owner: Client;
  const inspector = { id: ids.next(), name: 'Vera Lindqvist', role: 'inspector' as const };
  const dayFromNow = (days: number): string => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
  const body = (lastDay: string | null, role: 'inspector' | 'maker' = 'inspector') => ({
    personId: inspector.id,
    name: inspector.name,
    initials: 'VL',
    role,
    lastDay,
  });
  const signIn = () => Client.signIn(house, inspector);

  beforeEach(async () => {
    house = await openHouse('spec_inspector');
    owner = await Client.signIn(house, house.owner);
    expect((await owner.record('person.add', body(dayFromNow(2)))).status).toBe(200);
    await setPin(house.connection.db, inspector.id, PIN);
  });
  afterEach(() => house.close());

  it('comes in until the last day is over; then every sign-in of theirs is worth nothing, and a later day lets them in', async () => {
    const tablet = await signIn();
    expect((await tablet.get('/api/lots')).status).toBe(200);
    expect((await owner.record('person.change', body(dayFromNow(-2)))).status).toBe(200);
    expect((await tablet.get('/api/lots')).status).toBe(401);
    await expectAsync(signIn()).toBeRejected();
    expect((await owner.record('person.change', body(dayFromNow(1)))).status).toBe(200);
    expect((await (await signIn()).get('/api/lots')).status).toBe(200);
    const { people } = (await owner.get<PeopleReply>('/api/people')).body;
    expect(people.find(({ id }) => id === inspector.id)!.lastDay).toBe(dayFromNow(1));
  });

  it('an end is for who looks: a maker has none', async () => {
    const reply = await owner.record('person.change', body(dayFromNow(1), 'maker'));
    expect(reply.body.code).toBe('who.notAllowed');
    expect(reply.body.detail).toContain('An end date is given to an inspector');
  });

  it('each look is written down once, and nothing of a maker’s; the write path is closed', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(5) });
    const [{ code }] = (
      await house.connection.pool.query<{ code: string }>('select code from lot where id = $1', [fillId])
    ).rows as [{ code: string }];
    const tablet = await signIn();
    for (let again = 0; again < 3; again += 1) await tablet.get(`/api/lots/${code}`);
    await tablet.get(`/api/trace/${code}`);
    await tablet.get('/api/house');
    const refused = await tablet.record('ph.read', { lotId: fillId, ph: 3.6, sample: 'blended' });
    expect(refused.status).toBe(403);
    const maker = await Client.signIn(house, house.maker);
    await maker.get(`/api/lots/${code}`);
    const { looks } = (await owner.get<LooksReply>(`/api/people/${inspector.id}/looks`)).body;
    expect(looks.map(({ what }) => what)).toEqual([`trace/${code}`, `lots/${code}`]);
    expect((await owner.get<LooksReply>(`/api/people/${house.maker.id}/looks`)).body.looks).toEqual([]);
    expect((await tablet.get(`/api/people/${inspector.id}/looks`)).status).toBe(403);
  });
});

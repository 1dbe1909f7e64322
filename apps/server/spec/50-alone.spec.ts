import { applyRules } from '../src/subjects/holds/applyRules.js';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch } from './oneBatch.js';

describe('a house of one', () => {
  let house: TestHouse;
  let owner: Client;
  const leave = (personId: string, left: boolean) =>
    house.record('person.leave', { personId, left, reason: left ? 'Moved on' : null });
  const fill = async (tag: string) => {
    const small = { produceGrams: 9000, saltGrams: 198 };
    const { batchId } = await dryBatch(house, { tag, ...small, at: new Date(), by: house.owner, fill: false });
    return (
      await owner.record('vessel.fill', {
        fillLotId: ids.next(),
        batchId,
        vesselId: house.vessel(tag),
        grams: 9198,
        brine: null,
      })
    ).body.code;
  };
  beforeAll(async () => {
    house = await openHouse('spec_alone');
    owner = await Client.signIn(house, house.owner);
    await house.record('house.rule', { rule: 'secondPerson', option: 'yes', reason: null });
  }, 60_000);
  afterAll(() => house.close());

  it('waits for nobody’s second word: neither of who has left, nor of an inspector, nor of the house’s rules', async () => {
    await leave(house.maker.id, true);
    // A vessel nobody read: the rules hold it, and from then on stand among the people of the book.
    await dryBatch(house, { tag: 'C1', at: daysAgo(12), by: house.owner });
    expect(await applyRules(house.connection.db, new Date())).toBe(1);
    expect(await fill('C2')).toBeUndefined();
  });
  it('is one of two again when somebody comes back: then the word is wanted', async () => {
    await leave(house.maker.id, false);
    expect(await fill('D1')).toBe('salt.notConfirmed');
  });
});

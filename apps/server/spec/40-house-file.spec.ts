import { houseFile, houseFileSchema, type HouseFile } from '@clear-tally/contract';
import { takeHouseIn } from '../src/journal/file/takeHouseIn.js';
import { writeHouseFile } from '../src/journal/file/writeHouseFile.js';
import { compareTables } from '../src/journal/verify/compareTables.js';
import { verifyChain } from '../src/journal/verify/verifyChain.js';
import { Client } from './client.js';
import { emptyDatabase } from './databases.js';
import { openHouse, type TestHouse } from './house.js';

let house: TestHouse;
let text: string;

const whole = async (of: TestHouse): Promise<string> => {
  let all = '';
  for await (const part of writeHouseFile(of.connection.reader, { house: 'Test house', at: new Date() })) all += part;
  return all;
};
const emptyHouse = (name: string): ReturnType<typeof emptyDatabase> => emptyDatabase(`spec_file_${name}`);

describe('a whole house as one file', () => {
  beforeAll(async () => {
    house = await openHouse('spec_file');
    text = await whole(house);
  });
  afterAll(() => house.close());

  it('is what its schema says, and the schema is published', async () => {
    expect(houseFile.safeParse(JSON.parse(text)).error).toBeUndefined();
    const reply = await fetch(`${house.address}/schemas/house.json`);
    expect(await reply.json()).toEqual(JSON.parse(JSON.stringify(houseFileSchema())));
  });

  it('leaves by an owner’s hand alone', async () => {
    for (const [who, status] of [
      [house.owner, 200],
      [house.maker, 403],
      [house.inspector, 403],
    ] as const) {
      const client = await Client.signIn(house, who);
      expect((await client.get('/api/house.json')).status).toBe(status);
    }
  });

  it('comes in again to the same house, table by table, with the same chain', async () => {
    const other = await emptyHouse('again');
    expect((await takeHouseIn(other.db, text)).entries).toBe((JSON.parse(text) as HouseFile).entries.length);
    expect(await compareTables(house.connection.pool, other.pool)).toEqual([]);
    const [one, two] = [await verifyChain(house.connection.db, { at: [5] }), await verifyChain(other.db, { at: [5] })];
    expect(two.hashes.get(5)).toBe(one.hashes.get(5)!);
    await other.close();
  });

  it('is refused by a house that has entries', async () => {
    await expectAsync(takeHouseIn(house.connection.db, text)).toBeRejectedWithError(/has entries/);
  });

  const slips: readonly (readonly [string, (file: HouseFile) => unknown, RegExp])[] = [
    [
      'a figure changed',
      ({ entries }) => Object.assign(entries[6]!.entry.body, { name: 'Other' }),
      /Entry 7 was changed/,
    ],
    ['a fact changed', ({ entries }) => Object.assign(entries[4]!.facts, { more: 1 }), /Entry 5 was changed/],
    ['an entry left out', ({ entries }) => entries.splice(3, 1), /Entry 4 is missing/],
    ['two entries exchanged', ({ entries }) => entries.splice(2, 2, entries[3]!, entries[2]!), /Entry 3 is missing/],
    ['another format', (file) => Object.assign(file, { formatVersion: 2 }), /no file of a house: formatVersion/],
    [
      'a photo nobody took',
      ({ photos }) =>
        photos.push({ id: 'a'.repeat(64), type: 'image/png', at: new Date().toISOString(), base64: 'AAAA' }),
      /is not the one that was taken/,
    ],
  ];
  for (const [what, slip, words] of slips)
    it(`with ${what} is refused, and nothing of it is there`, async () => {
      const other = await emptyHouse('slip');
      const file = JSON.parse(text) as HouseFile;
      slip(file);
      await expectAsync(takeHouseIn(other.db, JSON.stringify(file))).toBeRejectedWithError(words);
      expect((await other.pool.query('select 1 from journal')).rowCount).toBe(0);
      await other.close();
    });

  it('that is no JSON, or JSON of something else, says so', async () => {
    const other = await emptyHouse('odd');
    for (const odd of ['', '{"a":', '[]', '{"format":"clear-tally/formula"}'])
      await expectAsync(takeHouseIn(other.db, odd)).toBeRejectedWithError(/no file of a house/);
    await other.close();
  });
});

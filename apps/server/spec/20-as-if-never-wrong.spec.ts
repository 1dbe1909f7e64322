import { openHouse, type TestHouse } from './house.js';
import { Dice } from './dice.js';
import { everythingOf } from './everythingOf.js';
import { fresh, mistaken, momentOf, propose, tell, type Said } from './randomHouse.js';

const HOUSES = Number(process.env['RANDOM_HOUSES'] ?? 3);
const ENTRIES = Number(process.env['RANDOM_ENTRIES'] ?? 120);
const FROM = Number(process.env['RANDOM_FROM'] ?? 1);

/** The same people, rooms and materials, whoever founds it. */
const sameIds = (seed: number) => new Dice(seed * 7919);

interface Step {
  readonly id: string;
  readonly said: Said;
  readonly number: number;
}

describe('a house that was put right equals one that was never wrong', () => {
  let [right, wrong]: TestHouse[] = [];
  afterEach(async () => {
    await right?.close();
    await wrong?.close();
  });

  for (let seed = FROM; seed < FROM + HOUSES; seed += 1) {
    it(`table by table, house ${seed}`, async () => {
      right = await openHouse(`spec_right_${FROM}`, { ids: sameIds(seed) });
      wrong = await openHouse(`spec_wrong_${FROM}`, { ids: sameIds(seed) });
      const dice = new Dice(seed);
      const known = fresh();
      const steps: Step[] = [];
      for (let number = 0; steps.length < ENTRIES && number < ENTRIES * 4; number += 1) {
        const id = dice.id();
        const proposed = propose(dice, right, known, id);
        if (!proposed || (await tell(right, id, proposed.said, momentOf(steps.length)))) continue;
        proposed.then();
        steps.push({ id, said: proposed.said, number: steps.length });
      }
      let corrections = 0;
      const open: { id: string; right: Said | null; at: number }[] = [];
      const correct = (one: { id: string; right: Said | null; at: number }, number: number): Promise<string | null> =>
        tell(
          wrong!,
          dice.id(),
          {
            kind: 'entry.correct',
            body: {
              corrects: one.id,
              reason: 'typed wrong',
              instead: one.right === null ? null : { ...one.right, happenedAt: momentOf(one.at).toISOString() },
            },
          },
          momentOf(number),
        );
      const putRight = async (number: number): Promise<void> => {
        // Where another slip stands in the way, that one is put right first, as the refusal says.
        for (let before = open.length + 1; open.length > 0 && open.length < before;) {
          before = open.length;
          for (const one of open.splice(0)) {
            const refused = await correct(one, number);
            if (refused === null) corrections += 1;
            else open.push(one);
            if (refused !== null)
              expect(refused)
                .withContext(`seed ${seed}, entry ${one.at}: ${JSON.stringify(one.right)}`)
                .toMatch(/^correction\.standsInTheWay/);
          }
        }
        expect(open.splice(0).map(({ at, right }) => `${at}: ${JSON.stringify(right)}`))
          .withContext(`seed ${seed}: never to be put right`)
          .toEqual([]);
      };
      for (const { id, said, number } of steps) {
        const slip = dice.chance(0.2) ? mistaken(dice, wrong, known, said) : null;
        if (slip && JSON.stringify(slip) !== JSON.stringify(said) && !(await tell(wrong, id, slip, momentOf(number)))) {
          open.push({ id, right: said, at: number });
        } else {
          const refused = await tell(wrong, id, said, momentOf(number));
          if (refused) {
            // What was got wrong before stands in the way: it is put right first, as people do.
            await putRight(number);
            expect(await tell(wrong, id, said, momentOf(number)))
              .withContext(`seed ${seed}, entry ${number}: ${JSON.stringify(said)}; first ${refused}`)
              .toBeNull();
          }
        }
        if (open.length > 0 && dice.chance(0.25)) await putRight(number);
      }
      await putRight(steps.length);
      expect(corrections).toBeGreaterThan(ENTRIES / 20);
      const [one, other] = [await everythingOf(right), await everythingOf(wrong)];
      for (const table of Object.keys(one)) {
        const missing = one[table]!.filter((row) => !other[table]!.includes(row));
        const more = other[table]!.filter((row) => !one[table]!.includes(row));
        expect({ table, missing: missing.slice(0, 3), more: more.slice(0, 3) })
          .withContext(`seed ${seed}`)
          .toEqual({ table, missing: [], more: [] });
        expect(other[table]!.length).withContext(table).toBe(one[table]!.length);
      }
    }, 180_000);
  }
});

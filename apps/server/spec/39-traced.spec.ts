import pg from 'pg';
import { lotByCode } from '../src/lots/lotByCode.js';
import { recallReach } from '../src/lots/recallReach.js';
import { walkBack, walkForward } from '../src/lots/walk.js';
import { rows } from '../src/db/database.js';
import { readTrace } from '../src/subjects/tracing/readTrace.js';
import { openHouse, type TestHouse } from './house.js';
import { Dice } from './dice.js';
import { type Moved, slowCarried, slowCarryOver, slowWalk, type Stay } from './slowWalk.js';

/** How many houses are made; each with its own lots, beside each other in one database. */
const HOUSES = Number(process.env['TRACED_HOUSES'] ?? 100);
const HOUR = 3_600_000;
const T0 = Date.UTC(2026, 3, 1, 6);

interface Made {
  readonly moves: Moved[];
  readonly stays: Stay[];
  readonly cleanings: { vessel: string; at: number }[];
  readonly codes: Map<string, string>;
}

interface LotLine {
  readonly id: string;
  readonly code: string;
  readonly kind: string;
  readonly at: number;
  readonly batch: string | null;
  readonly vessel: string | null;
  readonly closedAt: number | null;
}

interface MoveLine extends Moved {
  readonly source: string | null;
  readonly sink: string | null;
  readonly cancels: number | null;
  readonly isVoid: boolean;
}

let house: TestHouse;
let owner: pg.Client;
let seq = 0;
const houses: Made[] = [];

/** Supplies, batches with kept brine of the one before, vessels poured together and back, runs, slips put right. */
function generate(dice: Dice, number: number): { lots: LotLine[]; moves: MoveLine[]; made: Made } {
  const [lots, moves]: [LotLine[], MoveLine[]] = [[], []];
  const [stays, cleanings]: [Stay[], { vessel: string; at: number }[]] = [[], []];
  let clock = T0 + dice.whole(0, 20) * HOUR;
  const later = (): number => (clock += dice.chance(0.15) ? 0 : dice.whole(1, 9) * HOUR);
  const lot = (kind: string, more: Partial<LotLine> = {}): string => {
    const id = dice.id();
    lots.push({
      id,
      code: `T${number}X${lots.length}`,
      kind,
      at: clock,
      batch: null,
      vessel: null,
      closedAt: null,
      ...more,
    });
    return id;
  };
  const move = (from: string | null, to: string | null, grams: number, out = 'sample'): void => {
    const milligrams = Math.max(1, Math.round(grams * 1000));
    const line = { seq: (seq += 1), at: clock, from, to, milligrams, source: from ? null : 'received' };
    const row = { ...line, id: seq * 1000, sink: to ? null : out, cancels: null, isVoid: false };
    moves.push(row);
    // A slip, put right later: the first row is taken back, and another stands in its place or none does.
    if (from !== null && to !== null && dice.chance(0.07)) {
      const gone = dice.chance(0.4);
      moves.push({
        ...row,
        seq: (seq += 1),
        id: seq * 1000,
        cancels: row.id,
        isVoid: gone,
        milligrams: gone ? milligrams : milligrams + 17,
      });
    }
  };
  const supplies = Array.from({ length: 3 }, () => {
    const id = lot('supply');
    move(null, id, 900_000);
    return id;
  });
  const live: { lot: string; vessel: string; since: number; seq: number }[] = [];
  const vessels = ['C1', 'C2', 'D1', 'D2'];
  const close = (stay: (typeof live)[number]): void => {
    live.splice(live.indexOf(stay), 1);
    stays.push({ lot: stay.lot, vessel: stay.vessel, at: stay.since, seq: stay.seq, closedAt: clock });
    if (dice.chance(0.5)) cleanings.push({ vessel: stay.vessel, at: (clock += HOUR) });
  };
  let keptBrine: string | null = null;
  for (let n = 0; n < 8; n += 1) {
    later();
    const batch = lot('batch');
    for (const supply of supplies) if (dice.chance(0.7)) move(supply, batch, dice.whole(200, 9000));
    move(supplies[0]!, batch, 4000);
    // Over six generations and more: each batch starts with what was kept of the last.
    if (keptBrine) move(keptBrine, batch, dice.whole(50, 400));
    for (let i = 0; i < 2; i += 1) {
      later();
      const free = vessels.filter((tag) => !live.some(({ vessel }) => vessel === tag));
      if (free.length === 0) close(dice.one(live));
      const tag = vessels.find((one) => !live.some(({ vessel }) => vessel === one))!;
      const fill = lot('fill', { batch, vessel: tag });
      live.push({ lot: fill, vessel: tag, since: clock, seq });
      move(batch, fill, dice.whole(800, 2000));
    }
    later();
    // Brine goes and comes between two vessels; crocks are poured together; a sample leaves.
    if (live.length > 1) {
      const [a, b] = [dice.one(live), dice.one(live)];
      if (a !== b) {
        move(a.lot, b.lot, dice.whole(20, 300));
        if (dice.chance(0.5)) later();
        move(b.lot, a.lot, dice.whole(20, 300));
      }
    }
    move(dice.one(live).lot, null, dice.whole(5, 60));
    later();
    const donor = dice.one(live);
    if (dice.chance(0.8)) {
      keptBrine = lot('preparation');
      move(donor.lot, keptBrine, 600);
    } else keptBrine = donor.lot;
    later();
    const run = lot('run');
    for (const from of live.filter(() => dice.chance(0.6))) {
      move(from.lot, run, dice.whole(200, 700));
      if (dice.chance(0.6)) close(from);
    }
  }
  for (const stay of [...live])
    stays.push({ lot: stay.lot, vessel: stay.vessel, at: stay.since, seq: stay.seq, closedAt: stay.since });
  const cancelled = new Set(moves.flatMap(({ cancels }) => (cancels === null ? [] : [cancels])));
  const counting = moves.filter((row) => !row.isVoid && !cancelled.has(row.id));
  const seqOf = new Map(lots.map((one, index) => [one.id, index]));
  return {
    lots: lots.map((one) => ({ ...one, closedAt: stays.find((stay) => stay.lot === one.id)?.closedAt ?? null })),
    moves,
    made: {
      moves: counting,
      stays: stays.map((stay) => ({ ...stay, seq: seqOf.get(stay.lot)! })),
      cleanings,
      codes: new Map(lots.map(({ id, code }) => [id, code])),
    },
  };
}

/** Written by the owner of the tables, in sets: what is asked here is whether a way is walked as the rule says. */
async function write(lots: LotLine[], moves: MoveLine[], made: Made, vessels: Map<string, string>): Promise<void> {
  await owner.query(
    `insert into journal (seq, entry_id, kind, happened_at, recorded_at, by, entry, facts, previous_hash, hash)
     select seq, md5('t' || seq)::uuid, 'loss.record', at, at, $3, '{}', '{}', seq::text, 'x' || seq
     from unnest($1::bigint[], $2::timestamptz[]) as t(seq, at)`,
    [moves.map((row) => row.seq), moves.map((row) => new Date(row.at)), house.owner.id],
  );
  await owner.query(
    `insert into lot (id, code, code_key, kind, name, origin, at, seq, batch_id, vessel_id, closed_at)
     select id, code, code, kind, 'made', 'made', at, number, batch, vessel, closed
     from unnest($1::uuid[], $2::text[], $3::text[], $4::timestamptz[], $5::bigint[], $6::uuid[], $7::uuid[], $8::timestamptz[])
       as t(id, code, kind, at, number, batch, vessel, closed)`,
    [
      lots.map(({ id }) => id),
      lots.map(({ code }) => code),
      lots.map(({ kind }) => kind),
      lots.map(({ at }) => new Date(at)),
      lots.map((_, index) => index),
      lots.map(({ batch }) => batch),
      lots.map(({ vessel }) => (vessel === null ? null : vessels.get(vessel)!)),
      lots.map(({ closedAt, kind }) => (kind === 'fill' ? new Date(closedAt ?? T0) : null)),
    ],
  );
  await owner.query(
    `insert into movement (id, seq, root_entry_id, kind, at, from_lot, source, to_lot, sink, milligrams, cancels, void)
     select id, seq, md5('t' || seq)::uuid, 'loss.record', at, from_lot, source, to_lot, sink, mg, cancels, void
     from unnest($1::bigint[], $2::bigint[], $3::timestamptz[], $4::uuid[], $5::text[], $6::uuid[], $7::text[], $8::bigint[], $9::bigint[], $10::bool[])
       as t(id, seq, at, from_lot, source, to_lot, sink, mg, cancels, void)`,
    [
      moves.map(({ id }) => id),
      moves.map((row) => row.seq),
      moves.map(({ at }) => new Date(at)),
      moves.map(({ from }) => from),
      moves.map(({ source }) => source),
      moves.map(({ to }) => to),
      moves.map(({ sink }) => sink),
      moves.map(({ milligrams }) => milligrams),
      moves.map(({ cancels }) => cancels),
      moves.map(({ isVoid }) => isVoid),
    ],
  );
  await owner.query(
    `insert into cleaning (entry_id, vessel_id, agent, by, at, seq)
     select gen_random_uuid(), vessel, 'hot water', $3, at, 1 from unnest($1::uuid[], $2::timestamptz[]) as t(vessel, at)`,
    [
      made.cleanings.map(({ vessel }) => vessels.get(vessel)!),
      made.cleanings.map(({ at }) => new Date(at)),
      house.owner.id,
    ],
  );
}

describe(`the way through ${HOUSES} generated houses, against a slow walk by the rule`, () => {
  beforeAll(async () => {
    house = await openHouse('spec_traced');
    owner = new pg.Client({ connectionString: house.connection.ownerUrl });
    await owner.connect();
    seq = Number((await owner.query<{ m: string }>('select max(seq) as m from journal')).rows[0]!.m);
    for (let number = 0; number < HOUSES; number += 1) {
      const { lots, moves, made } = generate(new Dice(4711 + number), number);
      // Each house has crocks of its own: what one leaves uncleaned is no matter of another.
      const vessels = new Map<string, string>();
      for (const tag of ['C1', 'C2', 'D1', 'D2']) vessels.set(tag, new Dice(number * 8 + vessels.size).id());
      await owner.query(
        `insert into vessel select (jsonb_populate_record(v, jsonb_build_object('id', t.id, 'tag', t.tag))).* from vessel v,
         unnest($1::uuid[], $2::text[]) as t(id, tag) where v.tag = 'C1'`,
        [[...vessels.values()], [...vessels.keys()].map((tag) => `${tag}-${number}`)],
      );
      await write(lots, moves, made, vessels);
      houses.push(made);
    }
    await owner.query('analyze');
  }, 240_000);
  afterAll(async () => {
    await owner.end();
    await house.close();
  });

  const subjectsOf = (made: Made, number: number): string[] => {
    const dice = new Dice(number + 1);
    const lots = [...made.codes.keys()];
    return [lots[0]!, dice.one(lots), dice.one(lots)];
  };

  it('takes the same movements, backward and forward', async () => {
    for (const [number, made] of houses.entries()) {
      const subject = subjectsOf(made, number)[1 + (number % 2)]!;
      const walked = async (query: ReturnType<typeof walkBack>): Promise<number[]> =>
        (await rows<{ id: string }>(house.connection.reader, query)).map(({ id }) => Number(id)).sort((a, b) => a - b);
      const slow = (way: 'forward' | 'back'): number[] => [...slowWalk(made.moves, subject, way)].sort((a, b) => a - b);
      expect(await walked(walkBack(subject))).toEqual(slow('back'));
      expect(await walked(walkForward(subject))).toEqual(slow('forward'));
    }
  }, 240_000);

  it('answers with the same lots, and with the mass of the subject along every band', async () => {
    for (const [number, made] of houses.entries()) {
      for (const subject of subjectsOf(made, number).slice(0, 2)) {
        const reply = await readTrace(house.connection.reader, made.codes.get(subject)!);
        const [back, forward] = [slowWalk(made.moves, subject, 'back'), slowWalk(made.moves, subject, 'forward')];
        const carried = slowCarried(made.moves, subject);
        const [lots, bands] = [new Set([subject]), new Map<string, number>()];
        for (const row of made.moves.filter(({ id }) => back.has(id) || forward.has(id))) {
          lots.add(row.from!).add(row.to!);
          const key = `${row.from} ${row.to}`;
          // Backward a band is what was poured; forward it is what of it came from the subject.
          const grams = (back.has(row.id) ? row.milligrams : Math.round(carried.get(row.id)!)) / 1000;
          bands.set(key, (bands.get(key) ?? 0) + grams);
        }
        expect(reply.lots).withContext(`${number} ${subject}`).toBe(lots.size);
        if (reply.nodes.some(({ folded }) => folded !== null)) continue;
        expect(new Set(reply.nodes.map(({ lotId }) => lotId))).toEqual(lots);
        for (const flow of reply.flows)
          expect(Math.abs(flow.grams - bands.get(`${flow.from} ${flow.to}`)!))
            .withContext(`${number}: ${made.codes.get(flow.from)} to ${made.codes.get(flow.to)}`)
            .toBeLessThan(0.02);
        expect(reply.flows.length).toBe(bands.size);
      }
    }
  }, 240_000);

  it('reaches the same lots in a recall that follows vessels nobody cleaned', async () => {
    let carried = 0;
    for (const [number, made] of houses.entries()) {
      if (number % 5 !== 0) continue;
      const subject = subjectsOf(made, number)[2]!;
      const of = await lotByCode(house.connection.reader, made.codes.get(subject)!);
      const reach = await recallReach(house.connection.reader, of, { scope: 'descendants', carryOver: true });
      const slow = slowCarryOver(made.moves, made.stays, made.cleanings, subject);
      expect([...reach.keys()].sort())
        .withContext(String(number))
        .toEqual([...slow].sort());
      const { nodes } = await readTrace(house.connection.reader, of.code, { carryOver: true });
      const inReach = nodes.filter(({ lotId, forward }) => forward || lotId === of.id);
      expect(inReach.map(({ lotId }) => lotId).sort()).toEqual([...slow].sort());
      carried += [...reach.values()].filter(Boolean).length;
    }
    expect(carried).toBeGreaterThan(0);
  }, 240_000);
});

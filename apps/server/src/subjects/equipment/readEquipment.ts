import type { EquipmentReply } from '@clear-tally/contract';
import { equipmentDue, type EquipmentKind } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { room } from '../../db/schema/house.js';
import { groupBy } from '../../db/groupBy.js';
import { toGrams } from '../../db/schema/columns.js';
import { cleaningSaid } from '../../lots/house.js';

interface EquipmentRow {
  id: string;
  kind: EquipmentKind;
  tag: string;
  name: string;
  roomId: string | null;
  room: string | null;
  capacityGrams: number | null;
  stepGrams: number | null;
  count: number | null;
  words: string | null;
  inUse: boolean;
}

interface CleanedRow {
  of: string;
  at: Date;
  by: string;
  words: string;
}

/** Looks that are shown of each. */
const HISTORY = 12;

/** What was cleaned last of these, by a column of the cleaning. */
const lastCleaned = (reader: Reader, column: 'equipment_id' | 'room_id'): Promise<CleanedRow[]> => {
  const of = sql.raw(column);
  return rows<CleanedRow>(
    reader,
    sql`select distinct on (c.${of}) c.${of} as of, c.at, p.initials as by,
      ${cleaningSaid} as words
    from cleaning c join person p on p.id = c.by left join sanitiser s on s.id = c.mix_id
    where c.${of} is not null order by c.${of}, c.at desc, c.seq desc`,
  );
};

interface WeighedOnRow {
  scaleId: string;
  code: string;
  at: Date;
  mg: string;
  /** How often in all: the list ends sooner. */
  times: number;
}

/** Weighings that are named of one scale. */
const WEIGHINGS = 30;

/** What was weighed on each scale since it was last found in order: if it is found wrong now, these are in doubt. */
const weighedSince = (reader: Reader): Promise<WeighedOnRow[]> =>
  rows<WeighedOnRow>(
    reader,
    sql`select w.equipment_id as "scaleId", l.code, w.at, w.milligrams as mg, w.times
    from (select o.*, (count(*) over of_scale)::int as times, row_number() over (partition by o.equipment_id order by o.at desc, o.seq desc) as nth
      from weighed_on o
      where o.at > coalesce((select max(k.at) from equipment_check k where k.equipment_id = o.equipment_id and k.passed), '-infinity')
      window of_scale as (partition by o.equipment_id)) w
    join lot l on l.id = w.lot_id where w.nth <= ${WEIGHINGS} order by w.at desc, w.seq desc`,
  );

const weighedOf = (of: readonly WeighedOnRow[]): EquipmentReply['equipment'][number]['weighed'] => ({
  times: of[0]?.times ?? 0,
  lots: of.map(({ code, at, mg }) => ({ code, at: new Date(at).toISOString(), grams: toGrams(mg) })),
});

/** Scales, tools, loose parts and water with what is due of them; rooms as they were cleaned; batches of sanitiser. */
export async function readEquipment(reader: Reader, now: Date): Promise<EquipmentReply> {
  const [all, checks, tools, rooms, ofRooms, mixes, weighed] = await Promise.all([
    rows<EquipmentRow>(
      reader,
      sql`select e.id, e.kind, e.tag, e.name, e.room_id as "roomId", r.name as room, e.capacity_grams as "capacityGrams",
        e.step_grams as "stepGrams", e.count, e.words, e.in_use as "inUse"
      from equipment e left join room r on r.id = e.room_id order by e.in_use desc, e.tag`,
    ),
    rows<{ equipmentId: string; at: Date; by: string; words: string; passed: boolean }>(
      reader,
      sql`select k.equipment_id as "equipmentId", k.at, p.initials as by, k.words, k.passed
      from (select *, row_number() over (partition by equipment_id order by at desc, seq desc) as nth from equipment_check) k
      join person p on p.id = k.by where nth <= ${HISTORY} order by k.at desc, k.seq desc`,
    ),
    lastCleaned(reader, 'equipment_id'),
    reader.select({ id: room.id, name: room.name }).from(room).orderBy(room.position, room.name),
    lastCleaned(reader, 'room_id'),
    rows<Omit<EquipmentReply['mixes'][number], 'at' | 'goodUntil'> & { at: Date; goodUntil: Date }>(
      reader,
      sql`select s.id, s.code, s.agent, s.dilution, s.litres::float8 as litres, s.strength, s.passed, s.unchecked, s.at, p.initials as by, s.good_until as "goodUntil",
        (select count(*)::int from cleaning c where c.mix_id = s.id) as used
      from sanitiser s join person p on p.id = s.by order by s.at desc, s.seq desc limit 40`,
    ),
    weighedSince(reader),
  ]);
  const onScale = groupBy(weighed, ({ scaleId }) => scaleId);
  const history = groupBy(checks, ({ equipmentId }) => equipmentId);
  const cleaned = new Map(
    [...tools, ...ofRooms].map(({ of, at, by, words }) => [of, { at: at.toISOString(), by, with: words }]),
  );
  return {
    now: now.toISOString(),
    equipment: all.map((one) => {
      const looks = history.get(one.id) ?? [];
      const last = looks[0] ?? null;
      return {
        ...one,
        checkedAt: last?.at.toISOString() ?? null,
        checkedWords: last?.words ?? null,
        checkPassed: last?.passed ?? null,
        due: one.inUse
          ? equipmentDue({
              kind: one.kind,
              checkedAt: last?.at.getTime() ?? null,
              passed: last?.passed ?? null,
              now: now.getTime(),
            })
          : null,
        cleaned: cleaned.get(one.id) ?? null,
        history: looks.map(({ at, by, words, passed }) => ({ at: at.toISOString(), by, words, passed })),
        weighed: weighedOf(onScale.get(one.id) ?? []),
      };
    }),
    rooms: rooms.map((one) => ({ ...one, cleaned: cleaned.get(one.id) ?? null })),
    mixes: mixes.map((mix) => ({ ...mix, at: mix.at.toISOString(), goodUntil: mix.goodUntil.toISOString() })),
  };
}

import { sql } from 'drizzle-orm';
import type { RecordSheetKey } from '@clear-tally/contract';
import { type AtDoor, jarCode } from '@clear-tally/core';
import { type Sheet, sheet } from './sheetOf.js';

const kg = (milligrams: string | number | null): number | null =>
  milligrams === null ? null : Math.round(Number(milligrams) / 1000) / 1000;

interface Received {
  at: Date;
  code: string;
  theirs: string | null;
  name: string;
  kind: string;
  supplier: string | null;
  mg: string;
  back: string;
  useBy: string | null;
  condition: string | null;
  door: AtDoor | null;
  reference: string | null;
  by: string;
}
interface Made {
  at: Date;
  what: string;
  code: string;
  name: string;
  mg: string;
  inCode: string;
  inName: string;
  inTheirs: string | null;
  vessel: string | null;
  room: string | null;
  by: string;
}
interface Shipped {
  at: Date;
  note: string;
  customer: string;
  address: string | null;
  run: string;
  name: string;
  first: number;
  last: number;
  sizeMl: number;
  net: string;
  by: string;
}
interface Read {
  at: Date;
  code: string;
  name: string;
  vessel: string | null;
  kind: string;
  value: string;
  sample: string | null;
  meter: string | null;
  fit: boolean;
  by: string;
}
interface Cleaned {
  at: Date;
  what: string;
  agent: string;
  mix: string | null;
  dilution: string | null;
  minutes: string | null;
  rinsed: boolean;
  by: string;
}

const MADE: Readonly<Record<string, string>> = {
  preparation: 'prepared',
  batch: 'mixed',
  fill: 'filled',
  run: 'packed',
};

/** The key data elements of receiving, transformation and shipping, and the records beside them. Source: handbook 5.4. */
export const SHEETS: Readonly<Record<RecordSheetKey, Sheet>> = {
  receiving: sheet<Received>(
    [
      'Received',
      'Lot code',
      'Supplier’s lot',
      'Supplier',
      'Product',
      'Kind',
      'Quantity, kg or pieces',
      'Sent back',
      'Use by',
      'Variety',
      'Temperature at the door, °C',
      'Condition',
      'Reference',
      'By',
    ],
    {
      select: sql`select l.at, l.code, l.supplier_lot_code as theirs, l.name, x.kind, s.name as supplier,
        coalesce((select sum(m.milligrams) from live_movement m where m.to_lot = l.id and m.source = 'received'), 0) as mg,
        coalesce((select sum(m.milligrams) from live_movement m where m.from_lot = l.id and m.sink = 'returned'), 0) as back,
        l.use_by::text as "useBy", l.door, l.condition, l.reference, p.initials as by`,
      from: sql`from lot l left join supplier s on s.id = l.supplier_id left join material x on x.id = l.material_id
        join journal j on j.seq = l.seq join person p on p.id = j.by`,
      at: sql`l.at`,
      where: sql`l.kind = 'supply' and l.undone_seq is null`,
      key: sql`l.id`,
      type: 'uuid',
      order: sql`l.at, l.seq`,
    },
    (row, day) => [
      day(row.at),
      row.code,
      row.theirs,
      row.supplier,
      row.name,
      row.kind,
      // What is counted by the piece is kept as so many grams.
      row.kind === 'packaging' ? Number(row.mg) / 1000 : kg(row.mg),
      row.kind === 'packaging' ? Number(row.back) / 1000 : kg(row.back),
      row.useBy,
      row.door?.variety ?? null,
      row.door?.celsius ?? null,
      row.condition,
      row.reference,
      row.by,
    ],
  ),
  transformation: sheet<Made>(
    [
      'When',
      'What',
      'New lot',
      'Product',
      'From lot',
      'From product',
      'Their lot',
      'Quantity, kg',
      'Vessel',
      'Room',
      'By',
    ],
    {
      select: sql`select m.at, t.kind as what, t.code, t.name, m.milligrams as mg, f.code as "inCode", f.name as "inName",
        f.supplier_lot_code as "inTheirs", v.tag as vessel, r.name as room, p.initials as by`,
      from: sql`from live_movement m join lot t on t.id = m.to_lot join lot f on f.id = m.from_lot
        join journal j on j.seq = m.seq join person p on p.id = j.by
        left join vessel v on v.id = t.vessel_id left join room r on r.id = v.room_id`,
      at: sql`m.at`,
      key: sql`m.id`,
      type: 'bigint',
      order: sql`m.at, m.seq, m.id`,
    },
    (row, day) => [
      day(row.at),
      MADE[row.what] ?? row.what,
      row.code,
      row.name,
      row.inCode,
      row.inName,
      row.inTheirs,
      kg(row.mg),
      row.vessel,
      row.room,
      row.by,
    ],
  ),
  shipping: sheet<Shipped>(
    [
      'Sent',
      'Delivery note',
      'To',
      'Address',
      'Product',
      'Run',
      'First jar',
      'Last jar',
      'Jars',
      'Size, mL',
      'Net, kg',
      'By',
    ],
    {
      select: sql`select m.at, d.code as note, c.name as customer, c.address, l.code as run, l.name,
        greatest(m.first_serial, g.first_serial) as first, least(m.last_serial, g.last_serial) as last,
        g.size_ml as "sizeMl", g.net_milligrams as net, p.initials as by`,
      from: sql`from jar_move m join dispatch d on d.id = m.dispatch_id join customer c on c.id = m.customer_id
        join lot l on l.id = m.run_lot_id join jar_range g on g.run_lot_id = m.run_lot_id
          and g.first_serial <= m.last_serial and g.last_serial >= m.first_serial
        join person p on p.id = d.by`,
      at: sql`m.at`,
      where: sql`m.where_kind = 'customer'`,
      key: sql`d.id`,
      type: 'uuid',
      order: sql`m.at, m.seq, m.number, greatest(m.first_serial, g.first_serial)`,
    },
    (row, day) => {
      const jars = row.last - row.first + 1;
      return [
        day(row.at),
        row.note,
        row.customer,
        row.address,
        row.name,
        row.run,
        jarCode(row.run, row.first).text,
        jarCode(row.run, row.last).text,
        jars,
        row.sizeMl,
        kg(jars * Number(row.net)),
        row.by,
      ];
    },
  ),
  readings: sheet<Read>(
    ['When', 'Lot', 'Product', 'Vessel', 'What', 'Figure', 'Sample', 'Meter', 'Counts for release', 'By'],
    {
      select: sql`select g.at, l.code, l.name, v.tag as vessel, g.kind, g.value, g.sample, m.tag as meter,
        g.for_release as fit, p.initials as by`,
      from: sql`from live_reading g join lot l on l.id = g.lot_id left join vessel v on v.id = l.vessel_id
        left join meter m on m.id = g.meter_id join journal j on j.seq = g.seq join person p on p.id = j.by`,
      at: sql`g.at`,
      key: sql`g.entry_id`,
      type: 'uuid',
      order: sql`g.at, g.seq, g.entry_id`,
    },
    (row, day) => [
      day(row.at),
      row.code,
      row.name,
      row.vessel,
      row.kind === 'ph' ? 'pH' : '°C',
      Number(row.value),
      row.sample,
      row.meter,
      row.kind === 'ph' ? (row.fit && row.sample === 'blended' ? 'yes' : 'no') : null,
      row.by,
    ],
  ),
  cleaning: sheet<Cleaned>(
    ['When', 'What', 'With', 'Batch of it', 'Dilution', 'Minutes', 'Rinsed', 'By'],
    {
      select: sql`select c.at, coalesce(v.tag, e.tag || ', ' || e.name, r.name) as what, c.agent, s.code as mix,
        c.dilution, c.contact_minutes as minutes, c.rinsed, p.initials as by`,
      from: sql`from cleaning c left join vessel v on v.id = c.vessel_id left join equipment e on e.id = c.equipment_id
        left join room r on r.id = c.room_id left join sanitiser s on s.id = c.mix_id join person p on p.id = c.by`,
      at: sql`c.at`,
      key: sql`c.entry_id`,
      type: 'uuid',
      order: sql`c.at, c.seq`,
    },
    (row, day) => [
      day(row.at),
      row.what,
      row.agent,
      row.mix,
      row.dilution,
      row.minutes === null ? null : Number(row.minutes),
      row.rinsed ? 'yes' : 'no',
      row.by,
    ],
  ),
};

import type { JournalReply } from '@clear-tally/contract';
import { isoDay } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { complaint } from '../src/db/schema/recall.js';
import { nextOfYear } from '../src/lots/nextOfYear.js';
import { lot } from '../src/db/schema/ledger.js';
import { loadWatched } from '../src/lots/watched.js';
import { labelsOf } from '../src/papers/lotLabel.js';
import { Client } from './client.js';
import { calendarOf } from '../src/subjects/watching/calendar.js';
import { ids } from './entries.js';
import { daysAgo, dryBatch } from './oneBatch.js';
import { openHouse, type TestHouse } from './house.js';

describe('days that are asked for are days of the house', () => {
  let house: TestHouse;
  let maker: Client;
  // Half past seven, in summer half past eight in the morning there; by the clock of the world the evening before.
  const ofTheWorld = (daysAgo: number): string =>
    new Date(Date.now() - daysAgo * 86_400_000).toISOString().slice(0, 10);
  const [dayBefore, day] = [ofTheWorld(20), ofTheWorld(19)];
  const morning = new Date(`${dayBefore}T19:30:00Z`);
  const asked = async (from: string, to: string): Promise<string[]> =>
    ((await maker.get(`/api/journal?from=${from}&to=${to}`)).body as JournalReply).lines.map(({ kind }) => kind);

  beforeAll(async () => {
    house = await openHouse('spec_days_asked', { timeZone: 'Pacific/Auckland' });
    maker = await Client.signIn(house, house.maker);
    const clean = { vesselId: house.vessel('C1'), agent: 'soda', rinsed: true } as const;
    await house.record('vessel.clean', clean, { by: house.maker, at: morning });
  }, 60_000);
  afterAll(() => house.close());

  it('what was done in the morning stands in the sheet of that day, not of the day before', async () => {
    const sheet = async (on: string): Promise<string> =>
      (await maker.bytes(`/api/records/cleaning.csv?from=${on}&to=${on}`)).toString('utf8');
    expect(await sheet(day)).toContain('soda');
    expect(await sheet(dayBefore)).not.toContain('soda');
  });
  it('and in the book of that day', async () => {
    expect(await asked(day, day)).toEqual(['vessel.clean']);
    expect(await asked(dayBefore, dayBefore)).toEqual([]);
    expect(await asked(dayBefore, day)).toEqual(['vessel.clean']);
  });
  it('what is known by its day alone is of that day there: a use-by on its label, a vessel from before the ledger', async () => {
    const [lotId, fillLotId] = [ids.next(), ids.next()];
    const bought = { lotId, materialId: house.names.turnip, supplierId: house.names.supplier, supplierLotCode: 'F4' };
    await house.record('supply.receive', { ...bought, grams: 4000, useBy: '2099-12-24', condition: null });
    const labels = await labelsOf(house.connection.reader, { lotIds: [lotId], base: 'http://house' });
    expect(JSON.stringify(labels)).toContain('use by 24 Dec 2099');
    const stood = {
      what: 'vessel',
      batchId: ids.next(),
      fillLotId,
      vesselId: house.vessel('C2'),
      grams: 5000,
    } as const;
    await house.record('lot.open', { ...stood, name: 'Old shred', filledOn: day });
    const [row] = await house.connection.db.select({ at: lot.at }).from(lot).where(eq(lot.id, fillLotId));
    expect(isoDay(row!.at.getTime(), 'Pacific/Auckland')).toBe(day);
  });
  it('a ready window in a calendar is of the days it is of there, its last day with it', async () => {
    // Nine in the evening of the world is the morning of the next day there.
    await dryBatch(house, { tag: 'D1', at: daysAgo(4, 21), produceGrams: 6000, saltGrams: 132 });
    const now = new Date();
    const [vessel] = (await loadWatched(house.connection.db, now)).filter(({ vesselTag }) => vesselTag === 'D1');
    const { from, to } = vessel!.window;
    const feed = (await calendarOf(house.connection.reader, { now, base: 'http://house' })).split('BEGIN:VEVENT');
    const event = feed.find((one) => one.includes('SUMMARY:D1: ready window'))!;
    const days = /DTSTART;VALUE=DATE:(\d+)\s+DTEND;VALUE=DATE:(\d+)/.exec(event)!.slice(1);
    const there = (at: number): string => isoDay(at, 'Pacific/Auckland').replaceAll('-', '');
    expect(days).toEqual([there(from), there(to + 86_400_000)]);
    expect(days[0]).withContext('not of the world’s').not.toBe(isoDay(from, 'UTC').replaceAll('-', ''));
  });
  it('a number of the year begins anew when the year begins there', async () => {
    const at = (iso: string): Promise<string> => nextOfYear(house.connection.db, complaint, 'K', new Date(iso));
    expect(await at('2026-12-31T10:59:00Z')).toBe('K26-0001');
    expect(await at('2026-12-31T11:00:00Z')).toBe('K27-0001');
  });
  it('a book of many pages comes page by page, each line once', async () => {
    const lines: string[] = [];
    for (let before = ''; ;) {
      const { lines: page, next } = (await maker.get(`/api/journal?many=7${before}`)).body as JournalReply;
      lines.push(...page.map(({ entryId }) => entryId));
      expect(page.length).toBeLessThanOrEqual(7);
      if (next === null) break;
      before = `&before=${next}`;
    }
    const { lines: all } = (await maker.get('/api/journal?many=1000')).body as JournalReply;
    expect(lines).toEqual(all.map(({ entryId }) => entryId));
    expect(new Set(lines).size).toBe(lines.length);
  });
  it('a last day before the first, and a day that never was, are refused by their field', async () => {
    for (const path of ['/api/journal', '/api/records/cleaning.csv']) {
      const { status, body } = await maker.get(`${path}?from=${day}&to=${dayBefore}`);
      expect(status).toBe(400);
      expect(JSON.stringify(body)).toContain('before the first');
      expect((await maker.get(`${path}?from=2026-02-30`)).status).toBe(400);
    }
  });
});

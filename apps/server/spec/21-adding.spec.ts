import { FINDINGS } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { readFileSync } from 'node:fs';
import { checksTable, entriesTable, withTable } from '../docs/tables.js';
import { rows } from '../src/db/database.js';
import { checkMark } from '../src/db/schema/watching.js';
import { bookLines } from '../src/journal/bookLines.js';
import { kind, type Kind } from '../src/journal/kind.js';
import { type Actor, recordEntries } from '../src/journal/record.js';
import { Refused } from '../src/journal/refused.js';
import { type Kinds, tellKinds } from '../src/journal/registry.js';
import { loadLot } from '../src/lots/lots.js';
import { KINDS } from '../src/subjects/kinds.js';
import { entryOf } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch } from './oneBatch.js';

describe('what is described once', () => {
  it('is what the documents say', () => {
    for (const [file, name, table] of [
      ['docs/entries.md', 'entries', entriesTable()],
      ['docs/floor.md', 'checks', checksTable()],
    ] as const) {
      const text = readFileSync(file, 'utf8');
      expect(withTable(text, name, table))
        .withContext(`${file}: npm run docs`)
        .toBe(text);
    }
  });
  it('every finding has a drawing', () => {
    const drawings = readFileSync('apps/web/src/app/places/guide/finding-drawing.ts', 'utf8');
    for (const { key } of FINDINGS)
      expect(drawings)
        .withContext(key)
        .toMatch(new RegExp(`\\b${key}\\b`));
  });

  describe('a kind of entry that was not there', () => {
    let house: TestHouse;
    beforeAll(async () => {
      house = await openHouse('spec_adding');
    });
    afterAll(async () => {
      tellKinds(KINDS);
      await house.close();
    });

    it('is recorded, refused to whom it is not for, read in the book and taken back', async () => {
      const toy = kind('toy.sing' as never, {
        who: 'owner',
        words: 'Sung to',
        does: 'somebody sang to a vessel',
        correct: 'book',
        record: async ({ tx, entry, body, seq, at }) => {
          const { lotId, song } = body as unknown as { lotId: string; song: string };
          const of = await loadLot(tx, lotId, 'lotId', ['fill']);
          await tx.insert(checkMark).values({
            entryId: (entry as { id: string }).id,
            lotId: of.id,
            key: 'own',
            what: 'own',
            words: song,
            quiet: true,
            figure: null,
            says: null,
            by: (entry as { by: string }).by,
            at,
            seq,
          });
          return { lots: [of.id] };
        },
        line: ({ entry }) => ({ what: 'Sung to', words: (entry as unknown as { body: { song: string } }).body.song }),
      }) as unknown as Kind;
      tellKinds({ ...KINDS, 'toy.sing': toy } as unknown as Kinds);
      const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(2) });
      const sing = (by: Actor) => {
        const entry = entryOf('toy.sing' as never, { lotId: fillId, song: 'a round in three parts' } as never, by.id);
        return recordEntries(house.connection.db, { entries: [entry], actor: by, now: new Date() });
      };
      await expectAsync(sing(house.maker)).toBeRejectedWithError(Refused, 'Only an owner changes this.');
      const [recorded] = await sing(house.owner);
      const line = async () =>
        (await bookLines(house.connection.db, [fillId])).find(({ entryId }) => entryId === recorded!.id)!;
      expect(await line()).toEqual(
        jasmine.objectContaining({
          what: 'Sung to',
          words: 'a round in three parts',
          correctable: true,
          struckOut: false,
        }),
      );
      await house.record('entry.correct', { corrects: recorded!.id, reason: 'it was the radio', instead: null });
      expect(await line()).toEqual(
        jasmine.objectContaining({ struckOut: true, words: 'never happened, Ow: it was the radio' }),
      );
      expect(await rows(house.connection.db, sql`select 1 from check_mark where entry_id = ${recorded!.id}`)).toEqual(
        [],
      );
    });

    it('a table that says which entry wrote a row is known to corrections', async () => {
      const tables = await rows<{ name: string }>(
        house.connection.db,
        sql`
        select distinct table_name as name from information_schema.columns c where table_schema = 'public' and column_name in ('seq', 'entry_seq')
          and exists (select 1 from information_schema.tables t where t.table_name = c.table_name and t.table_type = 'BASE TABLE')`,
      );
      const known = (
        await rows<{ name: string }>(house.connection.db, sql`select name from taken_from order by position`)
      ).map(({ name }) => name);
      const others = [
        'journal',
        'entry_lot',
        'movement',
        'reading',
        'lot',
        'correction',
        'taken_back',
        'row_change',
        'formula',
      ];
      for (const { name } of tables) if (!others.includes(name)) expect(known).withContext(name).toContain(name);
    });
  });
});

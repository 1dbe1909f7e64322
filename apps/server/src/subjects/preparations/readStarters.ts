import type { StartersReply } from '@clear-tally/contract';
import { phStanding, saltFigure } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { Refused } from '../../journal/refused.js';
import { loadContents } from '../../lots/contents.js';
import { onHandMg } from '../../lots/lotFigures.js';
import { phPoints } from '../../lots/readings.js';
import { donorIn, refuseTiredIn, starterBook } from '../../lots/starters.js';

/** Kept brine, left-over brine, live vessels and preparations, each with its strength and what stands in its way. */
export async function readStarters(reader: Reader, now: Date): Promise<StartersReply> {
  const found = await rows<{
    lotId: string;
    code: string;
    name: string;
    kind: string;
    form: string | null;
    mg: string;
    generation: number | null;
    useBy: string | null;
    touched: string | null;
  }>(
    reader,
    sql`
    select l.id as "lotId", l.code, l.name, l.kind, l.form, ${onHandMg(sql`l.id`)} as mg, l.generation, l.use_by::text as "useBy", l.touched
    from lot l where l.id in (
      select id from lot where live_vessel is not null union all select id from lot where kind = 'preparation' and closed_at is null and (form <> 'brine' or touched = 'never')
    ) order by l.form is null, l.seq desc limit 120`,
  );
  const starters: StartersReply['starters'] = [];
  const points = await phPoints(
    reader,
    found.map(({ lotId }) => lotId),
  );
  const contents = await loadContents(
    reader,
    found.map(({ lotId }) => lotId),
  );
  const book = await starterBook(
    reader,
    found.map(({ lotId }) => lotId),
    now,
  );
  for (const row of found.filter(({ mg }) => Number(mg) > 0)) {
    let [refusal, generation]: [string | null, number | null] = [null, row.generation];
    const lot = { id: row.lotId, code: row.code, useBy: row.useBy };
    try {
      const held = book.holds.get(row.lotId);
      if (held) refusal = `on hold: ${held}`;
      else if (row.kind === 'fill') generation = donorIn(book, lot);
      else if (row.form === 'keptBrine') refuseTiredIn(book, lot);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      refusal = error.message;
    }
    starters.push({
      lotId: row.lotId,
      code: row.code,
      name: row.name,
      kind:
        row.kind === 'fill'
          ? 'vessel'
          : row.form === 'brine'
            ? 'leftBrine'
            : row.form === 'keptBrine'
              ? 'keptBrine'
              : 'made',
      onHandGrams: toGrams(row.mg),
      generation,
      useBy: row.useBy,
      lastPh: phStanding(points.get(row.lotId)!).counting?.ph ?? null,
      salt: saltFigure(contents.get(row.lotId)!),
      refusal,
    });
  }
  return { starters };
}

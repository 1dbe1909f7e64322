import { houseFileSchema, RECORD_SHEETS } from '@clear-tally/contract';
import { isoDay, spreadsheetCell, writeEpcis } from '@clear-tally/core';
import { stringify } from 'csv-stringify/sync';
import type Router from '@koa/router';
import { PassThrough, Readable } from 'node:stream';
import { z } from 'zod';
import { writeHouseFile } from '../../journal/file/writeHouseFile.js';
import { refused } from '../../journal/refused.js';
import { loadHouse } from '../../lots/house.js';
import { readEvents } from '../../subjects/records/readEvents.js';
import type { Asked, Sheet } from '../../subjects/records/sheetOf.js';
import { SHEETS } from '../../subjects/records/sheets.js';
import { type Ctx, type Deps, houseAddress, signedIn } from '../context.js';
import { DAYS, inOrder, momentsOf, NOT_IN_ORDER } from '../days.js';

const query = z.object(DAYS).refine(inOrder, NOT_IN_ORDER);
const params = z.object({ sheet: z.enum(RECORD_SHEETS), as: z.enum(['csv', 'xlsx']) });
const DAY = 86_400_000;
/** Without days two years are meant: as long as most rules ask for records. */
const USUAL_DAYS = 731;

/** Records that leave the house: sortable sheets with their key data, and events other systems read. */
export function recordRoutes(router: Router, deps: Deps): void {
  router.get('/api/records/events.jsonld', async (ctx) => {
    await signedIn(ctx, deps);
    const asked = await askedOf(ctx, deps);
    ctx.type = 'application/ld+json';
    attach(ctx, 'events.jsonld');
    ctx.body = JSON.stringify(
      writeEpcis({
        base: await houseAddress(ctx, deps),
        at: deps.now().toISOString(),
        events: await readEvents(deps.reader, asked),
      }),
      null,
      2,
    );
  });
  router.get('/api/house.json', async (ctx) => {
    const person = await signedIn(ctx, deps);
    if (person.role !== 'owner')
      throw refused('who.notAllowed', 'The whole house leaves by an owner’s hand: with it goes everything in it.');
    const { name, timeZone } = await loadHouse(deps.reader);
    ctx.type = 'application/json';
    attach(ctx, `house-${isoDay(deps.now().getTime(), timeZone)}.json`);
    ctx.body = Readable.from(writeHouseFile(deps.reader, { house: name, at: deps.now() }));
  });
  router.get('/schemas/house.json', (ctx) => {
    ctx.type = 'application/schema+json';
    ctx.body = JSON.stringify(houseFileSchema(), null, 2);
  });
  router.get('/api/records/:sheet.:as', async (ctx) => {
    await signedIn(ctx, deps);
    const { sheet, as } = params.parse(ctx.params);
    const asked = await askedOf(ctx, deps);
    attach(ctx, `${sheet}-${isoDay(asked.from.getTime(), asked.timeZone)}.${as}`);
    if (as === 'csv') {
      ctx.type = 'text/csv; charset=utf-8';
      ctx.body = Readable.from(csvOf(SHEETS[sheet], deps, asked));
    } else {
      ctx.type = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
      ctx.body = xlsxOf(sheet, SHEETS[sheet], deps, asked);
    }
  });
}

async function* pages(of: Sheet, deps: Deps, asked: Asked) {
  for await (const page of of.pages(deps.reader, asked))
    yield page.map((row) => row.map((cell) => (typeof cell === 'string' ? spreadsheetCell(cell) : cell)));
}

async function* csvOf(of: Sheet, deps: Deps, asked: Asked): AsyncGenerator<string> {
  yield `\uFEFF${stringify([[...of.columns]], { record_delimiter: 'windows' })}`;
  for await (const rows of pages(of, deps, asked)) yield stringify(rows, { record_delimiter: 'windows' });
}

/** Written while it is read: a year of a busy house never stands in memory. */
function xlsxOf(name: string, of: Sheet, deps: Deps, asked: Asked): PassThrough {
  const out = new PassThrough();
  const write = async (): Promise<void> => {
    // Few houses ever ask for a workbook: what writes one is read when the first is asked for.
    const { default: exceljs } = await import('exceljs');
    const book = new exceljs.stream.xlsx.WorkbookWriter({ stream: out, useStyles: true, useSharedStrings: false });
    const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
    sheet.columns = of.columns.map((head) => ({ header: head, width: Math.max(12, head.length + 2) }));
    sheet.autoFilter = { from: { row: 1, column: 1 }, to: { row: 1, column: of.columns.length } };
    for await (const rows of pages(of, deps, asked)) for (const row of rows) sheet.addRow(row).commit();
    sheet.commit();
    await book.commit();
  };
  write().catch((error: unknown) => out.destroy(error as Error));
  return out;
}

async function askedOf(ctx: Ctx, deps: Deps): Promise<Asked> {
  const { timeZone } = await loadHouse(deps.reader);
  const asked = momentsOf(query.parse(ctx.query), timeZone);
  const to = asked.to ?? new Date(deps.now().getTime() + DAY);
  return { timeZone, to, from: asked.from ?? new Date(to.getTime() - USUAL_DAYS * DAY) };
}

const attach = (ctx: Ctx, name: string): void => ctx.set('Content-Disposition', `attachment; filename="${name}"`);

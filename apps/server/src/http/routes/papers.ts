import { formulaFileSchema, id, labelDesignBody } from '@clear-tally/contract';
import { writeRecipe } from '@clear-tally/core';
import type Router from '@koa/router';
import { z } from 'zod';
import { loadHouse } from '../../lots/house.js';
import { aimWords } from '../../papers/aimWords.js';
import { askedBatch, paperQuery } from '../../papers/asked.js';
import { batchCsv } from '../../papers/batchCsv.js';
import {
  deliveryNote,
  dossier,
  jarSheet,
  labelSheet,
  pickSheet,
  roundSheet,
  worksheet,
} from '../../papers/inTheBack.js';
import { labelsOf } from '../../papers/lotLabel.js';
import { formulaFileOf } from '../../subjects/formulas/formulaFileOf.js';
import { previewLabel, sheetOf } from '../../papers/jarLabel.js';
import { readPick } from '../../subjects/dispatch/readPick.js';
import { readNote } from '../../subjects/dispatch/readNote.js';
import { readDossier } from '../../subjects/dossier/readDossier.js';
import { readRunHeat } from '../../subjects/heat/readHeat.js';
import { readRun } from '../../subjects/release/readRuns.js';
import { readFloor } from '../../subjects/watching/readFloor.js';
import { type Ctx, type Deps, houseAddress, signedIn } from '../context.js';

const uuid = id;

/** What leaves the house as a file: open formats and printed sheets. */
export function paperRoutes(router: Router, deps: Deps): void {
  router.get('/schemas/formula.json', (ctx) => {
    ctx.type = 'application/schema+json';
    ctx.body = JSON.stringify(formulaFileSchema(), null, 2);
  });
  router.get('/api/formulas.json', async (ctx) => {
    await signedIn(ctx, deps);
    await keepEnd(deps);
    attach(ctx, 'formulas.json', 'application/json');
    ctx.body = JSON.stringify(await formulaFileOf(deps.reader), null, 2);
  });
  router.get('/api/formulas/:id/formula.json', async (ctx) => {
    await signedIn(ctx, deps);
    const file = await formulaFileOf(deps.reader, uuid.parse(ctx.params['id']));
    attach(ctx, `${slug(file.formulas[0]!.name)}.json`, 'application/json');
    ctx.body = JSON.stringify(file, null, 2);
  });
  router.get('/api/formulas/:id/recipe.jsonld', async (ctx) => {
    const asked = await askedOf(ctx, deps);
    const { formula, scaled } = asked;
    attach(ctx, `${slug(formula.name)}.jsonld`, 'application/ld+json');
    ctx.body = JSON.stringify(
      writeRecipe({
        name: formula.name,
        note: formula.note,
        steps: formula.steps.map(({ words }) => words),
        scaled,
        yieldWords: aimWords(asked),
        saltName: formula.saltName ?? 'Salt',
        waterName: 'Water',
      }),
      null,
      2,
    );
  });
  router.get('/api/formulas/:id/batch.csv', async (ctx) => {
    const asked = await askedOf(ctx, deps);
    attach(ctx, `${slug(asked.formula.name)}.csv`, 'text/csv; charset=utf-8');
    ctx.body = batchCsv(asked);
  });
  router.get('/api/formulas/:id/worksheet.pdf', async (ctx) => {
    const asked = await askedOf(ctx, deps);
    const { name, timeZone } = await loadHouse(deps.reader);
    ctx.type = 'application/pdf';
    ctx.set('Content-Disposition', `inline; filename="${slug(asked.formula.name)}-worksheet.pdf"`);
    ctx.body = await worksheet(asked, { name, printedAt: printed(deps.now(), timeZone) });
  });
  router.get('/api/round.pdf', async (ctx) => {
    await signedIn(ctx, deps);
    const { name, timeZone } = await loadHouse(deps.reader);
    ctx.type = 'application/pdf';
    ctx.set('Content-Disposition', 'inline; filename="round.pdf"');
    ctx.body = await roundSheet(await readFloor(deps.reader, deps.now()), {
      name,
      printedAt: printed(deps.now(), timeZone),
    });
  });
  router.get('/api/dispatches/:id/note.pdf', async (ctx) => {
    await signedIn(ctx, deps);
    const { name, timeZone } = await loadHouse(deps.reader);
    const note = await readNote(deps.reader, uuid.parse(ctx.params['id']), timeZone);
    ctx.type = 'application/pdf';
    ctx.set('Content-Disposition', `inline; filename="${note.code}.pdf"`);
    ctx.body = await deliveryNote(note, { name, printedAt: printed(deps.now(), timeZone) });
  });
  router.get('/api/orders/:id/pick.pdf', async (ctx) => {
    await signedIn(ctx, deps);
    const { name, timeZone } = await loadHouse(deps.reader);
    const { order, ...list } = await readPick(deps.reader, uuid.parse(ctx.params['id']), deps.now());
    const { code, customer, note, wantedOn } = order;
    const day = new Intl.DateTimeFormat('en-GB', { timeZone: 'UTC', dateStyle: 'medium' });
    ctx.type = 'application/pdf';
    ctx.set('Content-Disposition', `inline; filename="pick-${slug(code)}.pdf"`);
    ctx.body = await pickSheet(
      { code, customer, note, wantedOn: wantedOn && day.format(new Date(`${wantedOn}T00:00:00Z`)), ...list },
      { name, printedAt: printed(deps.now(), timeZone) },
    );
  });
  router.get('/api/runs/:code/dossier.pdf', async (ctx) => {
    const by = await signedIn(ctx, deps);
    await keepEnd(deps);
    const { timeZone } = await loadHouse(deps.reader);
    const code = ctx.params['code']!;
    const [run, heat] = [
      await readRun(deps.reader, code, by, deps.now()),
      await readRunHeat(deps.reader, code, deps.now()),
    ];
    ctx.type = 'application/pdf';
    ctx.set('Content-Disposition', `inline; filename="dossier-${slug(code)}.pdf"`);
    ctx.body = await dossier(await readDossier(deps.reader, run, heat, deps.now()), {
      printedAt: printed(deps.now(), timeZone),
      timeZone,
    });
  });
  router.post('/api/runs/:code/labels/preview', async (ctx) => {
    await signedIn(ctx, deps);
    const asked = jarPreview.parse(ctx.request.body);
    ctx.body = await previewLabel(deps.reader, ctx.params['code']!, { ...asked, base: await houseAddress(ctx, deps) });
  });
  router.get('/api/runs/:code/labels.pdf', async (ctx) => {
    await signedIn(ctx, deps);
    const asked = jarSheets.parse(ctx.query);
    const sheet = await sheetOf(deps.reader, ctx.params['code']!, { ...asked, base: await houseAddress(ctx, deps) });
    ctx.type = 'application/pdf';
    ctx.set('Content-Disposition', `inline; filename="labels-${slug(ctx.params['code']!)}.pdf"`);
    ctx.body = await jarSheet(sheet);
  });
  router.get('/api/labels.pdf', async (ctx) => {
    await signedIn(ctx, deps);
    const { lots, copies } = labelQuery.parse(ctx.query);
    ctx.type = 'application/pdf';
    ctx.set('Content-Disposition', 'inline; filename="labels.pdf"');
    ctx.body = await labelSheet(
      await labelsOf(deps.reader, { lotIds: lots, base: await houseAddress(ctx, deps) }),
      copies,
    );
  });
}

const jarPreview = z.strictObject({ design: labelDesignBody, serial: z.int().min(1).max(99_999).default(1) });

/** Up to two thousand labels at once: a run of more is printed in parts. */
const jarSheets = z
  .object({
    designId: uuid,
    first: z.coerce.number().int().min(1).max(99_999),
    last: z.coerce.number().int().min(1).max(99_999),
    skip: z.coerce.number().int().min(0).max(800).default(0),
  })
  .refine(({ first, last }) => last - first < 2000, 'two thousand labels at once at most');

/** Up to sixty lots and ten copies of each: more is a slip of the pen. */
const labelQuery = z.object({
  lots: z
    .string()
    .transform((text) => text.split(','))
    .pipe(z.array(uuid).min(1).max(60)),
  copies: z.coerce.number().int().min(1).max(10).default(1),
});

/** What leaves the house leaves a note of where its book ended. */
const keepEnd = async (deps: Deps): Promise<void> =>
  void (await deps.ends?.write(deps.db, deps.now()).catch(() => null));

async function askedOf(ctx: Parameters<Parameters<Router['get']>[1]>[0], deps: Deps) {
  await signedIn(ctx as unknown as Ctx, deps);
  return askedBatch(deps.reader, uuid.parse(ctx.params['id']), paperQuery.parse(ctx.query));
}

const attach = (ctx: { set(name: string, value: string): void; type: string }, name: string, type: string): void => {
  ctx.type = type;
  ctx.set('Content-Disposition', `attachment; filename="${name}"`);
};

const printed = (at: Date, timeZone: string): string =>
  new Intl.DateTimeFormat('en-GB', {
    timeZone,
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  }).format(at);

/** A file name of plain letters. */
const slug = (name: string): string =>
  name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60) || 'formula';

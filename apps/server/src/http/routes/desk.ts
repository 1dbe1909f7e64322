import { ASKED_BY, causeRequest, complaintContact, day, id } from '@clear-tally/contract';
import { RECALL_SCOPES } from '@clear-tally/core';
import type Router from '@koa/router';
import { z } from 'zod';
import { refused } from '../../journal/refused.js';
import { loadHouse } from '../../lots/house.js';
import { recallNotices, recallReport } from '../../papers/inTheBack.js';
import { keepContact } from '../../subjects/complaints/contact.js';
import { readComplaints } from '../../subjects/complaints/readComplaints.js';
import { readHouse } from '../../subjects/house/readHouse.js';
import { noticesOf, reportOf } from '../../subjects/recalling/recallPapers.js';
import { readRecall, readRecallAhead, readRecalls } from '../../subjects/recalling/readRecalls.js';
import { readAskedBy } from '../../subjects/tracing/readAskedBy.js';
import { readCause } from '../../subjects/tracing/readCause.js';
import { readTallies } from '../../subjects/tracing/readTallies.js';
import { type Ctx, type Deps, signedIn } from '../context.js';

const ahead = z.object({
  code: z.string().trim().min(1).max(120),
  scope: z.enum(RECALL_SCOPES),
  carryOver: z.enum(['yes', 'no']).default('no'),
});

/** The trace desk: recalls, complaints, what bad jars share, tallies that do not close. */
export function deskRoutes(router: Router, deps: Deps): void {
  router.get('/api/recalls', async (ctx) => {
    await signedIn(ctx, deps);
    ctx.body = await readRecalls(deps.reader, deps.now());
  });
  router.get('/api/recall-ahead', async (ctx) => {
    await signedIn(ctx, deps);
    const { carryOver, ...asked } = ahead.parse(ctx.query);
    ctx.body = await readRecallAhead(deps.reader, { ...asked, carryOver: carryOver === 'yes' });
  });
  router.get('/api/recalls/:code', async (ctx) => {
    await signedIn(ctx, deps);
    ctx.body = await readRecall(deps.reader, ctx.params['code']!);
  });
  router.get('/api/recalls/:code/notices.pdf', async (ctx) => {
    await signedIn(ctx, deps);
    const of = await readRecall(deps.reader, ctx.params['code']!);
    const { timeZone, name } = await loadHouse(deps.reader);
    const notices = noticesOf(of, { name, contact: await contactOf(deps) });
    if (notices.length === 0)
      throw refused('resource.unknown', `No customer has jars of ${of.code}: there is nobody to write to.`);
    pdf(ctx, `${of.code}-notices.pdf`);
    ctx.body = await recallNotices(notices, { code: of.code, house: name, printedAt: printed(deps.now(), timeZone) });
  });
  router.get('/api/recalls/:code/report.pdf', async (ctx) => {
    await signedIn(ctx, deps);
    const of = await readRecall(deps.reader, ctx.params['code']!);
    const { timeZone, name } = await loadHouse(deps.reader);
    pdf(ctx, `${of.code}-report.pdf`);
    ctx.body = await recallReport(
      reportOf(of, (iso) => printed(new Date(iso), timeZone)),
      { name, printedAt: printed(deps.now(), timeZone) },
    );
  });
  router.get('/api/asked-by/:by/:id', async (ctx) => {
    await signedIn(ctx, deps);
    const by = z.enum(ASKED_BY).parse(ctx.params['by']);
    ctx.body = await readAskedBy(deps.reader, by, (by === 'day' ? day : id).parse(ctx.params['id']));
  });
  router.get('/api/complaints', async (ctx) => {
    const by = await signedIn(ctx, deps);
    ctx.body = await readComplaints(deps.reader, by, deps.now());
  });
  // Who complained is no entry: what stands in the book cannot be deleted.
  router.put('/api/complaints/:id/contact', async (ctx) => {
    await maker(ctx, deps);
    await keepContact(deps.db, id.parse(ctx.params['id']), complaintContact.parse(ctx.request.body).words);
    ctx.body = { done: true };
  });
  router.delete('/api/complaints/:id/contact', async (ctx) => {
    await maker(ctx, deps);
    await keepContact(deps.db, id.parse(ctx.params['id']), null);
    ctx.body = { done: true };
  });
  router.post('/api/shared-cause', async (ctx) => {
    await signedIn(ctx, deps);
    ctx.body = await readCause(deps.reader, causeRequest.parse(ctx.request.body).bad);
  });
  router.get('/api/tallies', async (ctx) => {
    await signedIn(ctx, deps);
    ctx.body = await readTallies(deps.reader);
  });
}

async function maker(ctx: Ctx, deps: Deps): Promise<void> {
  if ((await signedIn(ctx, deps)).role === 'inspector')
    throw refused('who.notAllowed', 'An inspector’s sign-in reads everything and records nothing.');
}

/** Where a customer reaches this house, where it says so among its contacts. */
async function contactOf(deps: Deps): Promise<string | null> {
  const { settings } = await readHouse(deps.reader);
  return settings.contacts.find(({ what }) => /recall|customers/i.test(what))?.who ?? null;
}

const pdf = (ctx: Ctx, name: string): void => {
  ctx.type = 'application/pdf';
  ctx.set('Content-Disposition', `inline; filename="${name}"`);
};

const printed = (now: Date, timeZone: string): string =>
  new Intl.DateTimeFormat('en-GB', { timeZone, dateStyle: 'medium', timeStyle: 'short' }).format(now);

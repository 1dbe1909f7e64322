import type Router from '@koa/router';
import { entriesRequest, photoId, type EntriesReply } from '@clear-tally/contract';
import { keepPhoto, loadPhoto, MOST_PHOTO_BYTES } from '../../record/photos.js';
import { applyRules, couldBeHeld, decideAnew, lotsRead } from '../../record/applyRules.js';
import { recordEntries } from '../../record/record.js';
import { refused } from '../../record/refused.js';
import { signedIn, type Deps } from '../context.js';

/** After these the rules look again at once; the clock makes them look every half minute. */
const RULED_KINDS: ReadonlySet<string> = new Set([
  'ph.read',
  'temperature.read',
  'hold.lift',
  'entry.correct',
  'house.set',
  'lot.transfer',
  'vessel.topUp',
]);
/** Nothing is taken from a vessel whose deadline has passed unnoticed. */
const TAKING_KINDS: ReadonlySet<string> = new Set([
  'pack.run',
  'lot.transfer',
  'vessel.split',
  'brine.keep',
  'ingredient.add',
  'preparation.make',
  'taste.record',
  'lot.ready',
]);

/** Each of these asks much of what was recorded before. */
const WEIGHTY_KINDS: ReadonlySet<string> = new Set([
  'find.record',
  'pack.run',
  'hold.place',
  'vessel.fill',
  'lot.transfer',
  'vessel.topUp',
  'vessel.split',
]);
const MOST_WEIGHTY = 20;

/** The one way in. */
export function entryRoutes(router: Router, deps: Deps): void {
  router.post('/api/entries', async (ctx) => {
    const actor = await signedIn(ctx, deps);
    const { entries } = entriesRequest.parse(ctx.request.body);
    const weighty = entries.filter(({ kind }) => WEIGHTY_KINDS.has(kind)).length;
    if (weighty > MOST_WEIGHTY)
      throw refused(
        'shape.tooLarge',
        `${weighty} findings, packing runs or fillings came at once. Up to ${MOST_WEIGHTY} are recorded together, so that nobody else waits for them.`,
      );
    if (entries.some(({ kind }) => TAKING_KINDS.has(kind))) await applyRules(deps.db, deps.now());
    const recorded = await recordEntries(deps.db, { entries, actor, now: deps.now() });
    const corrected = entries.flatMap(({ kind, body }) => (kind === 'entry.correct' ? [body.corrects] : []));
    if (corrected.length > 0) await decideAnew(deps.db, deps.now(), await lotsRead(deps.db, corrected)).catch(() => 0);
    const ruled = entries
      .filter(({ kind }) => RULED_KINDS.has(kind))
      .map(({ body }) => (body as { lotId?: string }).lotId ?? (body as { toLotId?: string }).toLotId);
    // What is recorded is recorded: a look that fails is made again by the clock.
    const onlyPh = entries.every(({ kind }) => kind === 'ph.read');
    const named = ruled.every((lotId) => lotId !== undefined) ? ruled : undefined;
    if (ruled.length > 0)
      await applyRules(deps.db, deps.now(), named && onlyPh ? await couldBeHeld(deps.db, named) : named).catch(() => 0);
    ctx.body = { recorded } satisfies EntriesReply;
  });
  // A picture goes in by its bytes; the entry that names it follows.
  router.post('/api/photos', async (ctx) => {
    const actor = await signedIn(ctx, deps);
    if (actor.role === 'inspector')
      throw refused('who.notAllowed', 'An inspector’s sign-in reads everything and records nothing.');
    ctx.body = await keepPhoto(deps.db, await bytesOf(ctx.req), deps.now());
  });
  router.get('/api/photos/:id', async (ctx) => {
    await signedIn(ctx, deps);
    const found = await loadPhoto(deps.db, photoId.parse(ctx.params['id']));
    if (!found) throw refused('resource.unknown', 'There is no such photo.');
    ctx.type = found.type;
    ctx.set('Cache-Control', 'private, max-age=31536000, immutable');
    ctx.body = found.bytes;
  });
}

/** What is thrown away of a picture that is too large, so that who sends it hears why; beyond that the line is cut. */
const MOST_DRAINED = 100_000_000;

async function bytesOf(stream: AsyncIterable<Buffer>): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let length = 0;
  for await (const chunk of stream) {
    length += chunk.length;
    if (length > MOST_DRAINED) break;
    if (length <= MOST_PHOTO_BYTES) chunks.push(chunk);
  }
  if (length > MOST_PHOTO_BYTES)
    throw refused(
      'file.tooLarge',
      `This picture is larger than ${MOST_PHOTO_BYTES / 1_000_000} MB. The tablet makes it smaller by itself when it is taken here.`,
    );
  return Buffer.concat(chunks);
}

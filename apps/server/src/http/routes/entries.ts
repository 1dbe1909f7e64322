import { type CorrectionReply, type EntriesReply, entriesRequest, photoId } from '@clear-tally/contract';
import type Router from '@koa/router';
import { rehearse } from '../../journal/record.js';
import { refused } from '../../journal/refused.js';
import { kindOf } from '../../journal/registry.js';
import { keepPhoto, loadPhoto, MOST_PHOTO_BYTES } from '../../lots/photos.js';
import { sayingWhatChanged } from '../../subjects/correcting/afterTheFact.js';
import { recordWithRules } from '../../subjects/holds/withRules.js';
import { useProof } from '../../session/session.js';
import { COOKIE, type Deps, signedIn } from '../context.js';

/** So many that ask much of what was recorded before go together. */
const MOST_WEIGHTY = 20;

/** The one way in. */
export function entryRoutes(router: Router, deps: Deps): void {
  router.post('/api/entries', async (ctx) => {
    const actor = await signedIn(ctx, deps);
    const { entries } = entriesRequest.parse(ctx.request.body);
    const weighty = entries.filter(({ kind }) => kindOf(kind).weighty).length;
    if (weighty > MOST_WEIGHTY)
      throw refused(
        'shape.tooLarge',
        `${weighty} findings, packing runs or fillings came at once. Up to ${MOST_WEIGHTY} are recorded together, so that nobody else waits for them.`,
      );
    if (entries.some(({ kind }) => kindOf(kind).signed)) {
      // One signature, one proof; nothing else rides along.
      if (entries.length > 1) throw refused('shape.invalid', 'A signature is given alone.');
      await useProof(deps.db, ctx.cookies.get(COOKIE)!, deps.now());
    }
    const now = deps.now();
    const { answer: recorded, changes } = await sayingWhatChanged(deps.reader, { entries, now }, () =>
      recordWithRules(deps.db, { entries, actor, now }),
    );
    ctx.body = { recorded, changes } satisfies EntriesReply;
  });
  router.post('/api/corrections/preview', async (ctx) => {
    const actor = await signedIn(ctx, deps);
    const {
      entries: [entry],
    } = entriesRequest.parse({ entries: [ctx.request.body] });
    if (entry?.kind !== 'entry.correct' || entry.body.instead === undefined)
      throw refused('shape.invalid', 'A correction of a whole entry is accepted here.');
    const [said] = await rehearse(deps.db, { entries: [entry], actor, now: deps.now() });
    const { changes, fell, undone, anew } = said!.facts as unknown as CorrectionReply;
    ctx.body = { changes, fell, undone, anew } satisfies CorrectionReply;
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

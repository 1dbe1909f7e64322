import { decideRelease, GAS_WORDS, type GasSays, RUN_CHECK_WORDS, STORAGE_WORDS } from '@clear-tally/core';
import { runCheck, runMark, runStore } from '../../db/schema/jars.js';
import { ask } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';
import { mayBeKept } from '../../lots/heat.js';
import { loadLot } from '../../lots/lots.js';
import { refuseUnknownPhoto } from '../../lots/photos.js';
import { holdReach } from '../../lots/reach.js';
import { holdersOf } from '../../lots/holders.js';
import { conditionsOf } from '../../lots/releasing.js';
import { loadRun } from '../../lots/runs.js';
import { openHolds } from '../../lots/openHolds.js';
import { jarsGone } from '../dispatch/index.js';
import { placeHold } from '../holds/index.js';

const saysWords = (says: string): string =>
  GAS_WORDS[says as GasSays] ?? (says === 'fine' ? 'as it should be' : 'not as it should be');

/** A look at a packed run. A jar that gushes holds the run and what was packed from the same vessels. */
export const runChecked = kind('run.check', {
  who: 'maker',
  words: 'Run looked at',
  does: 'a packed run looked at: the gas of one opened jar, level, seals, a retained jar tasted; what gushes is held at once, with its siblings',
  correct: 'ledger',
  places: true,
  record: async (recording) => {
    const { tx, entry, body, seq, at } = recording;
    const of = await loadLot(tx, body.runLotId, 'runLotId', ['run']);
    await refuseUnknownPhoto(tx, body.photo, 'photo');
    await tx.insert(runCheck).values({
      entryId: entry.id,
      runLotId: of.id,
      what: body.what,
      says: body.says,
      note: body.note,
      photo: body.photo,
      by: entry.by,
      at,
      seq,
    });
    if (body.opened !== null)
      await jarsGone(recording, {
        jars: [{ runLotId: of.id, first: body.opened, last: body.opened }],
        to: { kind: 'gone', how: 'opened' },
        note: null,
      });
    if (body.says !== 'gushes') return { facts: { code: of.code }, lots: [of.id] };
    const reach = await holdReach(recording, of, { reason: 'a jar gushed', chosen: null, leftOutReason: null });
    const open = (await openHolds(tx, [of.id])).get(of.id) ?? [];
    if (!open.some(({ rule }) => rule === 'finding'))
      await placeHold(recording, { lotId: of.id, rule: 'finding', reason: 'a jar gushed when it was opened' });
    return { facts: { code: of.code, ...reach.facts }, lots: [of.id, ...reach.lots] };
  },
  line: ({ entry }) => ({
    what: RUN_CHECK_WORDS[entry.body.what],
    words: [saysWords(entry.body.says), entry.body.note].filter(Boolean).join(' · '),
  }),
});

export const runStored = kind('run.store', {
  who: 'maker',
  words: 'Kept elsewhere',
  does: 'where a run is kept from now on: what is lively goes cold; ambient asks for a process on file',
  correct: 'book',
  record: async ({ tx, entry, body, seq, at }) => {
    const of = await loadLot(tx, body.runLotId, 'runLotId', ['run']);
    ask(tx, await mayBeKept(tx, body.storage, { formulaId: of.formulaId, vessels: [], jars: of.id, at: at.getTime() }));
    const run = await loadRun(tx, of);
    // What was released for the cold is not put in the warm under the same signature.
    if (run.state === 'released' && run.storage === 'cold' && body.storage !== 'cold')
      throw refused(
        'release.storage',
        `${of.code} is released to be kept cold. Withdraw the release first; kept warmer it asks for a jar that was opened.`,
        { field: 'storage' },
      );
    await tx
      .insert(runStore)
      .values({ entryId: entry.id, runLotId: of.id, storage: body.storage, reason: body.reason, at, seq });
    return { lots: [of.id] };
  },
  line: ({ entry }) => ({ what: `Kept: ${STORAGE_WORDS[entry.body.storage]}`, words: entry.body.reason }),
});

/** Signed: every condition is met, or excused in writing where that is allowed. */
export const runReleased = kind('run.release', {
  who: 'owner',
  task: 'releasing',
  words: 'Released',
  does: 'a reviewer’s signature under a run, with their own PIN: every condition is met, or excused in writing where that is allowed',
  correct: { never: 'A signature stays. Withdraw the release, with its reason.' },
  signed: true,
  rulesBefore: true,
  weighty: true,
  record: async ({ tx, entry, body, seq, at, isOwner }) => {
    const of = await loadLot(tx, body.runLotId, 'runLotId', ['run']);
    const run = await loadRun(tx, of);
    if (run.state === 'released')
      throw refused('release.already', `${of.code} is released already.`, { field: 'runLotId' });
    const conditions = await conditionsOf(tx, run, {
      id: entry.by,
      isReviewer: isOwner,
      now: at,
      excuses: body.excuses,
    });
    ask(tx, decideRelease(conditions));
    const own = run.packedBy === entry.by;
    await tx.insert(runMark).values({
      entryId: entry.id,
      runLotId: of.id,
      what: 'released',
      reason: null,
      excuses: body.excuses,
      own,
      by: entry.by,
      at,
      seq,
    });
    return { facts: { code: of.code, own }, lots: [of.id] };
  },
  line: ({ entry, facts }) => ({
    what: 'Released',
    words:
      [
        facts['own'] ? 'reviewed by who packed it' : null,
        ...Object.values(entry.body.excuses).map((why) => `excused: ${why}`),
      ]
        .filter(Boolean)
        .join(' · ') || null,
  }),
});

export const runWithdrawn = kind('run.withdraw', {
  who: 'owner',
  words: 'Release withdrawn',
  does: 'a release taken back with its reason: nothing more of the run leaves; who has jars of it is said',
  correct: { never: 'A signature stays. Release the run anew when its conditions are met.' },
  signed: true,
  record: async ({ tx, entry, body, seq, at }) => {
    const of = await loadLot(tx, body.runLotId, 'runLotId', ['run']);
    const run = await loadRun(tx, of);
    if (run.state !== 'released')
      throw refused('release.notReleased', `${of.code} is not released: there is nothing to withdraw.`, {
        field: 'runLotId',
      });
    await tx.insert(runMark).values({
      entryId: entry.id,
      runLotId: of.id,
      what: 'withdrawn',
      reason: body.reason,
      excuses: {},
      own: false,
      by: entry.by,
      at,
      seq,
    });
    const holders = await holdersOf(tx, [{ lotId: of.id, code: of.code }]);
    return { facts: { code: of.code, holders: holders.map(({ name, count }) => `${name}: ${count}`) }, lots: [of.id] };
  },
  line: ({ entry, facts }) => ({
    what: 'Release withdrawn',
    words: [entry.body.reason, ...((facts['holders'] as string[] | undefined) ?? [])].join(' · '),
  }),
});

import { COMPLAINT_OUTCOME_WORDS, COMPLAINT_WORDS, complaintHolds, jarCode } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { hold } from '../../db/schema/ledger.js';
import { complaint } from '../../db/schema/recall.js';
import { happened } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';
import { loadLot } from '../../lots/lots.js';
import { nextOfYear } from '../../lots/nextOfYear.js';
import { refuseUnknownPhoto } from '../../lots/photos.js';
import { refuseUnknownJars } from '../../lots/runs.js';

export const complaintTaken = kind('complaint.take', {
  who: 'maker',
  words: 'Complaint',
  does: 'a complaint on a jar or its run; a grave one holds its run at once, or says why not',
  correct: 'book',
  places: true,
  reachesLater: true,
  record: async ({ tx, body, entry, at, seq, anew }) => {
    const run = await loadLot(tx, body.runLotId, 'runLotId', ['run']);
    if (body.serial !== null) await refuseUnknownJars(tx, run, { first: body.serial, last: body.serial });
    await refuseUnknownPhoto(tx, body.photo, 'photo');
    if (complaintHolds(body.what) && !body.hold && !body.noHoldReason && !happened(tx))
      throw refused(
        'complaint.grave',
        `${COMPLAINT_WORDS[body.what]}: ${run.code} is held until somebody has looked, or why it is not is written down.`,
        { field: 'noHoldReason' },
      );
    const known = anew?.facts['code'];
    const code = typeof known === 'string' ? known : await nextOfYear(tx, complaint, 'K', at);
    const { complaintId, hold: held, ...more } = body;
    await tx.insert(complaint).values({ id: complaintId, code, ...more, held, by: entry.by, at, seq });
    if (held)
      await tx.insert(hold).values({
        entryId: entry.id,
        lotId: run.id,
        reason: `Complaint ${code}: ${COMPLAINT_WORDS[body.what]}`,
        rule: 'person',
        causeLot: null,
        placedAt: at,
      });
    const jar = body.serial === null ? null : jarCode(run.code, body.serial).text;
    return { facts: { code, jar: jar ?? run.code }, lots: [run.id] };
  },
  line: ({ entry, facts }) => ({
    what: `Complaint ${String(facts['code'] ?? '')}`,
    words: [COMPLAINT_WORDS[entry.body.what], facts['jar'], entry.body.words].filter(Boolean).join(' · '),
  }),
});

export const complaintClosed = kind('complaint.close', {
  who: 'maker',
  words: 'Complaint closed',
  does: 'what came of a complaint',
  correct: 'book',
  record: async ({ tx, body, entry, at }) => {
    const [of] = await tx.select().from(complaint).where(eq(complaint.id, body.complaintId));
    if (!of) throw refused('complaint.unknown', 'This complaint is not known in this house.', { field: 'complaintId' });
    if (of.closedAt && !happened(tx))
      throw refused('complaint.closed', `${of.code} is closed already: ${of.outcomeWords ?? ''}`, {
        field: 'complaintId',
      });
    await tx
      .update(complaint)
      .set({ closedAt: at, closedBy: entry.by, outcome: body.outcome, outcomeWords: body.words })
      .where(eq(complaint.id, of.id));
    return { facts: { code: of.code }, lots: [of.runLotId] };
  },
  line: ({ entry, facts }) => ({
    what: `Complaint ${String(facts['code'] ?? '')} closed`,
    words: `${COMPLAINT_OUTCOME_WORDS[entry.body.outcome]} · ${entry.body.words}`,
  }),
});

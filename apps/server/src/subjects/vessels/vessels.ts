import { and, eq, ne, sql } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { cleaning, vessel } from '../../db/schema/house.js';
import { ask, happened } from '../../journal/asItHappened.js';
import { decideRinse } from '@clear-tally/core';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';
import { cleaningWords, refuseOldSanitiser } from '../equipment/index.js';

export const vesselAdd = kind('vessel.add', {
  who: 'owner',
  words: 'Vessel added',
  does: 'the house is set up',
  makes: 'vesselId',
  correct: 'book',
  record: async ({ tx, body }) => {
    await refuseTakenTag(tx, body);
    const { vesselId, ...row } = body;
    await tx
      .insert(vessel)
      .values({ id: vesselId, ...row, brimMl: Math.round(row.brimMl), weightVolumeMl: Math.round(row.weightVolumeMl) });
    return {};
  },
  line: ({ entry }) => ({ what: 'Vessel added', words: entry.body.tag }),
});

async function refuseTakenTag(
  tx: Transaction,
  body: { readonly vesselId: string; readonly tag: string },
): Promise<void> {
  const [other] = await tx
    .select({ id: vessel.id })
    .from(vessel)
    .where(and(eq(vessel.tag, body.tag), ne(vessel.id, body.vesselId)));
  if (other && !happened(tx))
    throw refused(
      'name.taken',
      `There is a vessel ${body.tag} already. Its tag stands in codes: give this one another.`,
      {
        field: 'tag',
      },
    );
}

export const vesselChanged = kind('vessel.change', {
  who: 'owner',
  words: 'Vessel changed',
  does: 'a vessel is measured anew, stands in another room, is under repair or out of use, from now on; its tag stays',
  correct: 'book',
  record: async ({ tx, body }) => {
    const [of] = await tx.select().from(vessel).where(eq(vessel.id, body.vesselId));
    if (!of)
      throw refused('vessel.unknown', `No vessel ${body.vesselId} is known in this house. Choose it from the list.`, {
        field: 'vesselId',
      });
    if (of.tag !== body.tag)
      throw refused(
        'vessel.tagStays',
        `${of.tag} stands in the codes of what was in it and is not given another tag. Add a vessel ${body.tag}, and put ${of.tag} out of use.`,
        { field: 'tag' },
      );
    const { vesselId, tag: _tag, reason: _reason, inner, details, ...row } = body;
    await tx
      .update(vessel)
      .set({
        ...row,
        inner: inner ?? null,
        details: details ?? {},
        brimMl: Math.round(row.brimMl),
        weightVolumeMl: Math.round(row.weightVolumeMl),
      })
      .where(eq(vessel.id, vesselId));
    return { facts: { wasInUse: of.inUse } };
  },
  line: ({ entry, facts }) => ({
    what: `Vessel ${entry.body.tag} changed`,
    words:
      [
        facts['wasInUse'] === true && !entry.body.inUse && 'out of use',
        facts['wasInUse'] === false && entry.body.inUse && 'in use again',
        entry.body.reason,
      ]
        .filter(Boolean)
        .join(' · ') || null,
  }),
});

export const vesselClean = kind('vessel.clean', {
  who: 'maker',
  task: 'cleaning',
  words: 'Vessel cleaned',
  does: 'a vessel is cleaned',
  correct: 'book',
  record: async ({ tx, entry, body, at, seq }) => {
    const changed = await tx
      .update(vessel)
      // Entered later than one that came after it: the newest cleaning counts.
      .set({ cleanedAt: sql`greatest(coalesce(${vessel.cleanedAt}, ${at.toISOString()}), ${at.toISOString()})` })
      .where(eq(vessel.id, body.vesselId))
      .returning({ tag: vessel.tag });
    if (changed.length === 0)
      throw refused('vessel.unknown', `No vessel ${body.vesselId} is known in this house. Choose it from the list.`, {
        field: 'vesselId',
      });
    const { vesselId, agent, dilution, contactMinutes, rinsed, noRinse, mixId } = body;
    if (noRinse !== undefined) ask(tx, decideRinse({ agent, rinsed: rinsed ?? false, noRinse }));
    const mix = await refuseOldSanitiser(tx, mixId, at);
    await tx.insert(cleaning).values({
      entryId: entry.id,
      vesselId,
      mixId: mixId ?? null,
      agent,
      dilution: dilution ?? null,
      contactMinutes: contactMinutes ?? null,
      rinsed: rinsed ?? false,
      by: entry.by,
      at,
      seq,
    });
    return { facts: { tag: changed[0]!.tag, ...(mix ? { mix } : {}) } };
  },
  line: ({ entry, facts, code }) => ({
    what: `Cleaned ${code(entry.body.vesselId)}`,
    words: cleaningWords(entry.body, facts['mix']),
  }),
});

import { eq } from 'drizzle-orm';
import { cleaning, vessel } from '../../db/schema/house.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';

export const vesselAdd = kind('vessel.add', {
  who: 'owner',
  words: 'Vessel added',
  does: 'the house is set up',
  correct: 'book',
  record: async ({ tx, body }) => {
    const { vesselId, ...row } = body;
    await tx
      .insert(vessel)
      .values({ id: vesselId, ...row, brimMl: Math.round(row.brimMl), weightVolumeMl: Math.round(row.weightVolumeMl) });
    return {};
  },
  line: ({ entry }) => ({ what: 'Vessel added', words: entry.body.tag }),
});

export const vesselClean = kind('vessel.clean', {
  who: 'maker',
  words: 'Vessel cleaned',
  does: 'a vessel is cleaned',
  correct: 'book',
  record: async ({ tx, entry, body, at, seq }) => {
    const changed = await tx
      .update(vessel)
      .set({ cleanedAt: at })
      .where(eq(vessel.id, body.vesselId))
      .returning({ tag: vessel.tag });
    if (changed.length === 0)
      throw refused('vessel.unknown', `No vessel ${body.vesselId} is known in this house. Choose it from the list.`, {
        field: 'vesselId',
      });
    const { vesselId, agent, dilution, contactMinutes, rinsed } = body;
    await tx.insert(cleaning).values({
      entryId: entry.id,
      vesselId,
      agent,
      dilution: dilution ?? null,
      contactMinutes: contactMinutes ?? null,
      rinsed: rinsed ?? false,
      by: entry.by,
      at,
      seq,
    });
    return { facts: { tag: changed[0]!.tag } };
  },
  line: ({ entry, code }) => ({
    what: `Cleaned ${code(entry.body.vesselId)}`,
    words:
      [
        entry.body.agent,
        entry.body.dilution,
        entry.body.contactMinutes != null && `${entry.body.contactMinutes} min`,
        entry.body.rinsed && 'rinsed',
      ]
        .filter(Boolean)
        .join(' · ') || null,
  }),
});

import { decideRinse, decideSanitiser, momentInWords } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { cleaning, equipment, room, sanitiser } from '../../db/schema/house.js';
import { ask } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';
import { loadHouse } from '../../lots/house.js';
import { nextOfYear } from '../../lots/nextOfYear.js';
import { loadEquipment } from './equipment.js';

const unknownMix = () =>
  refused('sanitiser.notFit', 'No such batch of sanitiser is in this house. Choose it from the list.', {
    field: 'mixId',
  });

/** The batch a cleaning was done with, where one is named: of its strength, and not past its time. */
export async function refuseOldSanitiser(
  tx: Transaction,
  mixId: string | null | undefined,
  at: Date,
): Promise<string | null> {
  if (!mixId) return null;
  const [mix] = await tx.select().from(sanitiser).where(eq(sanitiser.id, mixId));
  if (!mix) throw unknownMix();
  const { timeZone } = await loadHouse(tx);
  ask(
    tx,
    decideSanitiser({
      code: mix.code,
      goodUntil: mix.goodUntil.getTime(),
      passed: mix.passed,
      unchecked: mix.unchecked,
      at: at.getTime(),
      until: momentInWords(mix.goodUntil.getTime(), timeZone),
    }),
  );
  return mix.code;
}

/** With what, how strong, how long, rinsed or not: the same words for a vessel, a tool and a room. */
export const cleaningWords = (
  of: { agent: string; dilution?: string | null; contactMinutes?: number | null; rinsed?: boolean },
  mix: unknown,
): string =>
  [of.agent, mix, of.dilution, of.contactMinutes != null && `${of.contactMinutes} min`, of.rinsed && 'rinsed']
    .filter(Boolean)
    .join(' · ');

export const equipmentCleaned = kind('equipment.clean', {
  who: 'maker',
  task: 'cleaning',
  words: 'Cleaned',
  does: 'a tool or a room is cleaned',
  correct: 'book',
  record: async ({ tx, entry, body, at, seq }) => {
    const { what, agent, dilution, contactMinutes, rinsed, noRinse, mixId } = body;
    ask(tx, decideRinse({ agent, rinsed, noRinse }));
    const mix = await refuseOldSanitiser(tx, mixId, at);
    const name = what.what === 'equipment' ? await nameOf(tx, what.equipmentId) : await roomName(tx, what.roomId);
    await tx.insert(cleaning).values({
      entryId: entry.id,
      equipmentId: what.what === 'equipment' ? what.equipmentId : null,
      roomId: what.what === 'room' ? what.roomId : null,
      mixId: mixId ?? null,
      agent,
      dilution: dilution ?? null,
      contactMinutes: contactMinutes ?? null,
      rinsed,
      by: entry.by,
      at,
      seq,
    });
    return { facts: { name, ...(mix ? { mix } : {}) } };
  },
  line: ({ entry, facts }) => ({
    what: `Cleaned: ${String(facts['name'] ?? '')}`,
    words: cleaningWords(entry.body, facts['mix']),
  }),
});

async function nameOf(tx: Transaction, equipmentId: string): Promise<string> {
  const { tag, name }: typeof equipment.$inferSelect = await loadEquipment(tx, equipmentId);
  return `${tag}, ${name}`;
}

async function roomName(tx: Transaction, roomId: string): Promise<string> {
  const [found] = await tx.select({ name: room.name }).from(room).where(eq(room.id, roomId));
  if (!found)
    throw refused('resource.unknown', 'No such room is in this house. Choose it from the list.', { field: 'what' });
  return found.name;
}

export const sanitiserMixed = kind('sanitiser.mix', {
  who: 'maker',
  task: 'cleaning',
  words: 'Sanitiser mixed',
  does: 'a batch of sanitiser: how strong, how that was checked, until when it is used',
  correct: 'book',
  record: async ({ tx, entry, body, at, seq, anew }) => {
    const { mixId, agent, dilution, litres, strength, unchecked, goodUntil } = body;
    const until = new Date(goodUntil);
    if (until <= at)
      throw refused('sanitiser.notFit', 'It would be past its time when it is mixed. Give a later moment.', {
        field: 'goodUntil',
      });
    const known = anew?.facts['code'];
    const code = typeof known === 'string' ? known : await nextOfYear(tx, sanitiser, 'SAN', at);
    const checked = strength && `${strength.how}: ${strength.shown}`;
    const passed = strength?.passed ?? null;
    await tx.insert(sanitiser).values({
      id: mixId,
      code,
      agent,
      dilution,
      litres,
      strength: checked,
      passed,
      unchecked: unchecked ?? null,
      goodUntil: until,
      by: entry.by,
      at,
      seq,
    });
    return { facts: { code, passed } };
  },
  line: ({ entry: { body }, facts }) => ({
    what: `Mixed ${String(facts['code'] ?? '')}`,
    words: [
      `${body.litres} L of ${body.agent}`,
      body.dilution,
      body.strength && `${body.strength.how}: ${body.strength.shown}`,
      !body.strength && (body.unchecked ? `strength not checked: ${body.unchecked}` : 'strength not checked yet'),
      facts['passed'] === false && 'not of its strength',
    ]
      .filter(Boolean)
      .join(' · '),
  }),
});

export const sanitiserChecked = kind('sanitiser.check', {
  who: 'maker',
  task: 'cleaning',
  words: 'Sanitiser checked',
  does: 'the strength of a batch of sanitiser that is mixed already',
  correct: 'book',
  record: async ({ tx, body: { mixId, strength } }) => {
    const [mix] = await tx
      .update(sanitiser)
      .set({ strength: `${strength.how}: ${strength.shown}`, passed: strength.passed })
      .where(eq(sanitiser.id, mixId))
      .returning({ code: sanitiser.code });
    if (!mix) throw unknownMix();
    return { facts: { code: mix.code } };
  },
  line: ({ entry: { body }, facts }) => ({
    what: `Checked ${String(facts['code'] ?? '')}`,
    words: `${body.strength.how}: ${body.strength.shown}${body.strength.passed ? '' : ' · not of its strength'}`,
  }),
});

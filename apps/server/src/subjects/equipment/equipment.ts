import { decideScaleCheck, EQUIPMENT_WORDS, formatGrams, isScaleSaid } from '@clear-tally/core';
import type { BodyOf } from '@clear-tally/contract';
import { and, eq, ne } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { equipment, equipmentCheck } from '../../db/schema/house.js';
import { happened } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';

export async function loadEquipment(tx: Transaction, equipmentId: string): Promise<typeof equipment.$inferSelect> {
  const [found] = await tx.select().from(equipment).where(eq(equipment.id, equipmentId));
  if (!found)
    throw refused('equipment.unknown', 'Nothing of that kind is in this house. Choose it from the list.', {
      field: 'equipmentId',
    });
  return found;
}

async function refuseTakenTag(
  tx: Transaction,
  body: Pick<BodyOf<'equipment.add'>, 'equipmentId' | 'tag'>,
): Promise<void> {
  const [other] = await tx
    .select({ name: equipment.name })
    .from(equipment)
    .where(and(eq(equipment.tag, body.tag), ne(equipment.id, body.equipmentId)));
  if (other && !happened(tx))
    throw refused('name.taken', `${body.tag} is ${other.name} already. Give this one another tag.`, { field: 'tag' });
}

/** A scale without its range cannot be looked at with a weight, and parts without a number cannot be missed. */
function refuseHalfSaid({ kind: what, capacityGrams, stepGrams, count }: BodyOf<'equipment.add'>): void {
  if (what === 'scale' && !isScaleSaid(capacityGrams, stepGrams))
    throw refused(
      'equipment.outside',
      'A scale has what it weighs at most and its smallest step, at most a twentieth of that.',
      { field: capacityGrams === null ? 'capacityGrams' : 'stepGrams' },
    );
  if (what === 'parts' && count === null)
    throw refused('equipment.outside', 'Loose parts have a number: how many there should be.', { field: 'count' });
}

const said = ({ kind: what, tag, name }: BodyOf<'equipment.add'>): string => `${EQUIPMENT_WORDS[what]} ${tag}, ${name}`;

export const equipmentAdded = kind('equipment.add', {
  who: 'owner',
  words: 'Equipment added',
  does: 'a scale, a tool, loose parts or a water source of the house',
  makes: 'equipmentId',
  correct: 'book',
  record: async ({ tx, body, seq }) => {
    refuseHalfSaid(body);
    await refuseTakenTag(tx, body);
    const { equipmentId, ...row } = body;
    await tx.insert(equipment).values({ id: equipmentId, ...row, seq });
    return {};
  },
  line: ({ entry }) => ({ what: 'Equipment added', words: said(entry.body) }),
});

export const equipmentChanged = kind('equipment.change', {
  who: 'owner',
  words: 'Equipment changed',
  does: 'it is called otherwise, counts otherwise, is under repair or out of use, from now on; its tag stays',
  correct: 'book',
  record: async ({ tx, body }) => {
    const of = await loadEquipment(tx, body.equipmentId);
    refuseHalfSaid(body);
    if (of.tag !== body.tag)
      throw refused(
        'vessel.tagStays',
        `${of.tag} stands in the book under this tag and keeps it. Add a ${body.tag}, and put ${of.tag} out of use.`,
        { field: 'tag' },
      );
    const { equipmentId, tag: _tag, reason: _reason, ...row } = body;
    await tx.update(equipment).set(row).where(eq(equipment.id, equipmentId));
    return { facts: { wasInUse: of.inUse } };
  },
  line: ({ entry, facts }) => ({
    what: `${EQUIPMENT_WORDS[entry.body.kind]} ${entry.body.tag} changed`,
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

type CheckBy = BodyOf<'equipment.check'>['by'];

const HOW_OF = { scale: 'weight', parts: 'count', water: 'test', tool: 'test' } as const;

/** What was found, in the words the book keeps. */
function found(of: typeof equipment.$inferSelect, by: CheckBy): { words: string; passed: boolean } {
  switch (by.how) {
    case 'weight': {
      const { offGrams, mayDifferGrams, passed } = must(
        decideScaleCheck({ tag: of.tag, capacityGrams: of.capacityGrams!, stepGrams: of.stepGrams!, ...by }),
      );
      const off =
        offGrams === 0
          ? 'nothing off'
          : `${formatGrams(Math.abs(offGrams))} ${offGrams > 0 ? 'too much' : 'too little'}`;
      return {
        words: `${formatGrams(by.weightGrams)} shown as ${formatGrams(by.shownGrams)}: ${off}, up to ${formatGrams(mayDifferGrams)} accepted`,
        passed,
      };
    }
    case 'count': {
      const lacks = of.count! - by.counted;
      if (lacks > 0 && !by.missing)
        throw refused(
          'equipment.outside',
          `${by.counted} of ${of.count} ${of.name} were counted. ${lacks === 1 ? 'One is' : `${lacks} are`} missing: say where ${lacks === 1 ? 'it' : 'they'} may have gone. What is in no drawer may be in a jar.`,
          { field: 'missing' },
        );
      return {
        words: [`${by.counted} of ${of.count} counted`, by.missing].filter(Boolean).join(': '),
        passed: lacks <= 0,
      };
    }
    case 'test':
      return { words: by.words, passed: by.passed };
  }
}

export const equipmentChecked = kind('equipment.check', {
  who: 'maker',
  task: 'reading',
  words: 'Equipment looked at',
  does: 'a scale against a weight, loose parts counted, a water source by its test',
  correct: 'book',
  record: async ({ tx, entry, body, at, seq }) => {
    const of = await loadEquipment(tx, body.equipmentId);
    if (HOW_OF[of.kind] !== body.by.how)
      throw refused('equipment.outside', `${of.tag} is no such thing: it is looked at in another way.`, {
        field: 'by',
      });
    const { words, passed } = found(of, body.by);
    await tx
      .insert(equipmentCheck)
      .values({ entryId: entry.id, equipmentId: of.id, words, passed, by: entry.by, at, seq });
    return { facts: { tag: of.tag, name: of.name, found: words, passed } };
  },
  line: ({ facts }) => ({
    what: `${String(facts['tag'] ?? '')} looked at`,
    words: [facts['found'], facts['passed'] === false && 'not in order'].filter(Boolean).join(' · '),
  }),
});

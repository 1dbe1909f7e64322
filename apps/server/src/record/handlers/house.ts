import { kind } from '../kind.js';
import { and, eq, isNull, ne } from 'drizzle-orm';
import { decideTogether, formatPercent, HOUSE_RULES, ruleOption } from '@clear-tally/core';
import { cleaning, house, houseRule, person, room, vessel } from '../../db/schema/index.js';
import { endAccess } from '../../session/session.js';
import { must, refused } from '../refused.js';
import { RULES_PERSON } from '../rulesPerson.js';

export const houseFound = kind('house.found', {
  who: 'owner',
  words: 'House founded',
  does: 'the house is set up',
  correct: { never: 'A house is founded once. Its figures are changed on the pages of the office.' },
  record: async ({ tx, body }) => {
    const [already] = await tx.select().from(house);
    if (already)
      throw refused('name.taken', `This ledger belongs to ${already.name} already. One ledger keeps one house.`, {
        field: 'name',
      });
    await tx.insert(house).values({ id: 1, ...body });
    return {};
  },
  line: ({ entry }) => ({ what: 'House founded', words: entry.body.name }),
});

export const personAdd = kind('person.add', {
  who: 'owner',
  words: 'Person added',
  does: 'the house is set up',
  correct: 'book',
  record: async ({ tx, body }) => {
    await tx.insert(person).values({ id: body.personId, name: body.name, initials: body.initials, role: body.role });
    return {};
  },
  line: ({ entry }) => ({ what: 'Person added', words: entry.body.name }),
});

export const personLeave = kind('person.leave', {
  who: 'owner',
  words: 'Person left',
  does: 'somebody has left, or has come back; their sign-ins end, what they recorded keeps their name. The last owner stays',
  correct: { never: 'Their sign-ins have ended with it. Say on “Who comes in” that they are back, or have left.' },
  record: async ({ tx, body, at }) => {
    const [of] = await tx.select().from(person).where(eq(person.id, body.personId));
    if (!of || of.id === RULES_PERSON.personId)
      throw refused('resource.unknown', 'No such person is in this house. Choose them from the list.', {
        field: 'personId',
      });
    if (body.left === (of.leftAt !== null))
      throw refused(
        'correction.nothingChanged',
        `${of.name} ${body.left ? 'has left already' : 'is in the house'}. Nothing was changed.`,
        { field: 'personId' },
      );
    if (body.left && of.role === 'owner') {
      const others = await tx
        .select({ id: person.id })
        .from(person)
        .where(
          and(
            eq(person.role, 'owner'),
            isNull(person.leftAt),
            ne(person.id, of.id),
            ne(person.id, RULES_PERSON.personId),
          ),
        );
      if (others.length === 0)
        throw refused(
          'who.notAllowed',
          `${of.name} is the only owner. A house needs one: add another before ${of.name} leaves.`,
          { field: 'personId' },
        );
    }
    await tx
      .update(person)
      .set({ leftAt: body.left ? at : null })
      .where(eq(person.id, of.id));
    if (body.left) await endAccess(tx, of.id);
    return {};
  },
  line: ({ entry }) => ({ what: entry.body.left ? 'Left the house' : 'Is back', words: entry.body.reason }),
});

export const roomAdd = kind('room.add', {
  who: 'owner',
  words: 'Room added',
  does: 'the house is set up',
  correct: 'book',
  record: async ({ tx, body }) => {
    await tx
      .insert(room)
      .values({ id: body.roomId, name: body.name, usualCelsius: body.usualCelsius, position: body.position });
    return {};
  },
  line: ({ entry }) => ({ what: 'Room added', words: entry.body.name }),
});

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

/** An answer to one of the house's questions. The limit of pH is kept where every decision reads it. */
export const houseRuled = kind('house.rule', {
  who: 'owner',
  words: 'House rule',
  does: 'a question of the house answered, with how a riskier way is done; what the house reckons with',
  correct: 'book',
  record: async ({ tx, body, seq }) => {
    const rule = HOUSE_RULES.find((one) => one.key === body.rule);
    if (!rule) throw refused('rule.unknown', `“${body.rule}” is no question of the house rules.`, { field: 'rule' });
    const chosen = ruleOption(rule, body.option);
    if (!chosen) {
      const range = rule.figure ? `, or a figure from ${rule.figure.least} to ${rule.figure.most}` : '';
      throw refused(
        rule.figure ? 'rule.outside' : 'rule.unknown',
        `“${body.option}” was given. Accepted are: ${rule.options.map((one) => one.words).join('; ')}${range}.`,
        { field: 'option' },
      );
    }
    if (chosen.asks && !body.reason)
      throw refused(
        'rule.unknown',
        `“${chosen.words}” asks something in exchange: ${chosen.asks} Write down how this house does that.`,
        { field: 'reason' },
      );
    const others = Object.fromEntries((await tx.select().from(houseRule)).map((row) => [row.rule, row.option]));
    must(decideTogether({ ...others, [rule.key]: chosen.key }));
    await tx
      .insert(houseRule)
      .values({ rule: rule.key, option: chosen.key, seq })
      .onConflictDoUpdate({ target: houseRule.rule, set: { option: chosen.key, seq } });
    if (rule.key === 'acidLimit') await tx.update(house).set({ acidLimit: Number(chosen.key) });
    return { facts: { question: rule.question, answer: chosen.words } };
  },
  line: ({ entry, facts }) => ({
    what: String(facts['question'] ?? 'House rule'),
    words: [facts['answer'], entry.body.reason].filter(Boolean).join(' · '),
  }),
});

export const houseSet = kind('house.set', {
  who: 'owner',
  words: 'What the house reckons with',
  does: 'a question of the house answered, with how a riskier way is done; what the house reckons with',
  correct: 'book',
  rulesBehind: true,
  record: async ({ tx, body }) => {
    const [now] = await tx.select().from(house);
    if (!now) throw refused('resource.unknown', 'This ledger has no house yet.');
    const upsideDown = Object.values(body.saltBands ?? {}).find((band) => band && !(band.least < band.most));
    if (upsideDown)
      throw refused(
        'rule.outside',
        `A band from ${formatPercent(upsideDown.least, 1)} to ${formatPercent(upsideDown.most, 1)} was given. Its lower end lies under its upper one.`,
        { field: 'saltBands' },
      );
    await tx.update(house).set({ settings: { ...now.settings, ...body } });
    return {};
  },
  line: ({ entry }) => ({
    what: 'What the house reckons with',
    words: Object.keys(entry.body)
      .map((name) => name.replace(/([A-Z])/g, ' $1').toLowerCase())
      .join(', '),
  }),
});

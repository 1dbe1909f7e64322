import { and, eq, isNull, ne } from 'drizzle-orm';
import { decideTogether, formatPercent, HOUSE_RULES, ruleOption } from '@clear-tally/core';
import { house, houseRule, person, room, vessel } from '../../db/schema/index.js';
import { endAccess } from '../../session/session.js';
import { must, refused } from '../refused.js';
import { RULES_PERSON } from '../rulesPerson.js';
import type { Handler } from '../handler.js';

export const houseFound: Handler<'house.found'> = async ({ tx, body }) => {
  const [already] = await tx.select().from(house);
  if (already)
    throw refused('name.taken', `This ledger belongs to ${already.name} already. One ledger keeps one house.`, {
      field: 'name',
    });
  await tx.insert(house).values({ id: 1, ...body });
  return {};
};

export const personAdd: Handler<'person.add'> = async ({ tx, body }) => {
  await tx.insert(person).values({ id: body.personId, name: body.name, initials: body.initials, role: body.role });
  return {};
};

export const personLeave: Handler<'person.leave'> = async ({ tx, body, at }) => {
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
};

export const roomAdd: Handler<'room.add'> = async ({ tx, body }) => {
  await tx
    .insert(room)
    .values({ id: body.roomId, name: body.name, usualCelsius: body.usualCelsius, position: body.position });
  return {};
};

export const vesselAdd: Handler<'vessel.add'> = async ({ tx, body }) => {
  const { vesselId, ...row } = body;
  await tx
    .insert(vessel)
    .values({ id: vesselId, ...row, brimMl: Math.round(row.brimMl), weightVolumeMl: Math.round(row.weightVolumeMl) });
  return {};
};

export const vesselClean: Handler<'vessel.clean'> = async ({ tx, body, at }) => {
  const changed = await tx
    .update(vessel)
    .set({ cleanedAt: at })
    .where(eq(vessel.id, body.vesselId))
    .returning({ tag: vessel.tag });
  if (changed.length === 0)
    throw refused('vessel.unknown', `No vessel ${body.vesselId} is known in this house. Choose it from the list.`, {
      field: 'vesselId',
    });
  return { facts: { tag: changed[0]!.tag } };
};

/** An answer to one of the house's questions. The limit of pH is kept where every decision reads it. */
export const houseRuled: Handler<'house.rule'> = async ({ tx, body, seq }) => {
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
};

export const houseSet: Handler<'house.set'> = async ({ tx, body }) => {
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
};

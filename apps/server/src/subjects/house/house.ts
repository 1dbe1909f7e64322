import type { BodyOf } from '@clear-tally/contract';
import { decideTogether, formatPercent, HOUSE_RULES, ruleOption } from '@clear-tally/core';
import { and, eq, ne, sql } from 'drizzle-orm';
import type { Transaction } from '../../db/database.js';
import { house, houseRule, room } from '../../db/schema/house.js';
import { chosenRules } from '../../lots/house.js';
import { happened } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';

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

export const roomAdd = kind('room.add', {
  who: 'owner',
  words: 'Room added',
  does: 'the house is set up',
  makes: 'roomId',
  correct: 'book',
  record: async ({ tx, body }) => {
    await refuseTakenRoom(tx, body);
    refuseUpsideDown(body);
    await tx.insert(room).values({
      id: body.roomId,
      name: body.name,
      usualCelsius: body.usualCelsius,
      position: body.position,
      details: body.details ?? {},
    });
    return {};
  },
  line: ({ entry }) => ({ what: 'Room added', words: entry.body.name }),
});

/** The usual temperature lies within what is allowed, and what is allowed begins below where it ends. */
function refuseUpsideDown({ usualCelsius, details }: BodyOf<'room.add'>): void {
  const [least, most] = [details?.leastCelsius ?? -5, details?.mostCelsius ?? 45];
  if (least > usualCelsius || most < usualCelsius)
    throw refused(
      'rule.outside',
      `Allowed from ${least} to ${most} °C was given, and usually ${usualCelsius} °C: what is usual lies within what is allowed.`,
      { field: least > usualCelsius ? 'leastCelsius' : 'mostCelsius' },
    );
}

async function refuseTakenRoom(
  tx: Transaction,
  body: { readonly roomId: string; readonly name: string },
): Promise<void> {
  const [other] = await tx
    .select({ id: room.id })
    .from(room)
    .where(and(eq(sql`lower(${room.name})`, body.name.toLowerCase()), ne(room.id, body.roomId)));
  if (other && !happened(tx))
    throw refused(
      'name.taken',
      `There is a room called ${body.name} already. Two of one name could not be told apart.`,
      {
        field: 'name',
      },
    );
}

export const roomChanged = kind('room.change', {
  who: 'owner',
  words: 'Room changed',
  does: 'a room is called otherwise, stands elsewhere on the round, or is usually of another temperature, from now on',
  correct: 'book',
  record: async ({ tx, body }) => {
    await refuseTakenRoom(tx, body);
    refuseUpsideDown(body);
    const { roomId, details, ...row } = body;
    const changed = await tx
      .update(room)
      .set({ ...row, details: details ?? {} })
      .where(eq(room.id, roomId))
      .returning({ id: room.id });
    if (changed.length === 0)
      throw refused('resource.unknown', 'No such room is in this house. Choose it from the list.', { field: 'roomId' });
    return {};
  },
  line: ({ entry }) => ({ what: 'Room changed', words: `${entry.body.name}, usually ${entry.body.usualCelsius} °C` }),
});

/** An answer to one of the house's questions. The limit of pH is kept where every decision reads it. */
export const houseRuled = kind('house.rule', {
  who: 'owner',
  words: 'House rule',
  does: 'a question of the house answered, with how a riskier way is done; figures of the house',
  correct: 'book',
  choices: async () => ({
    rule: HOUSE_RULES.map(({ key, question }) => ({ id: key, label: question })),
    // A figure of the house's own is typed.
    option: HOUSE_RULES.filter(({ figure }) => !figure).flatMap((rule) =>
      rule.options.map(({ key, words }) => ({ id: key, label: words, where: { field: 'rule', is: rule.key } })),
    ),
  }),
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
    const others = await chosenRules(tx);
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
  words: 'Figures of the house',
  does: 'a question of the house answered, with how a riskier way is done; figures of the house',
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
    what: 'Figures of the house',
    words: Object.keys(entry.body)
      .map((name) => name.replace(/([A-Z])/g, ' $1').toLowerCase())
      .join(', '),
  }),
});

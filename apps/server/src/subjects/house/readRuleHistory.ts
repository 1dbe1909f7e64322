import type { RuleHistoryReply } from '@clear-tally/contract';
import { HOUSE_RULES } from '@clear-tally/core';
import { person } from '../../db/schema/house.js';
import type { Reader } from '../../db/database.js';
import { loadAnswers } from '../../lots/written.js';

/** How a question of the house was answered over time, as it was put right. */
export async function readRuleHistory(reader: Reader, rule: string): Promise<RuleHistoryReply> {
  const people = new Map(
    (await reader.select({ id: person.id, initials: person.initials }).from(person)).map((one) => [
      one.id,
      one.initials,
    ]),
  );
  const options = HOUSE_RULES.find(({ key }) => key === rule)?.options ?? [];
  const answers = (await loadAnswers(reader)).flatMap(({ entry, never }) =>
    !never && entry.kind === 'house.rule' && entry.body.rule === rule
      ? [
          {
            at: new Date(entry.happenedAt).toISOString(),
            by: people.get(entry.by) ?? '',
            words: options.find(({ key }) => key === entry.body.option)?.words ?? entry.body.option,
            reason: entry.body.reason,
          },
        ]
      : [],
  );
  return { answers: answers.reverse().slice(0, 100) };
}

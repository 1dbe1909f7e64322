import type { JudgeReply } from '@clear-tally/contract';
import { findingOf, judge, type Place } from '@clear-tally/core';
import type { Reader } from '../../db/database.js';
import { refused } from '../../journal/refused.js';
import { loadLot } from '../../lots/lots.js';
import { factsOf } from './factsOf.js';

/** What the guide says of a finding on a lot, before anybody records it. */
export async function readJudgement(
  reader: Reader,
  asked: { lotId: string; finding: string; place: Place },
  now: Date,
): Promise<JudgeReply> {
  if (!findingOf(asked.finding))
    throw refused('finding.unknown', `“${asked.finding}” is not in the guide. Choose one of its pictures.`, {
      field: 'finding',
    });
  const facts = await factsOf(reader, await loadLot(reader, asked.lotId, 'lotId', ['fill', 'run']), now);
  return { ...judge({ finding: asked.finding, place: asked.place, facts }), facts: { ...facts } };
}

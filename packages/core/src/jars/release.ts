import { accept, refuse, type Outcome } from '../refusal.js';
import { formatGrams } from '../units/format.js';
import type { JarHeat } from '../heat/heatedJars.js';
import { counting, type GateRow, pairAtLimit, type PhPoint, phStanding } from '../watching/index.js';
import { EQUILIBRIUM_HOURS, GAS_BY_DAYS, GAS_FROM_DAYS, GAS_WORDS, type GasSays, gasStanding } from './afterPacking.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** What a run must meet before it may leave, in the order it is read. Source: handbook 4.6. */
export const RELEASE_KEYS = [
  'readings',
  'acid',
  'rising',
  'holds',
  'salt',
  'checks',
  'equilibrium',
  'closed',
  'heat',
  'gas',
  'label',
  'tally',
  'review',
] as const;
export type ReleaseKey = (typeof RELEASE_KEYS)[number];

export interface ReleaseCondition {
  readonly key: ReleaseKey;
  readonly words: string;
  readonly state: 'met' | 'excused' | 'open';
  /** The facts it rests on. */
  readonly now: string;
  /** What to do about it; null where nothing is to be done. */
  readonly wayOn: string | null;
  /** A reviewer may excuse it in writing. pH, deadline and heat never. */
  readonly mayExcuse: boolean;
}

export interface ReleaseInput {
  readonly now: number;
  readonly packedAt: number;
  readonly acidLimit: number;
  /** Every vessel the run was packed from, as it stood at packing by all that is known now. */
  readonly vessels: readonly {
    readonly code: string;
    readonly gate: readonly GateRow[];
    /** Names of checks that were due before packing and never made. */
    readonly missed: readonly string[];
  }[];
  /** Nothing is known of what went in. */
  readonly beforeLedger: boolean;
  /** Open holds on it, on what it came from and on what came of it. */
  readonly holds: readonly { readonly code: string; readonly reason: string }[];
  readonly salt: { readonly met: boolean; readonly words: string };
  /** `mixed`: packed from something finished, which is even only in the jar. */
  readonly brine: 'own' | 'boiled' | 'fresh' | 'mixed' | null;
  /** What was packed was read twice itself, as it went into the jars: a finished sauce. Then one jar says the rest. */
  readonly readItself: boolean;
  /** What went in after fermentation and feeds it again. */
  readonly restarts: readonly string[];
  /** Whether its bottles settle first, and are closed for good. */
  readonly closing: { readonly later: boolean; readonly done: boolean };
  readonly storage: 'cold' | 'cellar' | 'ambient' | null;
  /** A rule of the house lets live jars of it stand cool. */
  readonly coolAllowed: boolean;
  /** Read in its jars. */
  readonly phs: readonly PhPoint[];
  readonly gas: readonly { readonly at: number; readonly says: GasSays }[];
  /** Jars in the house by how their load stands against its process; whether a process is on file for it. */
  readonly heat: { readonly onFile: boolean; readonly jars: Readonly<Partial<Record<JarHeat, number>>> };
  /** What a label would lack. */
  readonly labelLacks: readonly string[];
  readonly tally: { readonly clear: boolean; readonly unexplainedGrams: number; readonly toleranceGrams: number };
  /** Who packed it, and who reviews it now. */
  readonly packedBy: readonly string[];
  readonly reviewer: { readonly id: string; readonly isReviewer: boolean; readonly isOnlyOne?: boolean };
  /** `second`: somebody else than who packed. `night`: a house of one, the day after. */
  readonly rule: 'second' | 'night';
  /** Local days since packing. */
  readonly nightsSince: number;
  readonly excuses: Readonly<Partial<Record<ReleaseKey, string>>>;
}

type Row = Omit<ReleaseCondition, 'key' | 'mayExcuse'>;

const met = (words: string, now: string): Row => ({ words, state: 'met', now, wayOn: null });
const open = (words: string, now: string, wayOn: string): Row => ({ words, state: 'open', now, wayOn });

/** Every condition of a release with its facts and its way on: one list for vessel, pack and release pages. */
export function releaseConditions(input: ReleaseInput): ReleaseCondition[] {
  const rows: Record<ReleaseKey, Row> = {
    readings: readings(input),
    acid: fromGate(
      input,
      'acid',
      'Acid came in time',
      'A late vessel is held until a reviewer ends that on two readings.',
    ),
    rising: fromGate(input, 'rising', 'pH not rising', 'Read again, blended. What rises is not sold.'),
    holds: holds(input),
    salt: input.salt.met
      ? met('Salt inside its tolerance, or accepted', input.salt.words)
      : open(
          'Salt inside its tolerance, or accepted',
          input.salt.words,
          'A reviewer accepts it at the batch, in writing.',
        ),
    checks: checks(input),
    equilibrium: equilibrium(input),
    closed: closed(input),
    heat: heat(input),
    gas: gas(input),
    label:
      input.labelLacks.length === 0
        ? met('What stands on its label is known', 'complete')
        : open(
            'What stands on its label is known',
            input.labelLacks.join('; '),
            'Complete it at the material or in the house’s settings.',
          ),
    tally: tally(input),
    review: review(input),
  };
  // What nobody can know any more of what stood there before the ledger, a reviewer answers for in writing.
  const excusable = new Set<ReleaseKey>(['checks', ...(input.beforeLedger ? (['salt', 'label'] as const) : [])]);
  return RELEASE_KEYS.map((key) => {
    const mayExcuse = excusable.has(key);
    const excuse = input.excuses[key]?.trim();
    const row = rows[key];
    return mayExcuse && excuse && row.state === 'open'
      ? { key, words: row.words, state: 'excused', now: `${row.now}. Excused: ${excuse}`, wayOn: null, mayExcuse }
      : { key, ...row, mayExcuse };
  });
}

/** The one answer. Names everything that stands open, the first in words. */
export function decideRelease(conditions: readonly ReleaseCondition[]): Outcome<void> {
  // A list that lacks a condition was not looked through.
  for (const key of RELEASE_KEYS)
    if (!conditions.some((one) => one.key === key)) throw new RangeError(`the condition “${key}” was not looked at`);
  const standing = conditions.filter(({ state }) => state !== 'met' && state !== 'excused');
  if (standing.length === 0) return accept(undefined);
  const [first] = standing;
  const more =
    standing.length > 1 ? ` ${standing.length - 1} more ${standing.length > 2 ? 'stand' : 'stands'} open.` : '';
  return refuse('release.open', `${first!.words}: ${first!.now}. ${first!.wayOn}${more}`, {
    field: first!.key,
    facts: { open: standing.map(({ key }) => key) },
  });
}

function readings({ vessels, phs, acidLimit, beforeLedger }: ReleaseInput): Row {
  const words = `pH ${acidLimit} or lower twice, 24 to 72 h apart, blended, meter fit`;
  const wayOn = 'Read a blended sample with a meter fit for release; brine alone and strips do not count.';
  const { strict } = phStanding(phs);
  if (strict !== null && strict > acidLimit)
    return open(
      words,
      `${strict.toFixed(2)} in its jars`,
      'Hold it, and read again, blended. Nothing above the limit is sold.',
    );
  const rows = vessels.map(({ code, gate }) => ({ code, row: gate.find(({ key }) => key === 'pair') }));
  const lacking = rows.filter(({ row }) => row?.state !== 'met');
  if (vessels.length === 0) {
    const pair = beforeLedger ? pairAtLimit({ points: phs, limit: acidLimit }) : null;
    return pair
      ? met(words, `${pair[0].ph.toFixed(2)} and ${pair[1].ph.toFixed(2)}, of its jars`)
      : open(words, 'nothing is known of its vessel', 'Read two of its jars, blended, a day apart.');
  }
  if (lacking.length === 0) return met(words, rows.map(({ code, row }) => `${code}: ${row!.now}`).join('; '));
  return open(words, lacking.map(({ code, row }) => `${code}: ${row?.now ?? 'no pH'}`).join('; '), wayOn);
}

function fromGate(
  { vessels, beforeLedger, phs, acidLimit }: ReleaseInput,
  key: 'acid' | 'rising',
  words: string,
  wayOn: string,
): Row {
  if (vessels.length === 0)
    return beforeLedger && pairAtLimit({ points: phs, limit: acidLimit })
      ? met(words, 'from before these records; two of its jars stand at the limit')
      : open(words, 'nothing is known of its vessel', 'Read two of its jars, blended, a day apart.');
  const bad = vessels.filter(({ gate }) => {
    const row = gate.find((one) => one.key === key);
    // Too few readings to see a rise are no rise; two are asked for anyway. A row that is not there was not looked at.
    return !row || row.refusal !== null;
  });
  const now = (of: ReleaseInput['vessels']): string =>
    of.map(({ code, gate }) => `${code}: ${gate.find((one) => one.key === key)?.now ?? ''}`).join('; ');
  return bad.length === 0 ? met(words, now(vessels) || 'not known') : open(words, now(bad), wayOn);
}

function holds({ holds: standing }: ReleaseInput): Row {
  const words = 'No hold on it, up or down the line';
  return standing.length === 0
    ? met(words, 'none')
    : open(
        words,
        standing.map(({ code, reason }) => `${code}: ${reason}`).join('; '),
        'A reviewer ends a hold at its lot, with a reason and where its rule allows.',
      );
}

function checks({ vessels }: ReleaseInput): Row {
  const words = 'Its checks were made, or are excused in writing';
  const way = 'A reviewer says in writing why that does not matter here.';
  if (vessels.length === 0) return open(words, 'nothing is known of its vessel', way);
  const missed = vessels.flatMap(({ code, missed: names }) =>
    names.length > 0 ? [`${code}: ${names.join(', ')}`] : [],
  );
  return missed.length === 0 ? met(words, 'none missed') : open(words, `never made: ${missed.join('; ')}`, way);
}

function equilibrium({ brine, packedAt, phs, acidLimit, readItself }: ReleaseInput): Row {
  const words = 'pH of what is even, after brine was changed';
  if (brine === 'own') return met(words, 'not asked: its own brine');
  const from = packedAt + EQUILIBRIUM_HOURS * HOUR;
  const even = phs.filter(({ at }) => at >= from);
  const last = counting(even).at(-1);
  const wayOn = readItself
    ? 'A day after packing or later: a whole jar, blended, with a meter fit for release.'
    : 'A day after packing or later: two whole jars, blended, 24 to 72 hours apart, with a meter fit for release.';
  if (!last)
    return open(
      words,
      `${brine === null ? 'what was poured over it was not said' : brine === 'mixed' ? 'it was mixed when it was finished' : `${brine} brine`}, and no blended jar was read after a day`,
      wayOn,
    );
  if (!(last.ph <= acidLimit))
    return open(words, `pH ${last.ph.toFixed(2)}, above ${acidLimit}`, 'Hold it. Nothing above the limit is sold.');
  if (readItself) return met(words, `pH ${last.ph.toFixed(2)}`);
  const pair = pairAtLimit({ points: even, limit: acidLimit });
  return pair
    ? met(words, `pH ${pair[0].ph.toFixed(2)} and ${pair[1].ph.toFixed(2)}`)
    : open(words, `pH ${last.ph.toFixed(2)}: one more, a day apart`, wayOn);
}

function closed({ closing }: ReleaseInput): Row {
  const words = 'Every jar is closed for good';
  if (closing.later === false) return met(words, 'at packing');
  return closing.done
    ? met(words, 'levelled, and closed')
    : open(words, 'they settle, and are not levelled yet', 'A day after filling: level them, wipe, and close them.');
}

function heat({ storage, coolAllowed, heat: { onFile, jars } }: ReleaseInput): Row {
  const words = 'It may be kept where it is kept';
  if (storage === 'cold') return met(words, 'cold, 0 to 5 °C');
  if (storage === 'cellar')
    return coolAllowed
      ? met(words, 'cool and live, as a rule of this house allows')
      : open(
          words,
          'cool, and no rule of this house lets live jars stand there',
          'Keep it cold; or say under “House rules”, of its formula, that it is kept cool.',
        );
  if (storage !== 'ambient') return open(words, 'where it is kept was not said', 'Say where it is kept.');
  const { met: good = 0, unheated = 0, missing = 0, notMet = 0, notTight = 0 } = jars;
  // A process that is used no more still stands behind what was heated to it.
  if (!onFile && good + missing + notMet + notTight === 0)
    return open(words, 'no process on file', 'Keep it cold, or heat it to a process on file.');
  const many = (count: number): string => (count === 1 ? '1 jar' : `${count} jars`);
  if (unheated > 0) return open(words, `${many(unheated)} never heated`, 'Heat them, or take them out of the run.');
  if (missing > 0)
    return open(words, `${many(missing)} of a load that lacks something`, 'Write down what is missing at the load.');
  if (good === 0)
    return open(words, 'no jar meets its process', 'They are held. Keep them cold, or heat them anew to the process.');
  const held = notMet + notTight;
  return met(words, `${many(good)} heated to the process${held > 0 ? `; ${held} held, and none of them leaves` : ''}`);
}

function gas({ storage, gas: seen, packedAt, restarts, now }: ReleaseInput): Row {
  const words = 'No gas in a jar that was opened, or kept cold only';
  const { last, unsettled, gushed } = gasStanding(seen.filter(({ at }) => at <= now));
  if (gushed)
    return open(
      words,
      'one gushed, and none was quiet two days after it',
      'It is held. When a reviewer has ended that, open another jar, two days after it at least.',
    );
  const looked = seen.some(({ at }) => at >= packedAt + GAS_FROM_DAYS * DAY);
  if (storage === 'cold') {
    const also = last ? `; ${GAS_WORDS[last.says]}` : '';
    if (restarts.length === 0) return met(words, `kept cold only${also || '; its gas is looked at on the round'}`);
    return looked || now <= packedAt + GAS_BY_DAYS * DAY
      ? met(words, `kept cold only: ${restarts.join(' and ')} starts it again${also}`)
      : open(words, `${restarts.join(' and ')} starts it again, and no jar was opened in its days`, 'Open one jar.');
  }
  const wayOn = 'Open one jar at 7 to 14 days; or let the run go cold, and mark it so.';
  if (!looked) return open(words, 'no jar was opened after a week', wayOn);
  return unsettled
    ? open(
        words,
        `${GAS_WORDS[unsettled.says]}, and none was quiet two days after it`,
        'Open another jar two days after it at least; or let the run go cold, and mark it so.',
      )
    : met(words, 'quiet');
}

function tally({ tally: of }: ReleaseInput): Row {
  const words = 'Its tally is clear';
  const off = Math.abs(of.unexplainedGrams);
  return of.clear === true
    ? met(words, `within ± ${formatGrams(of.toleranceGrams)}`)
    : open(
        words,
        `${formatGrams(off)} ${of.unexplainedGrams > 0 ? 'unexplained' : 'too many'}, beyond ± ${formatGrams(of.toleranceGrams)}`,
        'Count the jars, look for what was not written down, and put it right at its line.',
      );
}

function review({ packedBy, reviewer, rule, nightsSince }: ReleaseInput): Row {
  const words =
    rule === 'night' ? 'Reviewed, a night after packing at least' : 'Reviewed by somebody who did not pack it';
  if (!reviewer.isReviewer) return open(words, 'a reviewer signs it', 'Hand it to a reviewer of the house.');
  const own = packedBy.includes(reviewer.id);
  if (!own) return met(words, 'by another');
  if (rule !== 'night')
    return open(
      words,
      reviewer.isOnlyOne ? 'you packed it, and nobody else here reviews' : 'you packed it',
      reviewer.isOnlyOne
        ? 'Another reviewer of the house signs it, and there is none: add an owner under “Who comes in”, or let this house’s rules say, under “Who releases what was packed?”, that who packed it does, from the next day on.'
        : 'Another reviewer of the house signs it.',
    );
  return nightsSince >= 1
    ? met(words, 'by who packed it, a night later; marked so')
    : open(words, 'you packed it today', 'Sleep over it: who packed it may review it from tomorrow on.');
}

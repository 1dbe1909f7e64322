import { counting, phStanding, type PhPoint } from '../watching/readings.js';
import { acidIsEaten, pairAtLimit, phTrend } from '../watching/trend.js';
import type { GateRow } from '../watching/gate.js';
import type { Finish } from './finishes.js';

/** What is left of a vessel whose pieces were drained out is its brine: no product of its own. */
export const drainedRow = (code: string): GateRow => ({
  key: 'closed',
  words: 'Something stands in it',
  state: 'open',
  now: 'drained: only its brine is left',
  refusal: {
    code: 'pack.nothing',
    message: `${code} was drained: only its brine is left. Give it back, keep it as a starter, make it a lot of its own, or throw it out.`,
  },
});

/** Of these the finished thing itself is read: it is no longer what stood in the vessel. Pieces in brine are read when they are even. */
export const READ_ITSELF: ReadonlySet<Finish> = new Set(['sauce', 'fruit', 'infusion']);

export const isReadItself = (finish: Finish): boolean => READ_ITSELF.has(finish);

/**
 * What a finish must meet before it is packed. Its vessels met theirs when it was begun; what came of them is read anew,
 * after the last thing that went in. Source: handbook 4.1, 4.6, 7.
 */
export function finishGate(input: {
  readonly code: string;
  readonly finish: Finish;
  readonly closed: boolean;
  readonly onHold: string | null;
  readonly points: readonly PhPoint[];
  /** When the last thing went in. */
  readonly mixedAt: number;
  readonly acidLimit: number;
}): GateRow[] {
  const { code, finish, closed, onHold, acidLimit, mixedAt } = input;
  const met = (key: GateRow['key'], words: string, now: string): GateRow => ({
    key,
    words,
    state: 'met',
    now,
    refusal: null,
  });
  return [
    pair(),
    met('acid', 'Acid in its vessels in time', 'its vessels met theirs when this was begun'),
    rising(),
    onHold === null
      ? met('hold', 'No hold on it', 'none')
      : {
          key: 'hold',
          words: 'No hold on it',
          state: 'hold',
          now: onHold,
          refusal: {
            code: 'lot.onHold',
            message: `${code} is on hold: ${onHold}. Lift the hold, with a reason, before packing.`,
          },
        },
    ...(closed
      ? [
          {
            key: 'closed' as const,
            words: 'Something stands in it',
            state: 'open' as const,
            now: 'emptied',
            refusal: {
              code: 'lot.closed' as const,
              message: `${code} is emptied and closed. Nothing more can be packed from it.`,
            },
          },
        ]
      : []),
  ];

  function rising(): GateRow {
    const trend = phTrend(input.points.filter(({ at }) => at >= mixedAt));
    if (!acidIsEaten(trend)) return met('rising', 'pH not rising', 'judged in its vessels');
    return {
      key: 'rising',
      words: 'pH not rising',
      state: 'hold',
      now: `up by ${trend.rise.toFixed(2)}`,
      refusal: {
        code: 'pack.rising',
        message: `The pH of ${code} has risen by ${trend.rise.toFixed(2)} since it was finished: the acid is being eaten. It is not packed.`,
      },
    };
  }

  function pair(): GateRow {
    const twice = isReadItself(finish);
    const words = `pH ${acidLimit} or lower of what is finished, ${twice ? 'twice, 24 to 72 h apart, ' : ''}blended, meter fit`;
    const since = input.points.filter(({ at }) => at >= mixedAt);
    const { strict } = phStanding(since);
    const last = counting(since).at(-1);
    if (strict !== null && strict > acidLimit)
      return {
        key: 'pair',
        words,
        state: 'open',
        now: `pH ${strict.toFixed(2)}`,
        refusal: {
          code: 'pack.phAboveLimit',
          message: `The pH of ${code} stands at ${strict.toFixed(2)}, above the house limit of ${acidLimit}. It is not packed; do not add acid to save it.`,
        },
      };
    if (!twice)
      return met(
        'pair',
        words,
        last ? `pH ${last.ph.toFixed(2)}` : 'its vessels met it; read again in the jars when they are even',
      );
    const both = pairAtLimit({ points: since, limit: acidLimit });
    if (both) return met('pair', words, `${both[0].ph.toFixed(2)} and ${both[1].ph.toFixed(2)}`);
    if (last)
      return {
        key: 'pair',
        words,
        state: 'open',
        now: `pH ${last.ph.toFixed(2)}: one more, a day apart`,
        refusal: {
          code: 'pack.twoReadings',
          message: `${code} is finished and read once. Two blended readings of it at ${acidLimit} or lower, 24 to 72 hours apart and within 0.1, with a meter fit for release, are wanted before it is packed. Read it again a day after the first.`,
        },
      };
    return {
      key: 'pair',
      words,
      state: 'open',
      now: input.points.length > 0 ? 'read before something went in' : 'not read yet',
      refusal: {
        code: 'pack.noPh',
        message: `${code} is finished and not read: what was read in its vessels is of another thing. Read it blended and rested, with a meter fit for release.`,
      },
    };
  }
}

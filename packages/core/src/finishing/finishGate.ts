import { counting, phStanding, type PhPoint } from '../watching/readings.js';
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
const READ_ITSELF: ReadonlySet<Finish> = new Set(['sauce', 'fruit', 'infusion']);

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
    met('rising', 'pH not rising', 'judged in its vessels'),
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

  function pair(): GateRow {
    const words = `pH ${acidLimit} or lower of what is finished, blended, meter fit`;
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
    if (last) return met('pair', words, `pH ${last.ph.toFixed(2)}`);
    if (!isReadItself(finish))
      return met('pair', words, 'its vessels met it; read again in the jars when they are even');
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

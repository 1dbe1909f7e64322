const DAY = 86_400_000;

/** What a run is looked at for after packing. Source: handbook 4.5. */
export const RUN_CHECKS = ['gas', 'level', 'seal', 'taste'] as const;
export type RunCheckKind = (typeof RUN_CHECKS)[number];
export const RUN_CHECK_WORDS: Readonly<Record<RunCheckKind, string>> = {
  gas: 'Gas: one jar opened',
  level: 'Level in the jars',
  seal: 'Seals',
  taste: 'Retained jar, tasted',
};

/** How a jar answers when it is opened. */
export const GAS_SAYS = ['quiet', 'slight', 'lively', 'gushes'] as const;
export type GasSays = (typeof GAS_SAYS)[number];
export const GAS_WORDS: Readonly<Record<GasSays, string>> = {
  quiet: 'quiet',
  slight: 'a slight hiss',
  lively: 'lively',
  gushes: 'gushes',
};
export const LOOK_SAYS = ['fine', 'notFine'] as const;
export type LookSays = (typeof LOOK_SAYS)[number];
export type RunCheckSays = GasSays | LookSays;

export interface RunCheckMade {
  readonly what: RunCheckKind | 'ph';
  readonly at: number;
  readonly says: RunCheckSays | null;
}

export interface RunCheckDue {
  readonly what: RunCheckKind | 'ph';
  readonly words: string;
  readonly from: number;
  readonly due: number;
  readonly state: 'later' | 'due' | 'late';
}

/** Where a run is kept, as far as its gas is asked for. */
export interface KeptRun {
  readonly packedAt: number;
  readonly storage: 'cold' | 'cellar' | 'ambient' | null;
  /** Fresh or boiled brine in the jars: their pH is another one until they are even. */
  readonly mixed: boolean;
  /** When its retained jars are tasted, moments in ms. */
  readonly tasteAt?: readonly number[];
}

/** Gas is asked of one jar at 7 to 14 days, of one kept out of the cold again at 14 to 28. Source: handbook 4.5. */
export const GAS_FROM_DAYS = 7;
export const GAS_BY_DAYS = 14;
/** Then again, as long as any jar stands there: every 20 days in the warm, every two weeks where it is cool. Source: handbook 4.3, 4.5. */
const GAS_AGAIN_DAYS = { ambient: 20, cellar: 14 } as const;
/** A quiet jar speaks against one that was not only so long after it. Source: handbook 4.6. */
const QUIET_AFTER = 2 * DAY;

/**
 * What the gas checks of a run say, in whatever order they were written down: the last jar opened, and the last that was
 * not quiet where no quiet one was opened two days later or more. Source: handbook 4.6.
 */
export function gasStanding<G extends { readonly at: number; readonly says: GasSays }>(
  seen: readonly G[],
): { readonly last: G | null; readonly unsettled: G | null; readonly gushed: G | null } {
  // Of two jars of one moment the livelier one counts.
  const inOrder = [...seen].sort((a, b) => a.at - b.at || GAS_SAYS.indexOf(a.says) - GAS_SAYS.indexOf(b.says));
  const quietSince = (one: G): boolean =>
    inOrder.some(({ at, says }) => says === 'quiet' && at - one.at >= QUIET_AFTER);
  const open = (of: (says: GasSays) => boolean): G | null =>
    inOrder.findLast((one) => of(one.says) && !quietSince(one)) ?? null;
  return {
    last: inOrder.at(-1) ?? null,
    unsettled: open((says) => says !== 'quiet'),
    gushed: open((says) => says === 'gushes'),
  };
}
export const EQUILIBRIUM_HOURS = 24;
/** A retained jar is tasted within a week of its date. */
const TASTE_EARLY = 7 * DAY;

/**
 * What a packed run asks for now and next: level after a day, the pH of what is even where brine was changed, the gas of
 * one opened jar, and that again while it stands warm. Source: handbook 4.5.
 */
export function runChecksDue(input: { run: KeptRun; made: readonly RunCheckMade[]; now: number }): RunCheckDue[] {
  const { run, made, now } = input;
  const since = (what: RunCheckMade['what'], from: number): RunCheckMade | undefined =>
    made
      .filter((one) => one.what === what && one.at >= from && one.at <= now)
      .reduce<RunCheckMade | undefined>((last, one) => (last && last.at > one.at ? last : one), undefined);
  const ask = (what: RunCheckDue['what'], words: string, from: number, due: number): RunCheckDue => ({
    what,
    words,
    from,
    due,
    state: now < from ? 'later' : now <= due ? 'due' : 'late',
  });
  const asked: RunCheckDue[] = [];
  const dayOn = run.packedAt + DAY;
  if (!since('level', run.packedAt + DAY / 2)) asked.push(ask('level', 'Level after a day', dayOn, dayOn + DAY));
  const even = run.packedAt + EQUILIBRIUM_HOURS * 3_600_000;
  if (run.mixed && !since('ph', even))
    asked.push(ask('ph', 'pH of what is even, a whole jar blended', even, even + 2 * DAY));
  const gasFrom = run.packedAt + GAS_FROM_DAYS * DAY;
  const lastGas = since('gas', gasFrom);
  if (!lastGas) asked.push(ask('gas', 'Gas of one jar', gasFrom, run.packedAt + GAS_BY_DAYS * DAY));
  else if (run.storage !== 'cold') {
    const again =
      lastGas.at < run.packedAt + GAS_BY_DAYS * DAY
        ? run.packedAt + GAS_BY_DAYS * DAY
        : lastGas.at + GAS_AGAIN_DAYS[run.storage ?? 'cellar'] * DAY;
    asked.push(ask('gas', 'Gas again, while it stands out of the cold', again, again + GAS_BY_DAYS * DAY));
  }
  for (const [index, at] of (run.tasteAt ?? []).entries()) {
    // A tasting answers the date it was made for, not the next one.
    const next = run.tasteAt![index + 1] ?? Infinity;
    if (!made.some((one) => one.what === 'taste' && one.at >= at - TASTE_EARLY && one.at < next - TASTE_EARLY))
      asked.push(ask('taste', 'Retained jar, tasted', at - TASTE_EARLY, at + TASTE_EARLY));
  }
  return asked.sort((a, b) => a.due - b.due);
}

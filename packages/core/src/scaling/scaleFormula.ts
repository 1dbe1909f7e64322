import { amountsFor, type Amounts } from './amounts.js';
import type { FormulaLine, ScalableFormula, ScaleTarget } from './formula.js';
import { formulaHoles, type Hole } from './holes.js';
import { reachTarget } from './reachTarget.js';
import { sayWorking, type Working, type YieldSources } from './working.js';
import type { YieldChain } from './yieldChain.js';

/** What usually goes in, grams; a bound that nobody said keeps nothing out. */
export interface UsualGrams {
  readonly least: number | null;
  readonly most: number | null;
}

export interface ScaledLine {
  readonly key: string;
  readonly materialId: string | null;
  readonly name: string;
  readonly role: 'produce' | 'water' | 'salt' | 'ingredient';
  /** When it goes in: at mixing, at finishing, into the jar. */
  readonly stage: 'mix' | 'finish' | 'pack';
  /** Null: a hole, or recorded only. */
  readonly grams: number | null;
  readonly pieces: number | null;
  readonly pieceName: string | null;
  /** Outside the line's usual range: the bench asks. */
  readonly ask: string | null;
  /** That range for this batch, grams; null where its formula says none. */
  readonly usual: UsualGrams | null;
  readonly note: string | null;
  readonly working: Working;
}

export interface ScaledBatch {
  readonly chain: YieldChain;
  readonly produceGrams: number;
  readonly waterGrams: number;
  readonly saltGrams: number;
  readonly waterPhaseSalt: number;
  readonly heavy: Amounts['heavy'];
  readonly filledLitres: number;
  readonly holes: readonly Hole[];
  readonly lines: readonly ScaledLine[];
  readonly workings: {
    readonly trimmed: Working;
    readonly bought: Working;
    readonly salt: Working;
    readonly waterPhaseSalt: Working;
  };
}

/**
 * A formula scaled to a target. Nothing but whole pieces is rounded; each figure carries its working.
 * `variant` leaves out the lines of other variants; `vesselCount` is what "per vessel" counts;
 * `measuredLeafSalt` replaces the estimate of a heavy-salted leaf. Source: handbook 2.5.
 * @throws {RangeError} shares that do not add up to one, a yield outside (0, 1], a stock the formula does not use
 */
export function scaleFormula(input: {
  formula: ScalableFormula;
  target: ScaleTarget;
  variant?: string | null;
  vesselCount?: number;
  measuredLeafSalt?: number | null;
  yieldSources?: YieldSources;
}): ScaledBatch {
  const { formula, target, variant = null } = input;
  const shareSum = formula.produce.reduce((sum, part) => sum + part.share, 0);
  if (Math.abs(shareSum - 1) > 1e-6)
    throw new RangeError(`shares of the produce add up to one; these add up to ${shareSum}`);
  const chain = reachTarget({ formula, target, variant });
  const vesselCount = input.vesselCount ?? (target.from === 'vessels' ? target.vessels.length : 1);
  const amounts = amountsFor({
    formula,
    chain,
    variant,
    vesselCount,
    jars: target.from === 'jars' ? target.jars : [],
    measuredLeafSalt: input.measuredLeafSalt,
  });
  const { produceGrams, waterGrams, saltGrams, heavy } = amounts;
  const say = sayWorking({ formula, target, chain, amounts, yieldSources: input.yieldSources ?? {} });
  const none = { pieces: null, pieceName: null, ask: null, usual: null, note: null, stage: 'mix' as const };
  const lines: ScaledLine[] = [
    ...formula.produce.map((part, index) => ({
      ...none,
      key: `produce-${index}`,
      materialId: part.materialId,
      name: `${part.name}, trimmed`,
      role: 'produce' as const,
      grams: produceGrams * part.share,
      working: say.produce(part, produceGrams * part.share),
    })),
    ...(waterGrams > 0
      ? [
          {
            ...none,
            key: 'water',
            materialId: null,
            name: 'Water',
            role: 'water' as const,
            grams: waterGrams,
            working: say.water(),
          },
        ]
      : []),
    {
      ...none,
      key: 'salt',
      materialId: null,
      name: heavy ? 'Salt for the leaf' : 'Salt',
      role: 'salt' as const,
      grams: formula.saltFraction === null || formula.saltBasis === null ? null : saltGrams,
      working: say.salt(),
    },
    ...(heavy
      ? [
          {
            ...none,
            key: 'paste-salt',
            materialId: null,
            name: 'Salt for the paste',
            role: 'salt' as const,
            grams: heavy.pasteSaltGrams,
            working: say.pasteSalt(),
          },
        ]
      : []),
    ...amounts.lines.map(({ line, index, grams, pieces, base }): ScaledLine => ({
      key: `line-${index}`,
      materialId: line.materialId,
      name: line.name,
      role: 'ingredient',
      grams,
      pieces,
      pieceName: line.pieceName ?? null,
      ask: askAbout(line),
      usual: usualGrams(line, grams),
      note: line.note ?? line.written ?? null,
      stage: line.scaleBy === 'jar' ? 'pack' : line.scaleBy === 'finishedMass' ? 'finish' : 'mix',
      working: say.ingredient(line, base, grams, pieces),
    })),
  ];
  return {
    chain,
    produceGrams,
    waterGrams,
    saltGrams,
    waterPhaseSalt: amounts.waterPhaseSalt,
    heavy,
    filledLitres: amounts.filledLitres,
    holes: formulaHoles(formula),
    lines,
    workings: { trimmed: say.trimmed(), bought: say.bought(), salt: say.salt(), waterPhaseSalt: say.waterPhaseSalt() },
  };
}

/** Mass follows the amount of a line straight, whatever it is counted on: so does what is usual. */
function usualGrams(line: FormulaLine, grams: number | null): UsualGrams | null {
  if (grams === null || !line.amount || (line.least == null && line.most == null)) return null;
  const of = (bound: number | null | undefined): number | null =>
    bound == null ? null : (bound * grams) / line.amount!;
  return { least: of(line.least), most: of(line.most) };
}

function askAbout(line: FormulaLine): string | null {
  if (line.amount === null) return null;
  const under = line.least != null && line.amount < line.least;
  const over = line.most != null && line.amount > line.most;
  return under || over ? `${line.name} is ${under ? 'under' : 'over'} its usual range: is that meant?` : null;
}

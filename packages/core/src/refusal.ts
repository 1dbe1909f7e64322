/** Codes of every answer "no" that the rules of the trade can give. Each has words in the interface and a line in docs/refusals.md. */
export const REFUSAL_CODES = [
  'mass.notPositive',
  'mass.absurd',
  'mass.volumeOfSolid',
  'quantity.unreadable',
  'quantity.ambiguous',
  'quantity.unknownUnit',
  'quantity.unitMissing',
  'quantity.range',
  'quantity.spread',
  'fraction.percentTyped',
  'brine.saturated',
  'time.future',
  'ph.outOfScale',
  'ph.askAgain',
  'temperature.outOfRange',
  'lot.unknown',
  'lot.overdrawn',
  'lot.notYet',
  'lot.onHold',
  'lot.notOnHold',
  'lot.wrongKind',
  'lot.closed',
  'vessel.unknown',
  'vessel.taken',
  'vessel.overfull',
  'vessel.outOfUse',
  'salt.overTarget',
  'salt.outOfTolerance',
  'salt.weakNeedsReviewer',
  'salt.nothingToSalt',
  'pack.noPh',
  'pack.phAboveLimit',
  'pack.twoReadings',
  'pack.differentBatches',
  'pack.nothing',
  'correction.ofCorrection',
  'correction.notThisKind',
  'correction.standsInTheWay',
  'correction.nothingChanged',
  'code.unreadable',
  'code.checkCharacter',
  'code.unknown',
  'code.exhausted',
  'name.taken',
  'formula.unknown',
  'formula.hole',
  'formula.retired',
  'formula.outsideScope',
  'vessel.doesNotCover',
  'stock.reasonNeeded',
  'file.unreadable',
  'file.tooLarge',
  'material.unknown',
  'rule.unknown',
  'making.nothingFilled',
  'making.linesOpen',
  'making.stepsOpen',
  'making.bowlsNotEmpty',
  'making.unchecked',
  'making.stepDone',
  'making.stepUnknown',
  'making.changedMeanwhile',
  'salt.samePerson',
  'salt.notConfirmed',
  'starter.generation',
  'starter.expired',
  'brine.unanswered',
  'leaf.lossOutsideRange',
  'stock.past',
  'timer.unknown',
  'hold.throwOut',
  'hold.readingsMissing',
  'finding.laxer',
  'finding.unknown',
  'taste.notYet',
  'ph.jump',
  'meter.unknown',
  'meter.buffers',
  'check.notQuiet',
  'device.silent',
  'device.unknown',
  'device.refused',
  'device.wrongUnit',
] as const;

export type RefusalCode = (typeof REFUSAL_CODES)[number];

/** A foreseeable "no", as a value: what was given, what is accepted, why. */
export interface Refusal {
  readonly code: RefusalCode;
  readonly message: string;
  /** Path of the field in the entry's body, for the interface to place the message. */
  readonly field?: string;
  readonly facts?: Readonly<Record<string, unknown>>;
}

export type Outcome<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly refusal: Refusal };

export const accept = <T>(value: T): Outcome<T> => ({ ok: true, value });

export const refuse = (
  code: RefusalCode,
  message: string,
  more: { field?: string; facts?: Record<string, unknown> } = {},
): { ok: false; refusal: Refusal } => ({ ok: false, refusal: { code, message, ...more } });

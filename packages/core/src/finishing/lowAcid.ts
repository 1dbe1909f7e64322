/** Preparations that bring no acid of their own, whatever they are called. */
const LOW_ACID_FORMS: ReadonlySet<string> = new Set(['paste', 'porridge', 'puree']);

/**
 * Whether what goes in after fermentation brings no acid: produce that never fermented, fruit excepted, and pastes of it.
 * A piece of it may stay above the limit inside while what is around it is at the limit; so what holds it is never made
 * to keep ambient here. Where nobody said what a produce is, it counts. Source: handbook 4.3.
 */
export const lowAcid = (of: {
  readonly kind: string | null;
  readonly group?: string | null;
  readonly form: string | null;
}): boolean => (of.kind === 'produce' && of.group !== 'fruit') || LOW_ACID_FORMS.has(of.form ?? '');

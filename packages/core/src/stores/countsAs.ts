/** What a material is made of, as far as the arithmetic of salt and water goes. Fractions of its own mass. */
export interface Make {
  readonly waterFraction: number;
  readonly saltFraction: number;
  /** Of a salt: how much of it is salt, as its sack says; null where nobody has said. */
  readonly purity?: number | null | undefined;
}

/** From here on what a salt lacks of being pure is less than the tolerance of its weighing and its moisture. */
export const PURE_ENOUGH = 0.95;

/**
 * A salt counts as it is weighed and water as it is poured: what a formula asks for, what the bench weighs towards and what
 * a vessel is found to hold are one figure. What a salt lacks of being pure stands beside it as its purity. One of which
 * less than 95 % is salt is a blend: a vessel counts the salt that is in it, so that a weak one is found weak. Source:
 * handbook 2.1, where S is the mass of salt weighed.
 * @example countsAs('salt', { waterFraction: 0.01, saltFraction: 0.98 }) //=> { waterFraction: 0, saltFraction: 1, purity: 0.98 }
 */
export function countsAs(kind: string, make: Make): Make & { readonly purity: number | null } {
  const { waterFraction, saltFraction } = make;
  if (kind === 'water') return { waterFraction: 1, saltFraction: 0, purity: null };
  if (kind !== 'salt') return { waterFraction, saltFraction, purity: null };
  // Where two figures are said of one sack the lower one counts.
  const salt = Math.min(saltFraction, make.purity ?? 1);
  if (salt < PURE_ENOUGH)
    return { waterFraction: Math.min(waterFraction, 1 - salt), saltFraction: salt, purity: make.purity ?? null };
  return { waterFraction: 0, saltFraction: 1, purity: make.purity ?? (saltFraction < 1 ? saltFraction : null) };
}

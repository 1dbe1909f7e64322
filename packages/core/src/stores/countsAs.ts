/** What a material is made of, as far as the arithmetic of salt and water goes. Fractions of its own mass. */
export interface Make {
  readonly waterFraction: number;
  readonly saltFraction: number;
}

/**
 * A salt counts as it is weighed and water as it is poured, whatever is known of their purity: what a formula asks for,
 * what the bench weighs towards and what a vessel is found to hold are one figure. What a salt lacks of being pure stands
 * beside it as its purity. Source: handbook 2.1, where S is the mass of salt weighed.
 * @example countsAs('salt', { waterFraction: 0.01, saltFraction: 0.98 }) //=> { waterFraction: 0, saltFraction: 1, purity: 0.98 }
 */
export function countsAs(kind: string, make: Make): Make & { readonly purity: number | null } {
  if (kind === 'water') return { waterFraction: 1, saltFraction: 0, purity: null };
  if (kind !== 'salt') return { waterFraction: make.waterFraction, saltFraction: make.saltFraction, purity: null };
  const { saltFraction } = make;
  return {
    waterFraction: 0,
    saltFraction: 1,
    purity: saltFraction >= LEAST_PURE && saltFraction < 1 ? saltFraction : null,
  };
}

/** Less than that is no purity anybody measured of a salt. */
const LEAST_PURE = 0.5;

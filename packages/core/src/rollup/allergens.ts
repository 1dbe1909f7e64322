/** The fourteen of the EU, and which of them the nine of the US name. Source: handbook 6.9. */
export const ALLERGENS = {
  gluten: { words: 'cereals with gluten', us: 'wheat' },
  crustaceans: { words: 'crustaceans', us: 'crustacean shellfish' },
  eggs: { words: 'eggs', us: 'eggs' },
  fish: { words: 'fish', us: 'fish' },
  peanuts: { words: 'peanuts', us: 'peanuts' },
  soy: { words: 'soy', us: 'soybeans' },
  milk: { words: 'milk', us: 'milk' },
  nuts: { words: 'nuts', us: 'tree nuts' },
  celery: { words: 'celery', us: null },
  mustard: { words: 'mustard', us: null },
  sesame: { words: 'sesame', us: 'sesame' },
  sulphites: { words: 'sulphites', us: null },
  lupin: { words: 'lupin', us: null },
  molluscs: { words: 'molluscs', us: null },
} as const;
export type Allergen = keyof typeof ALLERGENS;
export const ALLERGEN_KEYS = Object.keys(ALLERGENS) as [Allergen, ...Allergen[]];

export interface AllergenSource {
  readonly allergens: readonly string[];
  readonly mayContain?: readonly string[];
  readonly name: string;
}

export interface AllergenLine {
  readonly allergen: string;
  readonly words: string;
  readonly us: string | null;
  readonly certain: boolean;
  readonly from: readonly string[];
}

/** Allergens of all sources, each with the materials it comes from; "may contain" only where nothing contains it. */
export function rollUpAllergens(sources: readonly AllergenSource[]): AllergenLine[] {
  const lines = new Map<string, { certain: Set<string>; may: Set<string> }>();
  const at = (key: string) => lines.get(key) ?? lines.set(key, { certain: new Set(), may: new Set() }).get(key)!;
  for (const source of sources) {
    source.allergens.forEach((key) => at(key).certain.add(source.name));
    source.mayContain?.forEach((key) => at(key).may.add(source.name));
  }
  return [...lines]
    .map(([allergen, { certain, may }]) => {
      const known = ALLERGENS[allergen as Allergen] as { words: string; us: string | null } | undefined;
      return {
        allergen,
        words: known?.words ?? allergen,
        us: known?.us ?? null,
        certain: certain.size > 0,
        from: [...(certain.size > 0 ? certain : may)],
      };
    })
    .sort((a, b) => Number(b.certain) - Number(a.certain) || a.words.localeCompare(b.words));
}

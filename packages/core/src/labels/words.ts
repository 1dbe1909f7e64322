import { formatGrams } from '../units/format.js';
import type { LabelField } from './design.js';

/** Words of one weight, one after the other. */
export interface LabelRun {
  readonly words: string;
  readonly bold: boolean;
}

export interface LabelIngredient {
  readonly name: string;
  readonly grams: number;
  /** Allergens it is. */
  readonly allergens: readonly string[];
  /** Allergens it may contain. */
  readonly mayContain: readonly string[];
  /** It came with brine of another batch: its allergens travelled. */
  readonly carried: boolean;
}

export interface LabelFacts {
  readonly name: string;
  readonly ingredients: readonly LabelIngredient[];
  readonly netGrams: number;
  /** Of the produce in it, by the ledger; null: not known. */
  readonly drainedGrams: number | null;
  readonly packedOn: string;
  readonly until: { readonly kind: 'bestBefore' | 'useBy'; readonly on: string } | null;
  readonly storage: 'cold' | 'cellar' | 'ambient' | null;
  readonly heated: boolean;
  /** Reckoned, not measured. */
  readonly saltPer100: number | null;
  readonly code: string;
  readonly producer: string;
  readonly text: string;
}

const plain = (words: string): LabelRun => ({ words, bold: false });
const strong = (words: string): LabelRun => ({ words, bold: true });

const KEPT = {
  cold: 'Keep at 0–5 °C.',
  cellar: 'Keep cool, at 16 °C at most.',
  ambient: 'Keep in the dark. Once open, in the cold, and use soon.',
} as const;

/** Ingredients in order of their weight at mixing, each allergen in bold where it stands. Source: handbook 4.4. */
export function ingredientRuns(ingredients: readonly LabelIngredient[]): LabelRun[] {
  const inOrder = [...ingredients].sort((a, b) => b.grams - a.grams || a.name.localeCompare(b.name, 'en'));
  const runs = inOrder.flatMap(({ name, allergens, carried }, index): LabelRun[] => {
    const words = index === 0 ? name : name.charAt(0).toLowerCase() + name.slice(1);
    const said = allergens.filter((one) => words.toLowerCase().includes(one.toLowerCase()));
    const others = allergens.filter((one) => !said.includes(one));
    const sep = index === 0 ? [] : [plain(', ')];
    if (allergens.length === 0) return [...sep, plain(words)];
    if (!carried && others.length === 0) return [...sep, strong(words)];
    return [
      ...sep,
      said.length > 0 ? strong(words) : plain(words),
      plain(carried ? ' (contains ' : ' ('),
      ...others.flatMap((one, i) => [...(i > 0 ? [plain(', ')] : []), strong(one.toLowerCase())]),
      plain(')'),
    ];
  });
  const may = [...new Set(ingredients.flatMap(({ mayContain }) => mayContain))].filter(
    (one) => !ingredients.some(({ allergens }) => allergens.includes(one)),
  );
  return [
    ...runs,
    plain('.'),
    ...(may.length > 0
      ? [
          plain(' May contain '),
          ...may.flatMap((one, i) => [...(i > 0 ? [plain(', ')] : []), strong(one.toLowerCase())]),
          plain('.'),
        ]
      : []),
  ];
}

const dayFormat = new Intl.DateTimeFormat('en-GB', {
  timeZone: 'UTC',
  day: 'numeric',
  month: 'short',
  year: '2-digit',
});
const day = (iso: string): string => dayFormat.format(new Date(`${iso}T00:00:00Z`));

/** What stands on a jar, field by field; an empty list: nothing is known to say. */
export function labelWords(facts: LabelFacts): Record<LabelField, readonly LabelRun[]> {
  return {
    name: [strong(facts.name)],
    ingredients: facts.ingredients.length > 0 ? ingredientRuns(facts.ingredients) : [],
    net: [plain(`${formatGrams(facts.netGrams)} net`)],
    drained: facts.drainedGrams === null ? [] : [plain(`drained about ${formatGrams(Math.round(facts.drainedGrams))}`)],
    dates: [
      plain(`packed ${day(facts.packedOn)}`),
      ...(facts.until
        ? [plain(` · ${facts.until.kind === 'useBy' ? 'use by' : 'best before'} `), strong(day(facts.until.on))]
        : []),
    ],
    storage: [
      ...(facts.heated
        ? [plain('Heat treated. ')]
        : [strong('Live'), plain(': contents may push out when opened; open over a sink. ')]),
      ...(facts.storage ? [plain(KEPT[facts.storage])] : []),
    ],
    salt: facts.saltPer100 === null ? [] : [plain(`Salt ${facts.saltPer100.toFixed(1)} g per 100 g (estimate)`)],
    code: [strong(facts.code)],
    producer: facts.producer.trim() ? [plain(facts.producer.trim())] : [],
    text: facts.text.trim() ? [plain(facts.text.trim())] : [],
  };
}

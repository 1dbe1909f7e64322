import { effectsOf } from '../house/effects.js';
import { firstOf } from '../typing/index.js';
import type { Form } from '../vessels/forms.js';
import { cautionsAt, type Caution } from './cautions.js';
import { checklist, type CheckItem } from './checklists.js';
import { STATION_WORDS, STATIONS, type Station, type StepPlace } from './stations.js';

/** A step as the formula words it. */
export interface WordedStep {
  readonly words: string;
  readonly minutes: number | null;
  readonly irreversible?: boolean;
  /** Where in the order of work; null where the formula does not say. */
  readonly at?: StepPlace | null;
}

export interface SheetStep {
  /** `weigh`, `fill`, or `own-3` for the formula's third own step. Stays the same for one version of a formula. */
  readonly key: string;
  readonly station: Station;
  readonly name: string;
  /** What the formula says to it. */
  readonly words: readonly string[];
  /** Rests run against a timer. */
  readonly minutes: number | null;
  /** Cannot be taken back: its checklist comes first. */
  readonly irreversible: boolean;
  readonly checks: readonly CheckItem[];
  readonly cautions: readonly Caution[];
}

export interface SheetInput {
  readonly brined: boolean;
  readonly heavy: boolean;
  readonly form: Form;
  readonly steps: readonly WordedStep[];
  readonly hasFlavourings: boolean;
  readonly hasStarter: boolean;
  /** The house's answers as the batch keeps them. */
  readonly rules: Readonly<Record<string, string>>;
  readonly materialCautions: Readonly<Partial<Record<'weigh' | 'flavour' | 'starter', readonly string[]>>>;
}

/** Stations that are places of the bench; at every other one each worded step is a step of its own. */
const PLACES: ReadonlySet<Station> = new Set([
  'inspect',
  'weigh',
  'water',
  'salt',
  'rinse',
  'prepare',
  'flavour',
  'starter',
  'clean',
  'fill',
  'close',
  'label',
]);

/**
 * The steps of a batch in the order of work, the formula's own words at their place. A worded step that does
 * not say where it belongs comes after the salt, in the order given, as a step of its own.
 *
 * @example runSheet({ brined: false, heavy: false, form: 'shred', steps: [], hasFlavourings: false, hasStarter: false, rules: {}, materialCautions: {} }).map((step) => step.key)
 * //=> ['inspect', 'weigh', 'salt', 'rest', 'clean', 'fill', 'close', 'label']
 */
export function runSheet(input: SheetInput): SheetStep[] {
  const worded = input.steps
    .map((step, index) => ({ ...step, key: `own-${index}`, at: step.at ?? ('rest' as const) }))
    .filter(({ at }) => at !== 'later');
  const effects = effectsOf(input.rules);
  const wanted: Record<Station, boolean> = {
    inspect: true,
    weigh: true,
    water: input.brined,
    salt: true,
    rest: worded.some(({ at }) => at === 'rest') || input.form === 'shred' || input.heavy,
    rinse: input.heavy,
    prepare: input.heavy || worded.some(({ at }) => at === 'prepare'),
    flavour: input.hasFlavourings || effects.vinegar,
    starter: input.hasStarter || effects.starter !== 'wild',
    clean: true,
    fill: true,
    close: true,
    label: true,
  };
  return STATIONS.flatMap((station): SheetStep[] => {
    if (!wanted[station]) return [];
    const here = worded.filter(({ at }) => at === station);
    const materialCautions =
      station === 'prepare'
        ? (input.materialCautions.flavour ?? [])
        : station in input.materialCautions
          ? (input.materialCautions[station as 'weigh'] ?? [])
          : [];
    const common = {
      station,
      checks: checklist({ station, brined: input.brined, heavy: input.heavy, form: input.form, rules: input.rules }),
      cautions: cautionsAt({
        station,
        materialCautions,
        brined: input.brined,
        sanitise: effects.sanitise,
        words: here.map(({ words }) => words),
      }),
    };
    if (PLACES.has(station) || here.length === 0) {
      return [
        {
          ...common,
          key: station,
          name: STATION_WORDS[station],
          words: here.map(({ words }) => words),
          minutes: here.find(({ minutes }) => minutes !== null)?.minutes ?? null,
          irreversible: station === 'fill' || station === 'close' || here.some(({ irreversible }) => irreversible),
        },
      ];
    }
    // The last of several rests carries the question whether it is enough.
    return here.map(({ key, words, minutes, irreversible }, index) => ({
      ...common,
      checks: index === here.length - 1 ? common.checks : [],
      key,
      name: headline(words),
      words: [words],
      minutes,
      irreversible: irreversible ?? false,
    }));
  });
}

/** The first sentence, short enough for the outline. */
function headline(words: string): string {
  const [first = words] = words.split(/(?<=[.!;])\s|:\s/);
  const short = first.replace(/[.;:]$/, '');
  return [...short].length <= 44 ? short : `${firstOf(short, 43).replace(/\s+\S*$/, '')} …`;
}

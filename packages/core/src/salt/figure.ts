import { accept, refuse, type Outcome } from '../refusal.js';
import { formatPercent } from '../units/format.js';
import type { Form } from '../vessels/forms.js';
import { saltBand, type SaltBand } from './bands.js';
import type { Contents } from './contents.js';

/** The salt of a vessel, on the scales that are compared. Fractions; null where it is not known. */
export interface SaltFigure {
  readonly waterPhase: number | null;
  /** Of the total mass: salt, water and produce, where the basis of that name leaves the salt itself out. */
  readonly ofEverything: number | null;
  readonly ofVegetable: number | null;
  readonly band: SaltBand | null;
}

/** What stands in a vessel, as the salt figures everybody shows. Source: handbook 2.1. */
export function saltFigure(of: Contents): SaltFigure {
  const phase = of.saltGrams + of.waterGrams;
  if (!of.known || !(phase > 0)) return { waterPhase: null, ofEverything: null, ofVegetable: null, band: null };
  const waterPhase = of.saltGrams / phase;
  return {
    waterPhase,
    ofEverything: of.grams > 0 ? of.saltGrams / of.grams : null,
    ofVegetable: of.vegetableGrams > 0 ? of.saltGrams / of.vegetableGrams : null,
    band: saltBand(waterPhase),
  };
}

/** On which figure a house sets a band of its own, for a form of product. */
export const BAND_SCALES = ['waterPhase', 'ofEverything', 'ofVegetable'] as const;
export type BandScale = (typeof BAND_SCALES)[number];
export const BAND_SCALE_WORDS: Record<BandScale, string> = {
  waterPhase: 'of the water phase',
  ofEverything: 'of the total mass',
  ofVegetable: 'of the vegetable',
};

export interface HouseSaltBand {
  readonly on: BandScale;
  readonly least: number;
  readonly most: number;
}
export type HouseSaltBands = Readonly<Partial<Record<Form, HouseSaltBand>>>;

/**
 * How a vessel stands in the house's own band for its form; null where the house has none, or nothing is known.
 * Under it a product softens, above it slows. Source: handbook 2.1.
 */
export function houseBandSays(input: {
  figure: SaltFigure;
  form: Form;
  bands: HouseSaltBands | undefined;
}): { state: 'under' | 'in' | 'over'; words: string } | null {
  const band = input.bands?.[input.form];
  const value = band ? input.figure[band.on] : null;
  if (!band || value === null) return null;
  const words = `${formatPercent(value)} ${BAND_SCALE_WORDS[band.on]}; this house: ${formatPercent(band.least, 1)} to ${formatPercent(band.most, 1)}`;
  if (value < band.least - 1e-9) return { state: 'under', words: `${words}. Under it, it softens` };
  return value > band.most + 1e-9 ? { state: 'over', words: `${words}. Above it, it slows` } : { state: 'in', words };
}

/** The state in which a vessel's salt has to be accepted by a reviewer, in writing. */
export const isWeak = (figure: Pick<SaltFigure, 'waterPhase'>): boolean =>
  figure.waterPhase !== null && saltBand(figure.waterPhase) === 'weak';

/**
 * A vessel as it will stand: under 1.5 % in the water phase it is filled, closed or thinned only with a reviewer's
 * written reason. Salt that nobody knows may be weak, and is asked about like it. Source: handbook 2.1.
 */
export function decideVesselSalt(input: {
  tag: string;
  waterPhaseSalt: number | null;
  isReviewer: boolean;
  reason: string | null | undefined;
  doing: string;
}): Outcome<SaltBand> {
  const { tag, waterPhaseSalt, isReviewer, reason, doing } = input;
  const band = saltBand(waterPhaseSalt ?? NaN);
  if (band !== 'weak' || (isReviewer && reason?.trim())) return accept(band);
  const figure =
    waterPhaseSalt !== null && Number.isFinite(waterPhaseSalt)
      ? `${formatPercent(waterPhaseSalt)} salt in the water phase, under 1.5 %`
      : waterPhaseSalt === null
        ? 'a salt that nobody knows'
        : 'a salt that cannot be reckoned';
  const who = isReviewer ? 'Write why' : 'It goes on only with a reviewer’s written reason';
  return refuse(
    'salt.weakNeedsReviewer',
    `${tag} would stand at ${figure}. Pour more brine of the right strength, or less water. ${who} ${doing}; its pH is then read on days 1, 2 and 3.`,
    {
      field: 'weakSaltReason',
      facts: { waterPhaseSalt },
    },
  );
}

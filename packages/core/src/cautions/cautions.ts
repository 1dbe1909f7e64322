/** Where in the work a caution is shown. */
export type CautionPlace = 'formula' | 'make' | 'floor' | 'tasting' | 'judging' | 'pack' | 'office';

export interface CautionNote {
  readonly key: string;
  readonly title: string;
  readonly words: string;
  readonly places: readonly CautionPlace[];
}

/**
 * The cautions of the trade, short, each with its reason. Local food law, the health inspector and, for heated or
 * shelf-stable goods, a qualified process authority decide; this records and computes. Source: handbook 6.
 */
export const CAUTIONS: readonly CautionNote[] = [
  {
    key: 'acid',
    title: 'Acid',
    words:
      'Spores of C. botulinum do not grow below an equilibrium pH of 4.6; a house limit leaves margin for the meter and is never above 4.6. pH 4.6 or lower alone does not make a jar shelf-stable.',
    places: ['floor', 'pack', 'judging'],
  },
  {
    key: 'speed',
    title: 'Speed',
    words:
      'Acid must come fast enough for the temperature: the early days matter. Past the deadline the vessel is held.',
    places: ['floor'],
  },
  {
    key: 'salt',
    title: 'Salt',
    words: 'Too little lets the wrong microbes in and softens; too much stalls. Salt is judged in the water phase.',
    places: ['formula', 'make'],
  },
  {
    key: 'anaerobic',
    title: 'Without air and without acid',
    words:
      'Garlic or herbs in oil or honey, vacuum-packed vegetables before they are acid, whole alliums: pH first, cold, short. Low-salt bags have their pH on the calendar and go cold when it is reached.',
    places: ['formula', 'floor'],
  },
  {
    key: 'mould',
    title: 'Mould and colours',
    words:
      'Not for sale. Nobody tastes to find out. White film is yeast only if it is flat and white and the pH holds.',
    places: ['judging', 'floor'],
  },
  {
    key: 'pressure',
    title: 'Pressure',
    words:
      'Sealed live goods push, gush and burst: vent, leave headspace, pressure-rated bottles, eye protection, cold, gas checks.',
    places: ['floor', 'pack'],
  },
  {
    key: 'heat',
    title: 'Heat',
    words: 'Only to a scheduled process. Burns; hot glass breaks in the cold; altitude lowers the boiling point.',
    places: ['pack'],
  },
  {
    key: 'chemicals',
    title: 'Chilli, lye, sanitiser',
    words:
      'Gloves and goggles; ventilate. Contact time and dilution by the maker’s sheet; rinse where it says; never mix chemicals; residues stop the culture.',
    places: ['make'],
  },
  {
    key: 'allergens',
    title: 'Allergens',
    words:
      'They travel with brine and starters to every descendant. Celeriac is celery, mustard greens are mustard. Clean at a change-over; name them on the label.',
    places: ['formula', 'make', 'pack'],
  },
  {
    key: 'tasting',
    title: 'Tasting',
    words:
      'Raw leaf or brine may be tasted for salt before filling; afterwards only at pH 4.6 or lower, with a clean spoon that never goes back, and never when held.',
    places: ['tasting', 'floor'],
  },
  {
    key: 'eaters',
    title: 'Those who eat it',
    words:
      'Live goods: people with weak immune systems, pregnant people and infants should ask their doctor. High salt; histamine and tyramine in long ferments; a little alcohol in sweet ones.',
    places: ['pack'],
  },
  {
    key: 'materials',
    title: 'Water, salt, vessels',
    words:
      'Water without chlorine, salt without iodine or anti-caking, vessels of food grade: lead-free glaze, no galvanised metal, no damaged enamel. Acid eats metal lids.',
    places: ['make'],
  },
  {
    key: 'records',
    title: 'Records',
    words: 'They are legal records: nothing is erased, everybody signs in as themselves, the clock is checked.',
    places: ['office'],
  },
  {
    key: 'instruments',
    title: 'Meter and thermometer',
    words:
      'The meter is calibrated on the day of use; the thermometer reads 0 ± 0.5 °C in ice water and the boiling point of the altitude in boiling water.',
    places: ['floor', 'office'],
  },
  {
    key: 'outside',
    title: 'Outside this product',
    words:
      'Alcohol, vinegar making, sodas, eggs, dairy, fish, meat or moulded grain as the main produce get no check plan and no release here. Honey anywhere: not for infants under 12 months.',
    places: ['formula'],
  },
  {
    key: 'noRescue',
    title: 'No rescue by acid',
    words: 'A batch above its limit is not saved with vinegar without a process from a qualified person.',
    places: ['floor', 'judging'],
  },
];

export const cautionNotesAt = (place: CautionPlace): CautionNote[] =>
  CAUTIONS.filter(({ places }) => places.includes(place));

/** What to do with a batch above its limit: the question nobody answers. Source: handbook 7. */
export const ABOVE_THE_LIMIT: readonly { readonly title: string; readonly words: string }[] = [
  {
    title: 'Hold it',
    words: 'Nothing is taken from it, nobody tastes. A vessel past its deadline is on hold by itself.',
  },
  {
    title: 'Check the reading',
    words: 'Calibrate the meter, blend solids and brine, read twice. A brine-only reading does not count.',
  },
  {
    title: 'Look for the cause',
    words: 'Salt, temperature, chlorine, preservatives or wax on the produce, hot brine, frozen produce.',
  },
  {
    title: 'Wait at the right temperature',
    words: 'Until twice the deadline at the latest, with a reading every day.',
  },
  { title: 'Do not add acid', words: 'Vinegar does not save it, without a process from a qualified person.' },
  {
    title: 'Two readings, and a reviewer',
    words:
      'Two blended readings at or under the house limit, with a meter fit for release: then a reviewer may end the hold, in writing.',
  },
  {
    title: 'Or throw it out',
    words: 'Still above the limit at twice the deadline: it goes out, with a record of what, how much and why.',
  },
];

/** What somebody complains of. */
export const COMPLAINTS = [
  'illness',
  'foreignBody',
  'gushes',
  'leaks',
  'mould',
  'smellTaste',
  'allergen',
  'label',
  'damaged',
  'other',
] as const;
export type ComplaintKind = (typeof COMPLAINTS)[number];
export const COMPLAINT_WORDS: Readonly<Record<ComplaintKind, string>> = {
  illness: 'somebody fell ill',
  foreignBody: 'something in it that does not belong there',
  gushes: 'gushes, swells',
  leaks: 'leaks, seal open',
  mould: 'mould',
  smellTaste: 'smell or taste',
  allergen: 'an allergen that is not on the label',
  label: 'its label',
  damaged: 'damaged on its way',
  other: 'something else',
};

/** These hold the run at once: whoever thinks otherwise says so in writing. */
const GRAVE: ReadonlySet<ComplaintKind> = new Set<ComplaintKind>(['illness', 'foreignBody', 'gushes', 'allergen']);

/** Whether a complaint stops its siblings from leaving until somebody has looked. */
export const complaintHolds = (what: ComplaintKind): boolean => GRAVE.has(what);

export const COMPLAINT_OUTCOMES = ['ours', 'notOurs', 'notKnown'] as const;
export type ComplaintOutcome = (typeof COMPLAINT_OUTCOMES)[number];
export const COMPLAINT_OUTCOME_WORDS: Readonly<Record<ComplaintOutcome, string>> = {
  ours: 'it was ours',
  notOurs: 'it was not ours',
  notKnown: 'never found out',
};

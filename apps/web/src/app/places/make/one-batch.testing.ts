import { runSheet } from '@clear-tally/core';
import type { ContentsReply, FormulaReply, MakeReply, SaltFigureReply } from '@clear-tally/contract';

/** Ids that read as ids and tell apart by their end. */
export const id = (last: string): string => `018f6b1e-0000-7000-8000-0000000000${last}`;

const formula: MakeReply['formula'] = {
  formulaId: id('f1'),
  number: 1,
  version: 1,
  name: 'Kohlrabi shred with juniper',
  style: 'dryShred',
  form: 'shred',
  produce: [{ materialId: id('e1'), share: 1, name: 'Kohlrabi', waterFraction: 0.91, pieceGrams: null }],
  saltBasis: 'ofVegetable',
  saltFraction: 0.022,
  waterPerProduce: 0,
  lines: [
    {
      materialId: id('e2'),
      scaleBy: 'saltMass',
      amount: 0.3,
      name: 'Juniper berries',
      waterFraction: 0.1,
      saltFraction: 0,
      allergens: [],
      isStarter: false,
    },
  ] as FormulaReply['lines'],
  solidsFraction: 1,
  yields: { trim: 0.78, ferment: 0.97, pack: 0.97 },
  jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
  usualDays: 28,
  note: null,
  referenceGrams: 10_000,
  variants: [],
  steps: [],
  checks: [],
  rules: {},
  saltMaterialId: id('ea'),
  saltName: 'Coarse pan salt',
  pastWaterPhaseSalt: [],
  learned: { trim: null, ferment: null, pack: null },
  versions: [],
  retired: null,
  outsideScope: null,
};

export const weighed = (last: string, grams: number, over: object = {}) => ({
  entryId: id(last),
  lotCode: 'CG-0001',
  materialId: id('e1'),
  materialName: 'Kohlrabi',
  supplierName: 'Causeway Growers',
  supplierLotCode: 'F2',
  grams,
  at: '2026-11-23T07:00:00Z',
  by: 'TR',
  scale: null,
  together: false,
  trimWasteGrams: 0,
  ...over,
});

/** Shred with its salt, as it stands in bowls. */
export const bowls = (grams: number, saltGrams: number): ContentsReply => ({
  grams,
  saltGrams,
  waterGrams: (grams - saltGrams) * 0.92,
  vegetableGrams: grams - saltGrams,
  known: true,
});
export const usualSalt: SaltFigureReply = {
  waterPhase: 0.0234,
  ofEverything: 0.0215,
  ofVegetable: 0.022,
  band: 'usual',
};
/** What a filled vessel says beside its mass. */
export const ofFill = { salt: usualSalt, houseBand: null, weakAccepted: false };

/** W9's batch as its page reads it: 14.6 kg of shred in two bowls, 321.2 g of salt wanted, nothing salted yet. */
export function oneBatch(over: Partial<MakeReply> = {}): MakeReply {
  const sheet = runSheet({
    brined: false,
    heavy: false,
    form: 'shred',
    steps: [],
    hasFlavourings: true,
    hasStarter: false,
    rules: {},
    materialCautions: { flavour: ['Red chilli: Gloves and goggles; ventilate.'] },
  });
  return {
    formula,
    batchId: id('b1'),
    code: 'NY26-327-A',
    startedAt: '2026-11-23T06:10:00Z',
    closedAt: null,
    planned: {
      trimmedGrams: 14_600,
      boughtGrams: 18_700,
      lines: [{ key: 'produce-0', materialId: id('e1'), name: 'Kohlrabi, trimmed', role: 'produce', grams: 14_600 }],
    },
    variant: null,
    rules: { sanitise: 'sanitise' },
    form: 'shred',
    bowls: bowls(14_600, 0),
    produce: [weighed('a1', 10_220), weighed('a2', 4380)],
    produceGrams: 14_600,
    brine: null,
    plannedWaterGrams: 0,
    salt: {
      inGrams: 0,
      targetGrams: 321.2,
      tolerance: 0.03,
      accepted: null,
      portions: [],
      working: { rule: 'S = p · V', figures: '0.022 × 14,600', answer: '321.2 g', sources: [] },
      waterPhaseSalt: 0,
    },
    ingredients: [],
    fills: [],
    inBowlsGrams: 14_600,
    steps: sheet.map((step) => ({
      ...step,
      state: step.key === 'weigh' ? ('done' as const) : ('open' as const),
      labourMinutes: null,
      by: null,
      at: null,
      note: null,
      unchecked: [],
      begunBy: [],
      open: null,
    })),
    lines: [
      {
        key: 'line-0',
        materialId: id('e2'),
        name: 'Juniper berries',
        plannedGrams: 96,
        usual: null,
        inGrams: 0,
        state: 'open',
        reason: null,
        mayTick: true,
      },
      {
        key: 'line-1',
        materialId: id('e3'),
        name: 'Dill seed',
        plannedGrams: null,
        usual: null,
        inGrams: 0,
        state: 'open',
        reason: null,
        mayTick: true,
      },
    ],
    preparations: [],
    leaf: null,
    confirmation: { wanted: false, by: null, weighedBy: [] },
    ...over,
  };
}

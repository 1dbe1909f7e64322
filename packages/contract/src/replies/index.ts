import { z } from 'zod';
import {
  CHECK_KIND_KEYS,
  DEVICE_KINDS,
  FORM_KEYS,
  GATE_KEYS,
  HOLD_RULE_KEYS,
  VERDICTS,
  PREPARATIONS,
  PRINTER_STATES,
  SALT_BANDS,
  SALT_BASES,
  STATIONS,
  STOCK_UNITS,
  SUPPLY_STATES,
  UNIT_GRAMS,
  type SaltBand,
  type ScaleUnit,
} from '@clear-tally/core';
import {
  CLOSURES,
  FORMULA_STYLES,
  LEAF_TASTES,
  MATERIAL_KINDS,
  ROLES,
  SAMPLES,
  VESSEL_SHAPES,
  formulaCheck,
  formulaLine,
  houseSettings,
  formulaVersion,
  innerShape,
  materialDetails,
} from '../entries/index.js';

const iso = z.iso.datetime({ offset: true });
const id = z.uuid();

/** What the server decided about a recorded entry, such as the code it issued. */
export const recorded = z.strictObject({
  id,
  seq: z.int(),
  kind: z.string(),
  recordedAt: iso,
  repeated: z.boolean(),
  facts: z.record(z.string(), z.unknown()),
});
export const entriesReply = z.strictObject({ recorded: z.array(recorded) });

export const person = z.strictObject({ id, name: z.string(), initials: z.string(), role: z.enum(ROLES) });
export const sessionReply = z.strictObject({ person: person.nullable() });
export const signInReply = z.strictObject({
  house: z.string().nullable(),
  people: z.array(person),
  demoPins: z.array(z.strictObject({ name: z.string(), pin: z.string() })).nullable(),
});

/** The salt of a vessel on the scales that are compared; null where nobody knows what went in. */
export const saltFigure = z.strictObject({
  waterPhase: z.number().nullable(),
  ofEverything: z.number().nullable(),
  ofVegetable: z.number().nullable(),
  band: z.enum(SALT_BANDS.map(({ band }) => band) as [SaltBand, ...SaltBand[]]).nullable(),
});
const houseBandOf = z.strictObject({ state: z.enum(['under', 'in', 'over']), words: z.string() }).nullable();
/** What stands in bowls, a brine, a vessel. */
export const contents = z.strictObject({
  grams: z.number(),
  waterGrams: z.number(),
  saltGrams: z.number(),
  vegetableGrams: z.number(),
  known: z.boolean(),
});

export const houseReply = z.strictObject({
  name: z.string(),
  site: z.string(),
  timeZone: z.string(),
  decimalMark: z.enum(['point', 'comma']),
  acidLimit: z.number(),
  saltTolerance: z.number(),
  rooms: z.array(z.strictObject({ id, name: z.string(), usualCelsius: z.number() })),
  vessels: z.array(
    z.strictObject({
      id,
      tag: z.string(),
      shape: z.enum(VESSEL_SHAPES),
      brimMl: z.number(),
      maxFill: z.number(),
      minFill: z.number(),
      closure: z.enum(CLOSURES),
      roomId: id,
      inUse: z.boolean(),
      takenBy: z.string().nullable(),
      cleanedAt: iso.nullable(),
      /** The agent, how strong, how long. */ cleanedWith: z.string().nullable(),
      /** Something stood in it after it was last cleaned. */ usedSince: z.boolean(),
      weightVolumeMl: z.number(),
      inner: innerShape.nullable(),
    }),
  ),
  suppliers: z.array(z.strictObject({ id, name: z.string(), prefix: z.string(), ownPlot: z.boolean() })),
  materials: z.array(
    z.strictObject({
      id,
      name: z.string(),
      kind: z.enum(MATERIAL_KINDS),
      waterFraction: z.number(),
      saltFraction: z.number(),
      allergens: z.array(z.string()),
      caution: z.string().nullable(),
      details: materialDetails,
    }),
  ),
  /** Answers given on the house rules page, by rule. */
  rules: z.record(z.string(), z.string()),
  settings: z.strictObject({
    currency: z.string(),
    labourPerHour: z.number(),
    scaleStepGrams: z.number(),
    keptBrineDays: z.int(),
    keptBrineGenerations: z.int(),
    acidByHours: houseSettings.shape.acidByHours.unwrap(),
    saltBands: houseSettings.shape.saltBands.unwrap(),
    contacts: houseSettings.shape.contacts.unwrap(),
    address: z.string().nullable(),
  }),
});

export const shelfVessel = z.strictObject({
  lotId: id,
  code: z.string(),
  name: z.string(),
  vesselTag: z.string(),
  shape: z.enum(VESSEL_SHAPES),
  closure: z.enum(CLOSURES),
  roomId: id,
  brimMl: z.number(),
  maxFill: z.number(),
  fillGrams: z.number(),
  filledAt: iso,
  day: z.int(),
  lastPh: z.number().nullable(),
  lastPhAt: iso.nullable(),
  /** False: the last that was read, by no reading that counts. */ phCounts: z.boolean(),
  readings: z.int(),
  hold: z.string().nullable(),
  /** Seen on it, "Watch" or "Act", and still to be looked at again. */ seen: z
    .strictObject({ verdict: z.enum(['watch', 'act']), name: z.string() })
    .nullable(),
  batchCode: z.string(),
  formulaNumber: z.int().nullable(),
  /** Checks due now, and of them late. */
  due: z.int(),
  late: z.int(),
});
/** A vessel whose record cannot be read, beside those that can. */
const unreadable = z.strictObject({
  lotId: id,
  code: z.string(),
  batchCode: z.string(),
  vesselTag: z.string(),
  words: z.string(),
});
/** Who comes in, for an owner. */
export const peopleReply = z.strictObject({
  people: z.array(person.extend({ leftAt: iso.nullable(), hasPin: z.boolean(), signedIn: z.int(), devices: z.int() })),
  locks: z.array(z.strictObject({ personId: id, until: iso, here: z.boolean() })),
});
/** The look at the whole house: chain, columns, tables against the journal, photos. */
export const verificationReply = z.strictObject({
  state: z.enum(['never', 'running', 'done', 'failed']),
  words: z.string().nullable(),
  startedAt: iso.nullable(),
  finishedAt: iso.nullable(),
  entries: z.int().nullable(),
  photos: z.int().nullable(),
  ends: z.int().nullable(),
  newestEnd: z.strictObject({ seq: z.int(), at: iso }).nullable(),
  faults: z.array(z.strictObject({ where: z.string(), seq: z.int().nullable(), words: z.string() })),
});
export const shelfReply = z.strictObject({
  now: iso,
  rooms: z.array(z.strictObject({ id, name: z.string(), celsius: z.number().nullable() })),
  vessels: z.array(shelfVessel),
  faults: z.array(unreadable),
});

const learned = z.strictObject({ median: z.number(), least: z.number(), most: z.number(), lots: z.int() }).nullable();
export const formulaReply = formulaVersion
  .required({ variants: true, steps: true, checks: true, rules: true, form: true, referenceGrams: true })
  .extend({
    style: z.enum(FORMULA_STYLES),
    produce: z.array(
      z.strictObject({
        materialId: id,
        share: z.number(),
        name: z.string(),
        waterFraction: z.number(),
        pieceGrams: z.number().nullable(),
      }),
    ),
    lines: z.array(
      formulaLine.extend({
        name: z.string(),
        waterFraction: z.number(),
        saltFraction: z.number(),
        allergens: z.array(z.string()),
        isStarter: z.boolean(),
      }),
    ),
    saltName: z.string().nullable(),
    pastWaterPhaseSalt: z.array(z.number()),
    /** What the house's last lots of this formula gave. */
    learned: z.strictObject({ trim: learned, ferment: learned, pack: learned }),
    versions: z.array(z.strictObject({ version: z.int(), savedAt: iso, by: z.string() })),
    retired: z.string().nullable(),
    /** Why it gets no check plan and no release. */
    outsideScope: z.string().nullable(),
  });
export const formulasReply = z.strictObject({
  formulas: z.array(
    z.strictObject({
      formulaId: id,
      number: z.int(),
      version: z.int(),
      name: z.string(),
      style: z.enum(FORMULA_STYLES),
      saltBasis: z.string().nullable(),
      saltFraction: z.number().nullable(),
      usualDays: z.int(),
      batches: z.int(),
      holes: z.int(),
      retired: z.string().nullable(),
      outsideScope: z.boolean(),
    }),
  ),
});

export const supplyLot = z.strictObject({
  lotId: id,
  code: z.string(),
  materialId: id,
  materialName: z.string(),
  supplierName: z.string().nullable(),
  supplierLotCode: z.string().nullable(),
  onHandGrams: z.number().nullable(),
  receivedAt: iso,
  useBy: z.string().nullable(),
  hold: z.string().nullable(),
  /** The day it is to be used by, from both dates and what was done to it. */
  until: z.string().nullable(),
  keeps: z.enum(['noDate', 'keeps', 'soon', 'past']),
  days: z.int().nullable(),
  state: z.enum(SUPPLY_STATES),
  unit: z.enum(STOCK_UNITS),
});
export const suppliesReply = z.strictObject({ lots: z.array(supplyLot) });
export const stockReply = z.strictObject({
  today: z.string(),
  lots: z.array(
    supplyLot.extend({
      kind: z.string(),
      cost: z.number().nullable(),
      reference: z.string().nullable(),
      condition: z.string().nullable(),
      keepsUntil: z.string().nullable(),
      photo: z.string().nullable(),
    }),
  ),
  low: z.array(
    z.strictObject({
      materialId: id,
      name: z.string(),
      onHandGrams: z.number(),
      lowStockGrams: z.number(),
      unit: z.enum(STOCK_UNITS),
    }),
  ),
});

export const workingReply = z.strictObject({
  rule: z.string(),
  figures: z.string(),
  answer: z.string(),
  sources: z.array(z.strictObject({ what: z.string(), from: z.string() })).readonly(),
});

/** What a batch on the bench waits for. */
export const MAKING_STAGES = ['forProduce', 'forSalt', 'toBeFilled', 'partlyFilled', 'toBeClosed'] as const;
export type MakingStage = (typeof MAKING_STAGES)[number];
const weighed = z.strictObject({
  entryId: id,
  lotCode: z.string(),
  /** Of a supply; what came from a vessel or a preparation has none. */
  materialId: id.nullable(),
  materialName: z.string(),
  supplierName: z.string().nullable(),
  supplierLotCode: z.string().nullable(),
  grams: z.number(),
  at: iso,
  by: z.string(),
});
const sheetStep = z.strictObject({
  key: z.string(),
  station: z.enum(STATIONS),
  name: z.string(),
  words: z.array(z.string()).readonly(),
  minutes: z.number().nullable(),
  irreversible: z.boolean(),
  checks: z.array(z.strictObject({ key: z.string(), words: z.string() })).readonly(),
  cautions: z.array(z.strictObject({ words: z.string(), wear: z.boolean() })).readonly(),
  state: z.enum(['open', 'begun', 'done', 'skipped']),
  labourMinutes: z.number().nullable(),
  by: z.string().nullable(),
  at: iso.nullable(),
  note: z.string().nullable(),
  unchecked: z.array(z.string()).readonly(),
  begunBy: z.array(z.strictObject({ by: z.string(), at: iso })).readonly(),
  /** What its target still lacks; null when it is met or has none. */
  open: z.string().nullable(),
});
const sheetLine = z.strictObject({
  key: z.string(),
  materialId: id,
  name: z.string(),
  plannedGrams: z.number().nullable(),
  inGrams: z.number(),
  state: z.enum(['open', 'weighed', 'ticked', 'leftOut']),
  reason: z.string().nullable(),
  /** May go in by its planned mass, without being weighed. */ mayTick: z.boolean(),
});
const leafReply = z.strictObject({
  log: z.array(
    z.strictObject({
      entryId: id,
      what: z.enum(['turn', 'rinse', 'drain']),
      at: iso,
      by: z.string(),
      waterGrams: z.number().nullable(),
      drainedGrams: z.number().nullable(),
      waterPhaseSalt: z.number().nullable(),
      how: z.string().nullable(),
      tasted: z.enum(LEAF_TASTES).nullable(),
    }),
  ),
  saltedAt: iso.nullable(),
  estimate: z.number(),
  least: z.number(),
  most: z.number(),
  rinses: z.int(),
  minutes: z.number(),
  /** What is reckoned with: measured, or the estimate. */
  leafSalt: z.number(),
  measured: z.boolean(),
  drainedGrams: z.number().nullable(),
  wanted: z.number(),
  pasteSaltGrams: z.number(),
});
const preparation = z.strictObject({
  lotId: id,
  code: z.string(),
  form: z.enum(PREPARATIONS),
  name: z.string(),
  madeGrams: z.number(),
  onHandGrams: z.number(),
  /** Into vessels; elsewhere, such as another batch's brine; lost. */ pouredGrams: z.number(),
  elsewhereGrams: z.number(),
  lostGrams: z.number(),
  /** Names of what is in it beside water and salt. */ spices: z.array(z.string()),
  touched: z.enum(['never', 'pouredOff']).nullable(),
  generation: z.int().nullable(),
  useBy: z.string().nullable(),
});
export const makeReply = z.strictObject({
  /** Of a started batch: its salt and water are settled. */
  formula: formulaReply.extend({
    saltBasis: z.enum(SALT_BASES),
    saltFraction: z.number(),
    waterPerProduce: z.number(),
  }),
  batchId: id,
  code: z.string(),
  startedAt: iso,
  planned: z.strictObject({
    trimmedGrams: z.number(),
    boughtGrams: z.number(),
    lines: z.array(
      z.strictObject({
        key: z.string(),
        materialId: id.nullable(),
        name: z.string(),
        role: z.string(),
        grams: z.number().nullable(),
      }),
    ),
  }),
  variant: z.string().nullable(),
  rules: z.record(z.string(), z.string()),
  form: z.enum(FORM_KEYS),
  produce: z.array(weighed.extend({ trimWasteGrams: z.number() })),
  produceGrams: z.number(),
  brine: z
    .strictObject({
      lotId: id,
      code: z.string(),
      waterGrams: z.number(),
      saltGrams: z.number(),
      onHandGrams: z.number(),
      contents,
    })
    .nullable(),
  /** What stands in the bowls, as it went in. */
  bowls: contents,
  plannedWaterGrams: z.number(),
  salt: z.strictObject({
    inGrams: z.number(),
    targetGrams: z.number(),
    tolerance: z.number(),
    accepted: z.string().nullable(),
    portions: z.array(weighed),
    working: workingReply,
    waterPhaseSalt: z.number(),
  }),
  ingredients: z.array(weighed),
  fills: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      vesselTag: z.string(),
      grams: z.number(),
      fillFraction: z.number(),
      room: z.string(),
      labels: z.int(),
      closure: z.enum(CLOSURES).nullable(),
      salt: saltFigure,
      houseBand: houseBandOf,
      weakAccepted: z.boolean(),
    }),
  ),
  inBowlsGrams: z.number(),
  closedAt: iso.nullable(),
  steps: z.array(sheetStep).readonly(),
  lines: z.array(sheetLine).readonly(),
  preparations: z.array(preparation),
  leaf: leafReply.nullable(),
  /** A second person's word on the salt as it is now, where the house wants one. */
  confirmation: z.strictObject({ wanted: z.boolean(), by: z.string().nullable(), weighedBy: z.array(id) }),
});
export const makingReply = z.strictObject({
  batches: z.array(
    z.strictObject({
      batchId: id,
      code: z.string(),
      name: z.string(),
      startedAt: iso,
      /** What it waits for. */
      stage: z.enum(MAKING_STAGES),
      inBowlsGrams: z.number(),
    }),
  ),
});

export const timersReply = z.strictObject({
  now: iso,
  timers: z.array(
    z.strictObject({
      timerId: id,
      batchId: id.nullable(),
      batchCode: z.string().nullable(),
      step: z.string().nullable(),
      words: z.string(),
      minutes: z.number(),
      startedAt: iso,
      endsAt: iso,
      by: z.string(),
    }),
  ),
});

const scaleStanding = z.discriminatedUnion('state', [
  z.strictObject({ state: z.literal('silent') }),
  z.strictObject({ state: z.literal('over') }),
  z.strictObject({
    state: z.literal('reading'),
    reading: z.strictObject({
      value: z.number(),
      unit: z.enum(Object.keys(UNIT_GRAMS) as [ScaleUnit, ...ScaleUnit[]]),
      grams: z.number(),
      settled: z.boolean(),
      tareGrams: z.number(),
      range: z.int(),
    }),
  }),
]);
/** A device as it stands; `kind` is null until it has said who it is. */
export const deviceReply = z.strictObject({
  id: z.string(),
  kind: z.enum(DEVICE_KINDS).nullable(),
  name: z.string(),
  simulated: z.boolean(),
  connected: z.boolean(),
  ranges: z.array(z.strictObject({ capacityGrams: z.number(), stepGrams: z.number() })),
  /** Of a pH meter; null when it is silent or none. */
  ph: z.strictObject({ ph: z.number(), millivolts: z.number(), celsius: z.number(), settled: z.boolean() }).nullable(),
  scale: scaleStanding.nullable(),
  printer: z.strictObject({ state: z.enum(PRINTER_STATES), labels: z.int() }).nullable(),
  garbled: z.int(),
});
/** What the live line says of a device: how it stands now; what it scanned or printed, once. */
export const deviceNote = z.strictObject({
  id: z.string(),
  device: deviceReply,
  scanned: z.string().optional(),
  paper: z.strictObject({ job: z.string(), svg: z.string() }).optional(),
});
export const devicesReply = z.strictObject({ devices: z.array(deviceReply) });

/** What stands about that can go into a batch: kept brine, live vessels that may give some, left-over brine, what was made for another batch. */
export const startersReply = z.strictObject({
  starters: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      name: z.string(),
      kind: z.enum(['keptBrine', 'vessel', 'leftBrine', 'made']),
      onHandGrams: z.number(),
      generation: z.int().nullable(),
      useBy: z.string().nullable(),
      lastPh: z.number().nullable(),
      salt: saltFigure,
      refusal: z.string().nullable(),
    }),
  ),
});

const ms = z.number();
const dueCheck = z.strictObject({
  key: z.string(),
  what: z.enum(CHECK_KIND_KEYS),
  words: z.string().nullable(),
  name: z.string(),
  rule: z.string(),
  from: ms,
  due: ms,
  late: ms,
  state: z.enum(['due', 'late', 'later', 'waits']),
  missed: z.int(),
  mayBeQuiet: z.boolean(),
  why: z.string().nullable(),
});
const temperatureOf = z.strictObject({ verdict: z.enum(['met', 'open', 'watch', 'act']), words: z.string() });
const openHold = z.strictObject({
  entryId: id,
  rule: z.enum(HOLD_RULE_KEYS),
  reason: z.string(),
  placedAt: ms,
  further: z.boolean(),
  /** Whether a reviewer may end it now, and if not why. */ mayLift: z.string().nullable(),
});
/** `ph` is the last reading of any kind; `counts` the last that may make something milder. */
const trendOf = z.strictObject({
  direction: z.enum(['none', 'falling', 'steady', 'rising']),
  ph: z.number().nullable(),
  at: ms.nullable(),
  rise: z.number(),
  sample: z.enum(SAMPLES).nullable(),
  counts: z.strictObject({ ph: z.number(), at: ms }).nullable(),
});
const latenessOf = z.strictObject({
  state: z.enum(['met', 'metLate', 'pending', 'late', 'throwOut']),
  deadline: ms,
  reachedAt: ms.nullable(),
  words: z.string(),
  hours: z.number(),
  unread: z.boolean(),
});
/** A meter or strip lot, and whether its readings count for release now. */
export const meterReply = z.strictObject({
  meterId: id,
  tag: z.string(),
  name: z.string(),
  kind: z.enum(['meter', 'strips']),
  fit: z.boolean(),
  reasons: z.array(z.string()).readonly(),
  since: iso.nullable(),
  until: iso.nullable(),
  calibrations: z.array(
    z.strictObject({
      at: iso,
      by: z.string(),
      buffers: z.array(z.number()),
      slopePercent: z.number(),
      offsetMillivolts: z.number(),
      check: z.strictObject({ buffer: z.number(), read: z.number() }).nullable(),
    }),
  ),
});
export const metersReply = z.strictObject({ meters: z.array(meterReply) });

/** Every live vessel in walking order, with what it needs. */
export const floorReply = z.strictObject({
  now: iso,
  rooms: z.array(z.strictObject({ id, name: z.string(), celsius: z.number().nullable() })),
  vessels: z.array(
    shelfVessel.extend({
      batchId: id,
      checks: z.array(dueCheck).readonly(),
      holds: z.array(openHold),
      trend: trendOf,
      lateness: latenessOf,
      temperature: temperatureOf,
      ready: z.boolean(),
      readyFrom: ms,
      readyTo: ms,
      lastDay: z.int().nullable(),
      odd: z.boolean(),
    }),
  ),
  faults: z.array(unreadable),
});

/** All that is watched on one vessel: conditions, holds, sisters, pictures, plan. */
export const watchReply = z.strictObject({
  lotId: id,
  code: z.string(),
  now: iso,
  day: z.int(),
  closed: z.boolean(),
  checks: z.array(dueCheck).readonly(),
  holds: z.array(openHold),
  trend: trendOf,
  lateness: latenessOf,
  temperature: temperatureOf,
  /** Those with a key are the gate before packing. */
  conditions: z.array(
    z.strictObject({
      gate: z.enum(GATE_KEYS).nullable(),
      words: z.string(),
      state: z.enum(['met', 'open', 'watch', 'hold']),
      now: z.string(),
    }),
  ),
  /** Why it is not packed now; null when it may be. */
  packable: z.string().nullable(),
  salt: saltFigure,
  houseBand: houseBandOf,
  ready: z.boolean(),
  readyFrom: ms,
  readyTo: ms,
  lastDay: z.int().nullable(),
  mayTaste: z.string().nullable(),
  sisters: z.array(
    z.strictObject({
      code: z.string(),
      vesselTag: z.string(),
      ph: z.number().nullable(),
      at: ms.nullable(),
      counts: z.boolean(),
      celsius: z.number().nullable(),
      odd: z.boolean(),
      hold: z.boolean(),
      closed: z.boolean(),
    }),
  ),
  pictures: z.array(z.strictObject({ photo: z.string(), at: iso, day: z.int(), words: z.string() })),
  findings: z.array(
    z.strictObject({
      entryId: id,
      name: z.string(),
      place: z.string(),
      verdict: z.enum(VERDICTS),
      guide: z.enum(VERDICTS),
      reasons: z.array(z.string()),
      at: iso,
      by: z.string(),
    }),
  ),
  pastHolds: z.array(z.strictObject({ reason: z.string(), placedAt: iso, liftedAt: iso, liftReason: z.string() })),
  plan: z.array(formulaCheck).readonly(),
  /** What its state and the house’s ways ask beside the plan. */ asked: z
    .array(formulaCheck.extend({ what: z.enum(CHECK_KIND_KEYS) }))
    .readonly(),
  planSince: iso.nullable(),
  batchId: id,
  /** Salt and water that stand in it; null when nobody knows what went in. */
  waterPhase: z.strictObject({ saltGrams: z.number(), waterGrams: z.number() }).nullable(),
});

export const judgeReply = z.strictObject({
  verdict: z.enum(VERDICTS),
  reasons: z.array(z.string()).readonly(),
  todo: z.array(z.string()).readonly(),
  facts: z.record(z.string(), z.unknown()),
});
/** What a question of the house was answered with, the newest first. */
export const ruleHistoryReply = z.strictObject({
  answers: z.array(z.strictObject({ at: iso, by: z.string(), words: z.string(), reason: z.string().nullable() })),
});
export const calendarReply = z.strictObject({ made: iso.nullable() });

export const bookLine = z.strictObject({
  entryId: id,
  seq: z.int(),
  kind: z.string(),
  at: iso,
  recordedAt: iso,
  by: z.string(),
  what: z.string(),
  figure: z.string().nullable(),
  struck: z.array(z.string()),
  words: z.string().nullable(),
  /** All of it is struck out: it never happened, or belongs elsewhere. */
  struckOut: z.boolean(),
  correctable: z.boolean(),
  value: z.number().nullable(),
  sample: z.enum(SAMPLES).nullable(),
  lotCode: z.string(),
});
/** Everything that was recorded, a page of it. */
export const journalReply = z.strictObject({ lines: z.array(bookLine), next: z.string().nullable() });
/** One entry as it counts, for the form that puts it right. */
export const entryReply = z.strictObject({
  entryId: id,
  kind: z.string(),
  /** What such an entry is called. */
  what: z.string(),
  happenedAt: iso,
  recordedAt: iso,
  by: z.string(),
  body: z.record(z.string(), z.unknown()),
  /** It is said to have never happened. */
  never: z.boolean(),
  /** Why a line of this kind is not corrected, and what to do instead. */
  why: z.string().nullable(),
  ownerOnly: z.boolean(),
  /** What the ids in the body are called; `made`: the entry itself made it. */
  names: z.record(
    z.string(),
    z.strictObject({
      name: z.string(),
      made: z.boolean(),
      of: z.enum(['lot', 'vessel', 'material', 'supplier', 'room', 'meter', 'person', 'formula']),
    }),
  ),
  corrections: z.array(z.strictObject({ at: iso, by: z.string(), reason: z.string(), never: z.boolean() })),
});
/** What a correction would change, before anybody confirms it. */
export const correctionReply = z.strictObject({
  changes: z.array(z.strictObject({ code: z.string(), what: z.string(), was: z.string(), now: z.string() })),
  /** Words that would not hold any more, and are asked for anew. */
  fell: z.array(z.string()),
  /** Codes of what never was. */
  undone: z.array(z.string()),
  /** How many later entries are written anew with it. */
  anew: z.int(),
});
export const tallyReply = z.strictObject({
  inGrams: z.number(),
  outGrams: z.number(),
  lossGrams: z.number(),
  onHandGrams: z.number(),
  byDifference: z.strictObject({ sink: z.string(), grams: z.number(), mostGrams: z.number() }).nullable(),
  unexplainedGrams: z.number(),
  toleranceGrams: z.number(),
  clear: z.boolean(),
  likelySlip: z.string().nullable(),
});
export const lotReply = z.strictObject({
  lotId: id,
  code: z.string(),
  kind: z.string(),
  name: z.string(),
  origin: z.string(),
  at: iso,
  day: z.int().nullable(),
  batchCode: z.string().nullable(),
  closed: z.boolean(),
  hold: z.string().nullable(),
  vessel: z
    .strictObject({
      tag: z.string(),
      shape: z.enum(VESSEL_SHAPES),
      closure: z.enum(CLOSURES),
      brimMl: z.number(),
      maxFill: z.number(),
      room: z.string(),
      cleanedAt: iso.nullable(),
      cleanedWith: z.string().nullable(),
      usedSince: z.boolean(),
    })
    .nullable(),
  supplier: z.strictObject({ name: z.string(), lotCode: z.string() }).nullable(),
  jars: z.array(
    z.strictObject({ sizeMl: z.int(), netGrams: z.number(), first: z.string(), last: z.string(), count: z.int() }),
  ),
  relatives: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      kind: z.string(),
      name: z.string(),
      grams: z.number(),
      direction: z.enum(['in', 'out']),
    }),
  ),
  lines: z.array(bookLine),
  tally: tallyReply,
  salt: saltFigure.nullable(),
  acidLimit: z.number(),
  packable: z.string().nullable(),
  /** Of everything that went in, in time: also what came with kept brine. */
  allergens: z.array(z.strictObject({ words: z.string(), certain: z.boolean(), from: z.array(z.string()) })),
});
export const lotsReply = z.strictObject({
  lots: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      kind: z.string(),
      name: z.string(),
      at: iso,
      state: z.string(),
      lastPh: z.number().nullable(),
      lastPhAt: iso.nullable(),
      phCounts: z.boolean(),
      onHandGrams: z.number().nullable(),
      vesselTag: z.string().nullable(),
      jars: z.int().nullable(),
    }),
  ),
  next: z.string().nullable(),
});

export const packableReply = z.strictObject({
  fills: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      batchCode: z.string(),
      name: z.string(),
      vesselTag: z.string(),
      day: z.int(),
      lastPh: z.number().nullable(),
      onHandGrams: z.number(),
      inGrams: z.number(),
      refusal: z.string().nullable(),
      salt: saltFigure,
      /** The answers of the house it was made by: what is asked at packing. */ rules: z.record(z.string(), z.string()),
      jarSizes: z.array(z.strictObject({ sizeMl: z.int(), fillGrams: z.number() })),
    }),
  ),
});

export const traceNode = z.strictObject({
  lotId: id,
  code: z.string(),
  kind: z.string(),
  name: z.string(),
  column: z.int(),
  grams: z.number(),
  at: iso,
  origin: z.string(),
  supplier: z.string().nullable(),
  supplierLotCode: z.string().nullable(),
  hold: z.string().nullable(),
  detail: z.string().nullable(),
  /** Something of the lot asked about is in it. */
  forward: z.boolean(),
  closed: z.boolean(),
  onHandGrams: z.number().nullable(),
  jars: z.int().nullable(),
  /** How many lots of a large way this one stands for. */
  folded: z.int().nullable(),
});
const jarsOfRun = z.strictObject({
  lotId: id,
  run: z.string(),
  name: z.string(),
  sizeMl: z.int(),
  first: z.string(),
  last: z.string(),
  count: z.int(),
  packedAt: iso,
});
export const traceReply = z.strictObject({
  subject: z.strictObject({
    kind: z.enum(['jar', 'lot', 'supply', 'vessel']),
    code: z.string(),
    title: z.string(),
    detail: z.string(),
    lotId: id,
  }),
  direction: z.enum(['back', 'forward', 'both']),
  nodes: z.array(traceNode),
  flows: z.array(z.strictObject({ from: id, to: id, grams: z.number() })),
  jars: z.array(jarsOfRun),
  jarCount: z.int(),
  /** All lots of the way and all ranges of jars, shown or folded; what it went into and could be held now. */
  lots: z.int(),
  ranges: z.int(),
  mayHold: z.int(),
  beforeLedger: z.boolean(),
  milliseconds: z.number(),
});
/** What a fold of a large way stands for, by page. */
export const foldedReply = z.strictObject({
  nodes: z.array(traceNode),
  jars: z.array(jarsOfRun),
  many: z.int(),
  page: z.int(),
});
/** What was taken from a vessel, and what became of it. */
export const reachReply = z.strictObject({
  /** Its last reading in order; null when it has none. */
  since: z.strictObject({ at: iso, ph: z.number() }).nullable(),
  taken: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      kind: z.string(),
      name: z.string(),
      vesselTag: z.string().nullable(),
      hold: z.string().nullable(),
      closed: z.boolean(),
      jars: z.int().nullable(),
      at: iso,
      grams: z.number(),
      /** It left after that reading. */ since: z.boolean(),
    }),
  ),
});
export const codeReply = z.strictObject({
  kind: z.enum(['jar', 'lot', 'supply', 'vessel']),
  code: z.string(),
  lotId: id.nullable(),
});

export type ContentsReply = z.infer<typeof contents>;
export type SaltFigureReply = z.infer<typeof saltFigure>;
export type Recorded = z.infer<typeof recorded>;
export type EntriesReply = z.infer<typeof entriesReply>;
export type Person = z.infer<typeof person>;
export type SessionReply = z.infer<typeof sessionReply>;
export type SignInReply = z.infer<typeof signInReply>;
export type HouseReply = z.infer<typeof houseReply>;
export type ShelfVessel = z.infer<typeof shelfVessel>;
export type PeopleReply = z.infer<typeof peopleReply>;
export type VerificationReply = z.infer<typeof verificationReply>;
export type ShelfReply = z.infer<typeof shelfReply>;
export type FormulaReply = z.infer<typeof formulaReply>;
export type FormulasReply = z.infer<typeof formulasReply>;
export type Material = HouseReply['materials'][number];
export type SupplyLot = z.infer<typeof supplyLot>;
export type StockReply = z.infer<typeof stockReply>;
export type SuppliesReply = z.infer<typeof suppliesReply>;
export type MakeReply = z.infer<typeof makeReply>;
export type MakingReply = z.infer<typeof makingReply>;
export type DeviceReply = z.infer<typeof deviceReply>;
export type DeviceNote = z.infer<typeof deviceNote>;
export type DevicesReply = z.infer<typeof devicesReply>;
export type TimersReply = z.infer<typeof timersReply>;
export type StartersReply = z.infer<typeof startersReply>;
export type SheetStepReply = MakeReply['steps'][number];
export type FloorReply = z.infer<typeof floorReply>;
export type FloorVessel = FloorReply['vessels'][number];
export type WatchReply = z.infer<typeof watchReply>;
export type MeterReply = z.infer<typeof meterReply>;
export type MetersReply = z.infer<typeof metersReply>;
export type JudgeReply = z.infer<typeof judgeReply>;
export type RuleHistoryReply = z.infer<typeof ruleHistoryReply>;
export type CalendarReply = z.infer<typeof calendarReply>;
export type BookLine = z.infer<typeof bookLine>;
export type JournalReply = z.infer<typeof journalReply>;
export type EntryReply = z.infer<typeof entryReply>;
export type CorrectionReply = z.infer<typeof correctionReply>;
export type TallyReply = z.infer<typeof tallyReply>;
export type LotReply = z.infer<typeof lotReply>;
export type LotsReply = z.infer<typeof lotsReply>;
export type PackableReply = z.infer<typeof packableReply>;
export type TraceNode = z.infer<typeof traceNode>;
export type TraceReply = z.infer<typeof traceReply>;
export type FoldedReply = z.infer<typeof foldedReply>;
export type ReachReply = z.infer<typeof reachReply>;
export type CodeReply = z.infer<typeof codeReply>;

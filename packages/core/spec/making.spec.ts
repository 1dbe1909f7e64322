import fc from 'fast-check';
import {
  decideBrineUse,
  decideClose,
  decideConfirmed,
  decideDonor,
  decideUseBy,
  decideDrain,
  decideFinish,
  decideStarterAge,
  decideTick,
  labourMinutes,
  type PhPoint,
  runSheet,
  settleLines,
  STATIONS,
  type SheetInput,
  type SheetLine,
  type StepStanding,
  type TickableMaterial,
  wantsSecondPerson,
  type WorkMark,
  decideUsual,
  type UsualGrams,
  usualWords,
} from '../src/index.js';

const codeOf = (outcome: { ok: true } | { ok: false; refusal: { code: string } }): string =>
  outcome.ok ? 'accepted' : outcome.refusal.code;
const dry: SheetInput = {
  brined: false,
  heavy: false,
  form: 'shred',
  steps: [],
  hasFlavourings: false,
  hasStarter: false,
  rules: {},
  materialCautions: {},
};
const keys = (over: Partial<SheetInput> = {}): string[] => runSheet({ ...dry, ...over }).map((step) => step.key);

describe('the run sheet', () => {
  it('dry shred is inspected, weighed, salted, rested, filled, closed and labelled', () =>
    expect(keys()).toEqual(['inspect', 'weigh', 'salt', 'rest', 'clean', 'fill', 'close', 'label']));
  it('a brine comes before its salt, and nothing rests', () =>
    expect(keys({ brined: true, form: 'wholeSmall', hasFlavourings: true })).toEqual([
      'inspect',
      'weigh',
      'water',
      'salt',
      'flavour',
      'clean',
      'fill',
      'close',
      'label',
    ]));
  it('heavy salting is rested, rinsed and drained before the paste goes in', () => {
    const found = keys({ heavy: true, form: 'leaf', hasFlavourings: true });
    expect(found.indexOf('rest')).toBeLessThan(found.indexOf('rinse'));
    expect(found.indexOf('rinse')).toBeLessThan(found.indexOf('prepare'));
    expect(found.indexOf('prepare')).toBeLessThan(found.indexOf('fill'));
  });
  it('each rest of a formula is a step of its own with its minutes; the last asks whether it covers, and how this house draws the juice', () => {
    const rests = runSheet({
      ...dry,
      steps: [
        { words: 'Turn.', minutes: 30, at: 'rest' },
        { words: 'Rest to the end: by the window.', minutes: 20 },
      ],
    }).filter((step) => step.station === 'rest');
    expect(rests.map(({ key, name, minutes, checks }) => [key, name, minutes, checks.length])).toEqual([
      ['own-0', 'Turn', 30, 0],
      ['own-1', 'Rest to the end', 20, 2],
    ]);
  });
  it('words that belong to a place of the bench are said there', () =>
    expect(
      runSheet({ ...dry, steps: [{ words: 'Peel, cut the core out.', minutes: null, at: 'weigh' }] }).find(
        (step) => step.key === 'weigh',
      )!.words,
    ).toEqual(['Peel, cut the core out.']));
  it('goggles and gloves are asked for at the step where the chilli is', () => {
    const sheet = runSheet({
      ...dry,
      hasFlavourings: true,
      materialCautions: { flavour: ['Red chilli: Gloves and goggles; ventilate.'] },
    });
    expect(
      sheet.filter((step) => step.cautions.some((caution) => caution.words.includes('chilli'))).map((step) => step.key),
    ).toEqual(['flavour']);
    expect(sheet.find((step) => step.key === 'flavour')!.cautions[0]!.wear).toBeTrue();
  });
  it('filling and closing cannot be taken back', () =>
    expect(
      runSheet(dry)
        .filter((step) => step.irreversible)
        .map((step) => step.key),
    ).toEqual(['fill', 'close']));
  it('hot washing is never called sterilising', () =>
    expect(JSON.stringify(runSheet({ ...dry, rules: { sanitise: 'soap' } }))).not.toMatch(/steriliz|sterilised/));

  it('every step has a key of its own, in the order of work', () => {
    const worded = fc.record({
      words: fc.string({ minLength: 1, maxLength: 90 }),
      minutes: fc.option(fc.integer({ min: 1, max: 600 }), { nil: null }),
      at: fc.option(fc.constantFrom(...STATIONS), { nil: null }),
    });
    fc.assert(
      fc.property(fc.array(worded, { maxLength: 60 }), fc.boolean(), fc.boolean(), (steps, brined, heavy) => {
        const sheet = runSheet({ ...dry, steps, brined, heavy });
        expect(new Set(sheet.map((step) => step.key)).size).toBe(sheet.length);
        const order = sheet.map((step) => STATIONS.indexOf(step.station));
        expect(order).toEqual([...order].sort((a, b) => a - b));
      }),
    );
  });
});

describe('formula lines on the run sheet', () => {
  const planned = [
    { key: 'line-0', materialId: 'pepper', name: 'Pepper', grams: 20 },
    { key: 'line-1', materialId: 'salt', name: 'Firming salt', grams: 2 },
    { key: 'line-2', materialId: 'pepper', name: 'Pepper', grams: 5 },
  ];
  it('a weighed line is settled, whatever was said before', () => {
    const [first] = settleLines({
      planned,
      weighed: [{ line: 'line-0', materialId: 'pepper', grams: 21 }],
      marks: { 'line-0': { how: 'leftOut', reason: 'none in the house' } },
    });
    expect([first!.state, first!.inGrams, first!.reason]).toEqual(['weighed', 21, null]);
  });
  it('of a material that stands in two lines, a portion settles the one it names', () =>
    expect(
      settleLines({ planned, weighed: [{ line: 'line-2', materialId: 'pepper', grams: 5 }], marks: {} }).map(
        (line) => line.state,
      ),
    ).toEqual(['open', 'open', 'weighed']));
  it('a portion that names no line settles the only one of its material', () =>
    expect(settleLines({ planned, weighed: [{ line: null, materialId: 'salt', grams: 2 }], marks: {} })[1]!.state).toBe(
      'weighed',
    ));
  it('left out keeps its reason', () =>
    expect(
      settleLines({ planned, weighed: [], marks: { 'line-1': { how: 'leftOut', reason: 'soft enough' } } })[1],
    ).toEqual(jasmine.objectContaining({ state: 'leftOut', reason: 'soft enough' })));
});

describe('what usually goes in of a line', () => {
  const usual = { least: 20, most: 35 };
  const asked = (inGrams: number, grams: number, reason: string | null = null, of = usual as UsualGrams | null) => {
    const found = decideUsual({ name: 'Ginger', usual: of, inGrams, grams, reason });
    return found.ok ? null : found.refusal.code;
  };
  it('more is asked about with all that is in, and goes in with a reason; less is never refused', () => {
    expect([asked(0, 35), asked(30, 5), asked(0, 35.1)]).toEqual([null, null, null]);
    expect([asked(0, 36), asked(30, 6), asked(0, 350)]).toEqual(['line.unusual', 'line.unusual', 'line.unusual']);
    expect([asked(0, 350, 'for the hot one'), asked(0, 350, '  ')]).toEqual([null, 'line.unusual']);
    expect([asked(0, 1), asked(0, 900, null, null), asked(0, 900, null, { least: 20, most: null })]).toEqual([
      null,
      null,
      null,
    ]);
    expect([usualWords(usual), usualWords({ least: null, most: 35 }), usualWords({ least: 20, most: null })]).toEqual([
      '20 g to 35 g',
      '35 g at most',
      '20 g or more',
    ]);
  });
});

describe('closing a batch', () => {
  const line = (state: SheetLine['state']): SheetLine => ({
    key: 'line-0',
    materialId: 'p',
    name: 'Black pepper',
    plannedGrams: 20,
    inGrams: 0,
    state,
    reason: null,
    mayTick: false,
    usual: null,
  });
  const step = (state: StepStanding['state']): StepStanding => ({ key: 'label', name: 'Label before the lid', state });
  const close = (over: Partial<Parameters<typeof decideClose>[0]> = {}) =>
    decideClose({
      code: 'NY26-327-A',
      lines: [line('weighed')],
      steps: [step('done')],
      fills: 1,
      inBowlsGrams: 12,
      producedGrams: 7200,
      unanswered: [],
      ...over,
    });
  it('everything settled: closed', () => expect(codeOf(close())).toBe('accepted'));
  it('a line nobody settled is named', () => {
    const outcome = close({ lines: [line('open')] });
    expect(codeOf(outcome)).toBe('making.linesOpen');
    expect(!outcome.ok && outcome.refusal.message).toContain('Black pepper');
  });
  it('a line left out with its reason is settled', () =>
    expect(codeOf(close({ lines: [line('leftOut')] }))).toBe('accepted'));
  it('a step nobody did or skipped is named', () =>
    expect(codeOf(close({ steps: [step('begun')] }))).toBe('making.stepsOpen'));
  it('a skipped step is enough', () => expect(codeOf(close({ steps: [step('skipped')] }))).toBe('accepted'));
  it('400 g in the bowls is not a residue', () =>
    expect(codeOf(close({ inBowlsGrams: 400 }))).toBe('making.bowlsNotEmpty'));
  it('left-over brine asks its question first', () =>
    expect(codeOf(close({ unanswered: ['NY26-327-A-b1'] }))).toBe('brine.unanswered'));
  it('with nothing filled there is nothing to close', () =>
    expect(codeOf(close({ fills: 0 }))).toBe('making.nothingFilled'));
  it('an unticked question before an irreversible step wants a reason, and is kept by its words', () => {
    const asked = {
      name: 'Fill vessels',
      irreversible: true,
      checks: [{ key: 'cooled', words: 'The brine is at 30 °C or lower' }],
    };
    expect(codeOf(decideFinish({ ...asked, checked: [], note: null }))).toBe('making.unchecked');
    expect(decideFinish({ ...asked, checked: [], note: 'thermometer broken, cold to the hand' })).toEqual({
      ok: true,
      value: { unchecked: ['The brine is at 30 °C or lower'] },
    });
    expect(codeOf(decideFinish({ ...asked, checked: ['cooled'], note: null }))).toBe('accepted');
  });
});

describe('labour minutes', () => {
  const mark = (what: WorkMark['what'], by: string, minute: number, minutes: number | null = null): WorkMark => ({
    step: 'salt',
    by,
    what,
    at: minute * 60_000,
    minutes,
  });
  it('two people at a step count both', () =>
    expect(labourMinutes([mark('begin', 'i', 0), mark('begin', 't', 5), mark('finish', 'i', 15)]).get('salt')).toBe(
      25,
    ));
  it('a typed figure stands in place of the clock', () =>
    expect(labourMinutes([mark('begin', 'i', 0), mark('finish', 'i', 240, 12)]).get('salt')).toBe(12));
  it('finished without a beginning is not guessed', () =>
    expect(labourMinutes([mark('finish', 'i', 15)]).has('salt')).toBeFalse());
  it('skipped is no labour', () =>
    expect(labourMinutes([mark('begin', 'i', 0), mark('skip', 'i', 15)]).has('salt')).toBeFalse());
});

describe('kept brine', () => {
  const read = (ph: number): PhPoint => ({ at: 1, ph, sample: 'blended' as const, fit: true });
  const donor = { code: 'NY26-300-A-D1', onHold: null, points: [read(3.6)], generation: 1 };
  const give = (over: Partial<typeof donor> = {}, mostGenerations = 5) =>
    codeOf(decideDonor({ donor: { ...donor, ...over }, acidLimit: 4.2, mostGenerations }));
  it('of a vessel at its limit it is one generation further', () =>
    expect(decideDonor({ donor, acidLimit: 4.2, mostGenerations: 5 })).toEqual({ ok: true, value: { generation: 2 } }));
  it('a donor on hold gives nothing', () => expect(give({ onHold: 'film' as never })).toBe('lot.onHold'));
  it('nor one above the limit, nor one nobody has read', () =>
    expect([give({ points: [read(4.4)] }), give({ points: [] })]).toEqual(['pack.phAboveLimit', 'pack.noPh']));
  it('nor one read by a strip, in its brine, or before something was poured in', () =>
    expect(
      [{ fit: false }, { sample: 'brine' as const }, { beforeMixture: true }].map((over) =>
        give({ points: [{ ...read(3.6), ...over }] }),
      ),
    ).toEqual(['pack.noPh', 'pack.noPh', 'pack.noPh']));
  it('nor one that was read higher since, in doubt or not', () =>
    expect(give({ points: [read(3.6), { ...read(5), at: 2, doubtful: true }] })).toBe('pack.phAboveLimit'));
  it('a last day typed for kept brine is held to the days of the house', () => {
    const day = (typed: string | null) => {
      const out = decideUseBy({ typed, latest: '2026-12-25', days: 30 });
      return out.ok ? out.value : out.refusal.code;
    };
    expect([day(null), day('2026-12-01'), day('2027-06-01')]).toEqual(['2026-12-25', '2026-12-01', 'starter.useBy']);
  });
  it('the house says how many generations', () => expect(give({ generation: 5 })).toBe('starter.generation'));
  it('on its last day it is used, the day after not', () =>
    expect(
      [
        decideStarterAge({ code: 'b', useBy: '2026-11-23', today: '2026-11-23' }),
        decideStarterAge({ code: 'b', useBy: '2026-11-22', today: '2026-11-23' }),
      ].map(codeOf),
    ).toEqual(['accepted', 'starter.expired']));
  it('left-over brine without its answer stays with its batch', () =>
    expect(
      [
        decideBrineUse({ code: 'b', touched: null, sameBatch: true }),
        decideBrineUse({ code: 'b', touched: null, sameBatch: false }),
        decideBrineUse({ code: 'b', touched: 'never', sameBatch: false }),
      ].map(codeOf),
    ).toEqual(['accepted', 'brine.unanswered', 'accepted']));
});

describe('draining a leaf', () => {
  const drain = (drainedGrams: number, reason: string | null = null) =>
    decideDrain({ leafGrams: 6000, inBowlsGrams: 6480, drainedGrams, reason });
  it('a fifth lost is what leaves do: the rest went with the water', () => {
    const outcome = drain(4800);
    expect(outcome.ok && [outcome.value.rinsedGrams, Math.round(outcome.value.lossFraction * 100)]).toEqual([1680, 20]);
  });
  it('half of it gone is not closed by subtraction', () => expect(codeOf(drain(3000))).toBe('leaf.lossOutsideRange'));
  it('nothing gone is a leaf not drained', () => expect(codeOf(drain(5990))).toBe('leaf.lossOutsideRange'));
  it('with what happened written down it goes on', () => expect(codeOf(drain(3000, 'one bowl fell'))).toBe('accepted'));
  it('more than was there is refused', () => expect(codeOf(drain(7000))).toBe('lot.overdrawn'));
});

describe('a second pair of eyes on the salt', () => {
  it('is asked for where the rule says so and there is one: who works alone is not locked out', () =>
    expect([
      wantsSecondPerson({ rule: 'yes', people: 3 }),
      wantsSecondPerson({ rule: 'yes', people: 1 }),
      wantsSecondPerson({ rule: 'no', people: 3 }),
      wantsSecondPerson({ rule: undefined, people: 3 }),
    ]).toEqual([true, false, false, false]));
  it('comes before filling', () =>
    expect(
      [
        decideConfirmed({ wanted: true, confirmed: false }),
        decideConfirmed({ wanted: true, confirmed: true }),
        decideConfirmed({ wanted: false, confirmed: false }),
      ].map(codeOf),
    ).toEqual(['salt.notConfirmed', 'accepted', 'accepted']));
});

describe('in, not weighed', () => {
  const tick = (material: Partial<TickableMaterial>, more: Partial<Parameters<typeof decideTick>[0]> = {}): string => {
    const outcome = decideTick({
      name: 'Dill',
      material: { kind: 'flavouring', allergens: [], ...material },
      plannedGrams: 12,
      knowsLot: true,
      note: null,
      ...more,
    });
    return outcome.ok ? String(outcome.value.grams) : outcome.refusal.code;
  };
  it('never a starter, salt, an allergen, what may contain one, or anything of animal origin', () => {
    expect([
      tick({ kind: 'starter' }),
      tick({ kind: 'salt' }),
      tick({ allergens: ['mustard'] }),
      tick({ mayContain: ['nuts'] }),
      tick({ diet: ['fish'] }),
      tick({ diet: ['honey'] }),
      tick({ diet: ['contains fish'] }),
    ]).toEqual(Array(7).fill('line.alwaysWeighed'));
    expect([tick({}), tick({ diet: ['vegan'] })]).toEqual(['12', '12']);
  });
  it('of its lot, or with a word why nobody knows it', () =>
    expect([
      tick({}, { knowsLot: false }),
      tick({}, { knowsLot: false, note: ' ' }),
      tick({}, { knowsLot: false, note: 'unlabelled' }),
    ]).toEqual(['line.lotUnknown', 'line.lotUnknown', '12']));
  it('by its planned mass, or about how much', () =>
    expect([
      tick({}, { grams: 5 }),
      tick({}, { plannedGrams: null }),
      tick({}, { plannedGrams: null, grams: 3 }),
      tick({}, { grams: -1 }),
      tick({}, { grams: NaN }),
    ]).toEqual(['5', 'mass.notPositive', '3', 'mass.notPositive', 'mass.notPositive']));
  it('a step left open wants words, whatever is ticked', () => {
    const step = { name: 'Salt', irreversible: false, checks: [], checked: [] };
    expect([
      decideFinish({ ...step, note: null, open: '0 of 460 g' }).ok,
      decideFinish({ ...step, note: '  ', open: '0 of 460 g' }).ok,
      decideFinish({ ...step, note: 'scale broke', open: '0 of 460 g' }).ok,
      decideFinish({ ...step, note: null, open: null }).ok,
    ]).toEqual([false, false, true, true]);
  });
});

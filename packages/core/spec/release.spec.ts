import fc from 'fast-check';
import {
  countOf,
  decideRelease,
  type GateRow,
  type JarAt,
  type JarMove,
  jarsStanding,
  RELEASE_KEYS,
  releaseAhead,
  releaseConditions,
  type ReleaseInput,
  type ReleaseKey,
  runChecksDue,
  stretchesOf,
  takeJars,
} from '../src/index.js';

const DAY = 86_400_000;
const PACKED = Date.parse('2026-11-02T10:00:00Z');
const gateRow = (key: GateRow['key'], broken: boolean): GateRow => ({
  key,
  words: key,
  state: broken ? 'open' : 'met',
  now: broken ? 'not so' : '3.70 and 3.68',
  refusal: broken ? { code: 'pack.twoReadings', message: 'read it' } : null,
});
const gate = (broken: readonly string[] = []): GateRow[] =>
  (['pair', 'acid', 'rising'] as const).map((key) => gateRow(key, broken.includes(key)));
const ph = (days: number, value: number, more: object = {}) =>
  ({ at: PACKED + days * DAY, ph: value, sample: 'blended', fit: true, ...more }) as ReleaseInput['phs'][number];

const gas = (days: number, says: ReleaseInput['gas'][number]['says']) => ({ at: PACKED + days * DAY, says });

/** A run that lacks nothing: packed by Ines, reviewed by Odile. */
const good: ReleaseInput = {
  now: PACKED + 10 * DAY,
  packedAt: PACKED,
  acidLimit: 4.2,
  vessels: [{ code: 'D1', gate: gate(), missed: [] }],
  beforeLedger: false,
  holds: [],
  salt: { met: true, words: '321 of 321 g' },
  brine: 'own',
  readItself: false,
  coolAllowed: true,
  restarts: [],
  closing: { later: false, done: false },
  storage: 'cold',
  phs: [],
  gas: [],
  heat: { onFile: false, jars: {} },
  labelLacks: [],
  tally: { clear: true, unexplainedGrams: 0, toleranceGrams: 50 },
  packedBy: ['ines'],
  reviewer: { id: 'odile', isReviewer: true },
  rule: 'second',
  nightsSince: 10,
  excuses: {},
};
const open = (input: ReleaseInput): ReleaseKey[] =>
  releaseConditions(input)
    .filter(({ state }) => state === 'open')
    .map(({ key }) => key);
const answer = (input: ReleaseInput) => decideRelease(releaseConditions(input));

describe('the same list before anything is packed', () => {
  const ahead = (change: object = {}) => releaseAhead({ ...good, ...change });
  const keys = (state: string, change: object = {}) =>
    ahead(change).flatMap((one) => (one.state === state ? [one.key] : []));
  it('has every condition once, in its order; what packing brings is seen later', () => {
    expect(ahead().map(({ key }) => key)).toEqual([...RELEASE_KEYS]);
    expect(keys('later')).toEqual(['equilibrium', 'closed', 'heat', 'gas', 'tally', 'review']);
    expect(keys('open')).toEqual([]);
  });
  const broken: [ReleaseKey, object][] = [
    ['readings', { vessels: [{ code: 'D1', gate: gate(['pair']), missed: [] }] }],
    ['acid', { vessels: [{ code: 'D1', gate: gate(['acid']), missed: [] }] }],
    ['rising', { vessels: [{ code: 'D1', gate: gate(['rising']), missed: [] }] }],
    ['holds', { holds: [{ code: 'D1', reason: 'late' }] }],
    ['salt', { salt: { met: false, words: '200 of 321 g' } }],
    ['checks', { vessels: [{ code: 'D1', gate: gate(), missed: ['taste'] }] }],
    ['label', { labelLacks: ['Mustard, yes or no?'] }],
  ];
  for (const [key, change] of broken)
    it(`${key} is open here as it is at a release`, () => {
      expect(keys('open', change)).toEqual([key]);
      expect(open({ ...good, ...change })).toEqual([key]);
    });
});

describe('release: every condition, each alone', () => {
  it('a run that lacks nothing is released', () => {
    expect(open(good)).toEqual([]);
    expect(answer(good).ok).toBeTrue();
    expect(releaseConditions(good).map(({ key }) => key)).toEqual([...RELEASE_KEYS]);
  });
  const broken: [string, Partial<ReleaseInput>, ReleaseKey][] = [
    ['brine-only readings of its vessel', { vessels: [{ code: 'D1', gate: gate(['pair']), missed: [] }] }, 'readings'],
    ['a jar above the limit', { phs: [ph(3, 4.35)] }, 'readings'],
    ['acid that came too late', { vessels: [{ code: 'D1', gate: gate(['acid']), missed: [] }] }, 'acid'],
    ['acid that is eaten', { vessels: [{ code: 'D1', gate: gate(['rising']), missed: [] }] }, 'rising'],
    ['a hold on the pepper in it', { holds: [{ code: 'LM-0004', reason: 'recalled' }] }, 'holds'],
    ['salt beyond its tolerance', { salt: { met: false, words: '342 of 321 g' } }, 'salt'],
    ['a check never made', { vessels: [{ code: 'D1', gate: gate(), missed: ['level'] }] }, 'checks'],
    ['fresh brine and no reading', { brine: 'fresh' }, 'equilibrium'],
    ['fresh brine, read too early', { brine: 'fresh', phs: [ph(0.9, 3.9)] }, 'equilibrium'],
    ['boiled brine, read with strips', { brine: 'boiled', phs: [ph(2, 3.9, { fit: false })] }, 'equilibrium'],
    ['boiled brine, brine read alone', { brine: 'boiled', phs: [ph(2, 3.9, { sample: 'brine' })] }, 'equilibrium'],
    ['nobody said what was poured over it', { brine: null }, 'equilibrium'],
    ['nobody said where it is kept', { storage: null, gas: [{ at: PACKED + 8 * DAY, says: 'quiet' }] }, 'heat'],
    ['a strip above the limit, read in a jar', { phs: [ph(3, 4.4, { fit: false })] }, 'readings'],
    ['ambient without a process', { storage: 'ambient', gas: [{ at: PACKED + 8 * DAY, says: 'quiet' }] }, 'heat'],
    [
      'ambient, its heat a minute short',
      {
        storage: 'ambient',
        heat: { onFile: true, jars: { notMet: 12 } },
        gas: [{ at: PACKED + 8 * DAY, says: 'quiet' }],
      },
      'heat',
    ],
    [
      'ambient, two jars never heated',
      {
        storage: 'ambient',
        heat: { onFile: true, jars: { met: 10, unheated: 2 } },
        gas: [{ at: PACKED + 8 * DAY, says: 'quiet' }],
      },
      'heat',
    ],
    [
      'ambient, seals not looked at yet',
      {
        storage: 'ambient',
        heat: { onFile: true, jars: { missing: 12 } },
        gas: [{ at: PACKED + 8 * DAY, says: 'quiet' }],
      },
      'heat',
    ],
    ['bottles that settle, and are not levelled', { closing: { later: true, done: false } }, 'closed'],
    ['sugar after fermentation, no jar opened in its days', { restarts: ['Honey'], now: PACKED + 15 * DAY }, 'gas'],
    ['finished as a sauce, no jar read after a day', { brine: 'mixed' }, 'equilibrium'],
    ['in the cellar, no jar opened', { storage: 'cellar' }, 'gas'],
    ['in the cellar, opened on day two', { storage: 'cellar', gas: [{ at: PACKED + 2 * DAY, says: 'quiet' }] }, 'gas'],
    ['in the cellar, lively', { storage: 'cellar', gas: [{ at: PACKED + 8 * DAY, says: 'lively' }] }, 'gas'],
    ['cold, one gushed', { gas: [{ at: PACKED + 8 * DAY, says: 'gushes' }] }, 'gas'],
    ...(
      [
        ['cold, one gushed, and one was quiet the next day', 'cold', [gas(8, 'gushes'), gas(9, 'quiet')]],
        ['the same, given newest first', 'cold', [gas(9, 'quiet'), gas(8, 'gushes')]],
        ['cool, lively, and two hours later quiet', 'cellar', [gas(8, 'lively'), gas(8 + 2 / 24, 'quiet')]],
        ['cool, quiet, and then a slight hiss', 'cellar', [gas(7.5, 'quiet'), gas(9.6, 'slight')]],
        [
          'cool, a slight hiss, and quiet a minute under two days later',
          'cellar',
          [gas(7.5, 'slight'), gas(9.499, 'quiet')],
        ],
        ['two jars of one moment, one of them lively', 'cellar', [gas(8, 'lively'), gas(8, 'quiet')]],
      ] as [string, 'cold' | 'cellar', ReleaseInput['gas']][]
    ).map(([what, storage, seen]): [string, object, ReleaseKey] => [what, { storage, gas: seen }, 'gas']),
    [
      'cool, and no rule lets it stand there',
      { storage: 'cellar', coolAllowed: false, gas: [gas(8, 'quiet')] },
      'heat',
    ],
    ['repacked, one jar read', { brine: 'mixed', phs: [ph(1.1, 3.9)] }, 'equilibrium'],
    ['fresh brine, two jars read on one day', { brine: 'fresh', phs: [ph(1.1, 3.9), ph(1.6, 3.9)] }, 'equilibrium'],
    [
      'fresh brine, two jars, the first within a day of packing',
      { brine: 'fresh', phs: [ph(0.5, 3.9), ph(1.6, 3.9)] },
      'equilibrium',
    ],
    ['an allergen nobody decided', { labelLacks: ['mustard of Nigella'] }, 'label'],
    ['600 g unexplained', { tally: { clear: false, unexplainedGrams: 600, toleranceGrams: 50 } }, 'tally'],
    ['the packer under the second-person rule', { reviewer: { id: 'ines', isReviewer: true } }, 'review'],
    ['the only reviewer, who packed it', { reviewer: { id: 'ines', isReviewer: true, isOnlyOne: true } }, 'review'],
    ['a maker', { reviewer: { id: 'tomasz', isReviewer: false } }, 'review'],
    [
      'a house of one on the day of packing',
      { rule: 'night', nightsSince: 0, reviewer: { id: 'ines', isReviewer: true } },
      'review',
    ],
  ];
  it('whoever packed it and reviews alone is told what a house of one can do, not to ask somebody else', () => {
    const way = (isOnlyOne: boolean) =>
      releaseConditions({ ...good, reviewer: { id: 'ines', isReviewer: true, isOnlyOne } }).find(
        ({ key }) => key === 'review',
      )!.wayOn;
    expect(way(false)).toBe('Another reviewer of the house signs it.');
    expect(way(true)).toContain('from the next day on');
  });
  for (const [what, change, key] of broken)
    it(`${what}: refused, by its name, with a way on`, () => {
      const input = { ...good, ...change };
      expect(open(input)).toEqual([key]);
      const said = answer(input);
      expect(said.ok ? null : [said.refusal.code, said.refusal.field]).toEqual(['release.open', key]);
      expect(releaseConditions(input).find((one) => one.key === key)!.wayOn).not.toBeNull();
    });
  const allowed: [string, Partial<ReleaseInput>][] = [
    [
      'a missed check, excused in writing',
      { vessels: [{ code: 'D1', gate: gate(), missed: ['level'] }], excuses: { checks: 'seen by eye' } },
    ],
    ['fresh brine, even a day later at 3.9 twice', { brine: 'fresh', phs: [ph(1.1, 3.9), ph(2.2, 3.92)] }],
    ['cool, lively, and quiet two days later', { storage: 'cellar', gas: [gas(9.5, 'quiet'), gas(7.5, 'lively')] }],
    ['cold, one gushed, and two days later one was quiet', { gas: [gas(7, 'gushes'), gas(9, 'quiet')] }],
    ['levelled and closed', { closing: { later: true, done: true } }],
    ['sugar after fermentation, cold, its days still to come', { restarts: ['Honey'] }],
    ['a sauce read twice before, even a day later at 3.9', { brine: 'mixed', readItself: true, phs: [ph(1.1, 3.9)] }],
    ['in the cellar, quiet after a week', { storage: 'cellar', gas: [{ at: PACKED + 8 * DAY, says: 'quiet' }] }],
    ['lively, and kept cold only', { gas: [{ at: PACKED + 8 * DAY, says: 'lively' }] }],
    [
      'ambient, its heat met, and two of its jars held',
      {
        storage: 'ambient',
        heat: { onFile: true, jars: { met: 10, notMet: 1, notTight: 1 } },
        gas: [{ at: PACKED + 8 * DAY, says: 'quiet' }],
      },
    ],
    ['a house of one, a night later', { rule: 'night', nightsSince: 1, reviewer: { id: 'ines', isReviewer: true } }],
  ];
  for (const [what, change] of allowed) it(`${what}: released`, () => expect(open({ ...good, ...change })).toEqual([]));
  it('of what stood there before the ledger nothing is taken as met that nobody knows', () => {
    const old: ReleaseInput = {
      ...good,
      beforeLedger: true,
      vessels: [],
      brine: null,
      salt: { met: false, words: 'not known' },
      labelLacks: ['not known'],
    };
    expect(open(old)).toEqual(['readings', 'acid', 'rising', 'salt', 'checks', 'equilibrium', 'label']);
    const read = { ...old, phs: [ph(8, 3.8), ph(9.2, 3.82)] };
    expect(open(read)).toEqual(['salt', 'checks', 'label']);
    expect(open({ ...read, excuses: { salt: 'x', checks: 'y', label: 'z' } })).toEqual([]);
    expect(open({ ...old, phs: [ph(8, 3.8), ph(8.1, 3.8)] })).toContain('readings');
    // What the ledger could know is not excused.
    expect(open({ ...good, salt: { met: false, words: '' }, excuses: { salt: 'x' } })).toEqual(['salt']);
  });
  it('pH, deadline and heat are never excused, whatever is written', () => {
    const input: ReleaseInput = {
      ...good,
      vessels: [{ code: 'D1', gate: gate(['pair', 'acid']), missed: [] }],
      storage: 'ambient',
      gas: [{ at: PACKED + 8 * DAY, says: 'quiet' }],
      excuses: Object.fromEntries(RELEASE_KEYS.map((key) => [key, 'never mind'])),
    };
    expect(open(input)).toEqual(['readings', 'acid', 'heat']);
  });
  it('300 runs with any few conditions broken are refused for exactly these; 300 without are released', () => {
    const quiet: ReleaseInput = { ...good, gas: [{ at: PACKED + 8 * DAY, says: 'quiet' }] };
    const ofVessel =
      (broken: string | null, missed: string[]) =>
      (input: ReleaseInput): ReleaseInput => ({
        ...input,
        vessels: input.vessels.map((one) => ({
          ...one,
          gate: one.gate.map((row) => (row.key === broken ? gateRow(row.key, true) : row)),
          missed: [...one.missed, ...missed],
        })),
      });
    const more =
      (change: Partial<ReleaseInput>) =>
      (input: ReleaseInput): ReleaseInput => ({ ...input, ...change });
    const each: Record<ReleaseKey, (input: ReleaseInput) => ReleaseInput> = {
      readings: ofVessel('pair', []),
      acid: ofVessel('acid', []),
      rising: ofVessel('rising', []),
      checks: ofVessel(null, ['level']),
      holds: more({ holds: [{ code: 'X', reason: 'r' }] }),
      salt: more({ salt: { met: false, words: '' } }),
      equilibrium: more({ brine: 'fresh' }),
      closed: more({ closing: { later: true, done: false } }),
      heat: more({ storage: 'ambient' }),
      gas: more({ gas: [{ at: PACKED + 8 * DAY, says: 'gushes' }] }),
      label: more({ labelLacks: ['x'] }),
      tally: more({ tally: { clear: false, unexplainedGrams: -600, toleranceGrams: 50 } }),
      review: more({ reviewer: { id: 'ines', isReviewer: true } }),
    };
    const wide = (none: boolean) =>
      fc.property(fc.subarray([...RELEASE_KEYS], none ? { maxLength: 0 } : { minLength: 1 }), (keys: ReleaseKey[]) => {
        const input = keys.reduce((all, key) => each[key](all), quiet);
        expect(open(input)).toEqual(RELEASE_KEYS.filter((key) => keys.includes(key)));
        return answer(input).ok === (keys.length === 0);
      });
    for (const key of RELEASE_KEYS) expect(open(each[key](quiet))).toEqual([key]);
    fc.assert(wide(false), { numRuns: 300 });
    fc.assert(wide(true), { numRuns: 300 });
  });
});

describe('what a packed run is looked at for', () => {
  const due = (days: number, run: object, made: Parameters<typeof runChecksDue>[0]['made'] = []) =>
    runChecksDue({
      run: { packedAt: PACKED, storage: 'cold', mixed: false, ...run },
      made,
      now: PACKED + days * DAY,
    })
      .filter(({ state }) => state !== 'later')
      .map(({ what, state }) => `${what} ${state}`);
  const made = (what: 'gas' | 'level' | 'ph', days: number) => ({ what, at: PACKED + days * DAY, says: null });
  const table: [string, string[], string[]][] = [
    ['after an hour nothing', due(0.05, {}), []],
    ['after a day its level', due(1.2, {}), ['level due']],
    ['with fresh brine its pH too', due(1.2, { mixed: true }), ['level due', 'ph due']],
    ['read too early, its pH again', due(1.2, { mixed: true }, [made('ph', 0.5), made('level', 1)]), ['ph due']],
    ['after a week its gas', due(8, {}, [made('level', 1)]), ['gas due']],
    ['after two weeks late', due(15, {}, [made('level', 1)]), ['gas late']],
    ['cold and quiet: nothing more', due(60, {}, [made('level', 1), made('gas', 8)]), []],
    [
      'in the cellar again from day 14',
      due(15, { storage: 'cellar' }, [made('level', 1), made('gas', 8)]),
      ['gas due'],
    ],
    ['then every two weeks', due(28.9, { storage: 'cellar' }, [made('level', 1), made('gas', 15)]), []],
    ['and on day 29', due(29.1, { storage: 'cellar' }, [made('level', 1), made('gas', 15)]), ['gas due']],
    ['warm every 20 days', due(34, { storage: 'ambient' }, [made('level', 1), made('gas', 15)]), []],
    [
      'and on day 35',
      due(35.1, { storage: 'ambient' }, [made('gas', 15), made('gas', 8), made('level', 1)]),
      ['gas due'],
    ],
  ];
  for (const [what, found, wanted] of table) it(what, () => expect(found).toEqual(wanted));
});

describe('where jars are', () => {
  const places: JarAt[] = [
    { kind: 'house', roomId: 'cold' },
    { kind: 'house', roomId: 'van' },
    { kind: 'customer', customerId: 'ladle', dispatchId: 'd1' },
    { kind: 'gone', how: 'broken' },
  ];
  const anyMove = fc
    .record({
      a: fc.integer({ min: 1, max: 40 }),
      b: fc.integer({ min: 1, max: 40 }),
      at: fc.integer({ min: 0, max: 6 }),
      order: fc.integer({ min: 0, max: 1000 }),
      to: fc.constantFrom(...places),
    })
    .map(({ a, b, ...more }): JarMove => ({ ...more, first: Math.min(a, b), last: Math.max(a, b) }));

  it('stretch by stretch is what it is jar by jar', () =>
    fc.assert(
      fc.property(fc.uniqueArray(anyMove, { selector: ({ order }) => order, maxLength: 12 }), (moves) => {
        const range = { first: 5, last: 33 };
        const found = jarsStanding(range, moves);
        // Jar by jar: the last move that named it.
        for (let jar = range.first; jar <= range.last; jar += 1) {
          let last: JarMove | null = null;
          for (const move of moves)
            if (move.first <= jar && jar <= move.last)
              if (!last || move.at > last.at || (move.at === last.at && move.order > last.order)) last = move;
          const segment = found.filter(({ first, last: end }) => first <= jar && jar <= end);
          expect(segment.length).toBe(1);
          expect(segment[0]!.where).toEqual(last?.to ?? { kind: 'house', roomId: null });
        }
        expect(found.reduce((sum, one) => sum + countOf(one), 0)).toBe(29);
      }),
    ));
  it('serials come together in stretches, and are taken off the front', () => {
    expect(stretchesOf([7, 2, 3, 1, 3])).toEqual([
      { first: 1, last: 3 },
      { first: 7, last: 7 },
    ]);
    const stock = [
      { first: 20, last: 25 },
      { first: 3, last: 5 },
    ];
    expect(takeJars(stock, 5)).toEqual([
      { first: 3, last: 5 },
      { first: 20, last: 21 },
    ]);
    expect(takeJars(stock, 99).reduce((sum, one) => sum + countOf(one), 0)).toBe(9);
  });
});

import {
  askedPlan,
  clockOf,
  counting,
  decidePackable,
  effectsOf,
  freshHours,
  houseBandSays,
  mixedAt,
  packingGate,
  phStanding,
  usualChecks,
  type GateInput,
  type PhPoint,
} from '../src/index.js';

const HOUR = 3_600_000;
const ph = (hours: number, value: number, over: Partial<PhPoint> = {}): PhPoint => ({
  at: hours * HOUR,
  ph: value,
  sample: 'blended',
  fit: true,
  ...over,
});
const good = [ph(480, 3.7), ph(504, 3.72)];
const vessel = (over: Partial<GateInput> = {}): GateInput => ({
  code: 'NY26-300-A-C2',
  closed: false,
  onHold: null,
  points: good,
  acidLimit: 4.2,
  lateness: { state: 'met', words: '4.6 within 5 days', reachedAt: 90 * HOUR, deadline: 120 * HOUR, unread: false },
  latenessLifted: false,
  beforeLedger: false,
  filledAt: 0,
  now: 510 * HOUR,
  freshHours: 168,
  ...over,
});
const why = (over: Partial<GateInput> = {}): string => {
  const out = decidePackable(vessel(over));
  return out.ok ? 'packs' : out.refusal.code;
};

describe('the gate before packing', () => {
  it('two blended readings a day apart, in time, no rise, no hold: it packs', () => expect(why()).toBe('packs'));
  it('is one list: what it shows as met is what it lets through', () => {
    const cases: Partial<GateInput>[] = [
      {},
      { points: [] },
      { points: [ph(480, 3.7)] },
      { points: [ph(480, 3.7), ph(504, 3.72), ph(505, 4.5, { sample: 'brine' })] },
      { onHold: 'film' },
      { closed: true },
      { points: [ph(100, 3.4), ph(480, 3.8), ph(504, 3.8)] },
      { lateness: { ...vessel().lateness, state: 'metLate' } },
      { now: 900 * HOUR },
    ];
    for (const over of cases) {
      const rows = packingGate(vessel(over));
      expect(why(over) === 'packs')
        .withContext(JSON.stringify(over))
        .toBe(rows.every(({ refusal }) => refusal === null));
      expect(
        rows.every(
          ({ key, state, refusal }) =>
            (state === 'met') === (refusal === null) || (key === 'rising' && state !== 'hold'),
        ),
      ).toBeTrue();
      expect(new Set(rows.map(({ key }) => key)).size).toBe(rows.length);
    }
  });
  it('a strip, a brine, an unfit meter or a doubtful reading opens nothing', () => {
    for (const over of [{ sample: 'brine' as const }, { fit: false }, { doubtful: true }])
      expect(why({ points: [ph(480, 3.7), ph(504, 3.7, over)] })).toBe('pack.twoReadings');
  });
  it('4.59 blended is above 4.2, whatever a brine-only 4.10 says afterwards', () =>
    expect(why({ points: [ph(480, 4.59), ph(500, 4.1, { sample: 'brine', fit: false })] })).toBe('pack.phAboveLimit'));
  it('900 g of a young batch poured in: what was read before no longer counts', () =>
    expect(why({ points: good.map((point) => ({ ...point, beforeMixture: true })) })).toBe('pack.twoReadings'));
  it('whatever its first readings were, it says that it is a new thing', () => {
    const out = decidePackable(
      vessel({ points: [ph(20, 5.8), ...good].map((point) => ({ ...point, beforeMixture: true })) }),
    );
    expect(out.ok ? '' : out.refusal.message).toContain('it is a new thing');
  });
  it('readings age: older than the plan’s interval they open the condition again', () =>
    expect([why({ now: (504 + 168) * HOUR }), why({ now: (504 + 168.1) * HOUR })]).toEqual([
      'packs',
      'pack.twoReadings',
    ]));
  it('late is held; a reviewer who ended that lets it through', () => {
    const late = { ...vessel().lateness, state: 'metLate' as const, unread: true };
    expect(why({ lateness: late })).toBe('pack.late');
    expect(packingGate(vessel({ lateness: late })).find(({ key }) => key === 'acid')!.now).toContain(
      'nobody looked in time',
    );
    expect(why({ lateness: late, latenessLifted: true })).toBe('packs');
  });
  it('a rise of more than 0.2 is not packed', () =>
    expect(why({ points: [ph(100, 3.4), ...good] })).toBe('pack.rising'));
  it('a limit above 4.6 is a fault of the caller', () =>
    expect(() => decidePackable(vessel({ acidLimit: 4.8 }))).toThrowError(RangeError));
  it('W20: a crock from before the ledger needs its two readings too', () => {
    const before = {
      beforeLedger: true,
      lateness: { ...vessel().lateness, state: 'pending' as const, reachedAt: null },
    };
    expect([why({ ...before, points: [] }), why({ ...before, points: [ph(480, 3.7)] }), why(before)]).toEqual([
      'pack.noPh',
      'pack.twoReadings',
      'packs',
    ]);
  });
});

describe('readings that count', () => {
  it('blended, fit, not in doubt, of what stands there now, and a number', () => {
    const points = [
      ph(1, 3.7),
      ph(2, 3.7, { sample: 'brine' }),
      ph(3, 3.7, { fit: false }),
      ph(4, 3.7, { doubtful: true }),
      ph(5, 3.7, { beforeMixture: true }),
      ph(6, NaN),
    ];
    expect(counting(points).map(({ at }) => at / HOUR)).toEqual([1]);
  });
  it('a strict eye takes the highest since the last that counts', () => {
    expect(
      phStanding([ph(1, 5.9), ph(2, 3.7), ph(3, 5.5, { doubtful: true }), ph(4, 3.6, { sample: 'brine' })]).strict,
    ).toBe(5.5);
    expect(phStanding([ph(1, 5.9), ph(2, 5.5, { doubtful: true }), ph(3, 3.7)]).strict).toBe(3.7);
    expect(phStanding([]).strict).toBeNull();
  });
  it('how long a reading stands follows the plan', () => {
    const plan = usualChecks(14);
    expect([1, 4, 6, 20].map((ageDays) => freshHours({ plan, ageDays }))).toEqual([24, 48, 48, 168]);
    expect(freshHours({ plan: [], ageDays: 3 })).toBe(168);
  });
});

describe('a mixture', () => {
  const brine = (at: number, share: number) => ({ at, grams: share * 1000, intoGrams: 1000, what: 'brine' as const });
  it('2 % of brine or more makes one, and small ones add up until a reading counts', () => {
    expect(mixedAt({ joined: [brine(1, 0.019)], readAt: [] })).toBeNull();
    expect(mixedAt({ joined: [brine(1, 0.02)], readAt: [] })).toBe(1);
    expect(mixedAt({ joined: [brine(1, 0.015), brine(3, 0.015)], readAt: [] })).toBe(3);
    expect(mixedAt({ joined: [brine(1, 0.015), brine(3, 0.015)], readAt: [2] })).toBeNull();
  });
  it('anything from another vessel does, however little', () =>
    expect(mixedAt({ joined: [{ at: 4, grams: 1, intoGrams: 1000, what: 'vessel' }], readAt: [] })).toBe(4));
  it('what is no number is a mixture', () => expect(mixedAt({ joined: [brine(1, NaN)], readAt: [] })).toBe(1));
  it('its deadline is that of the youngest part whose acid had not come', () => {
    expect(
      clockOf([
        { filledAt: 1, met: true },
        { filledAt: 9, met: false },
      ]),
    ).toBe(9);
    expect(
      clockOf([
        { filledAt: 1, met: false },
        { filledAt: 9, met: true },
      ]),
    ).toBe(1);
    expect(
      clockOf([
        { filledAt: 1, met: true },
        { filledAt: 9, met: true },
      ]),
    ).toBeNull();
  });
});

describe('what a vessel’s state asks', () => {
  const by = { closure: 'airlock', waterPhaseSalt: 0.024, houseAsks: [], filmDay: null };
  const days = (plan: ReturnType<typeof askedPlan>) =>
    plan.flatMap(({ what, rule }) => (what === 'ph' && rule.kind === 'onDays' ? rule.days : []));
  it('weak salt asks its pH on days 1, 2 and 3, also of a plan that has other days', () => {
    const plan = [
      {
        what: 'ph' as const,
        words: null,
        rule: { kind: 'onDays' as const, days: [2, 9], thenEveryDays: 7 },
        condition: 'always' as const,
      },
    ];
    expect(days(askedPlan(plan, by))).toEqual([2, 9]);
    expect(days(askedPlan(plan, { ...by, waterPhaseSalt: 0.0149 }))).toEqual([1, 2, 3, 9]);
    expect(days(askedPlan([], { ...by, waterPhaseSalt: 0.017 }))).toEqual([1, 2, 3]);
  });
  it('a bag has its daily look, a sealed lid its burps, a skimmed film its second look', () => {
    expect(askedPlan([], { ...by, closure: 'vacuum' })[0]).toEqual(
      jasmine.objectContaining({ what: 'swelling', rule: { kind: 'every', hours: 24, forDays: null } }),
    );
    expect(askedPlan([], { ...by, closure: 'sealed' }).map(({ what }) => what)).toEqual(['burp']);
    const found = askedPlan([], {
      ...by,
      findings: [
        { name: 'Ropy, viscous brine', todo: ['Read its pH now, blended'], day: 4, againDay: 8 },
        { name: 'White film', todo: ['Skim it'], day: 5, againDay: null },
      ],
    });
    expect(found.map(({ what, words, rule }) => [what, words, rule.kind === 'onDays' && rule.days[0]])).toEqual([
      ['todo', 'Read its pH now, blended', 4],
      ['todo', 'Look again: Ropy, viscous brine', 8],
      ['todo', 'Skim it', 5],
    ]);
    expect(askedPlan([], { ...by, filmDay: 9 })[0]!.rule).toEqual({ kind: 'onDays', days: [12], thenEveryDays: null });
  });
  it('what the plan has already is not asked twice', () => {
    const asks = effectsOf({ lid: 'loose' }).checks;
    expect(askedPlan(asks, { ...by, houseAsks: asks })).toEqual([...asks]);
  });
  it('the house’s own band says under or over, on its own scale', () => {
    const figure = { waterPhase: 0.0234, ofEverything: 0.0215, ofVegetable: 0.022, band: 'usual' as const };
    const say = (least: number, most: number) =>
      houseBandSays({ figure, form: 'shred', bands: { shred: { on: 'ofVegetable', least, most } } })?.state;
    expect([say(0.015, 0.025), say(0.023, 0.025), say(0.015, 0.021)]).toEqual(['in', 'under', 'over']);
    expect(
      houseBandSays({ figure, form: 'mash', bands: { shred: { on: 'ofVegetable', least: 0.1, most: 0.2 } } }),
    ).toBeNull();
  });
});

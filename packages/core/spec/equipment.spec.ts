import {
  allowedWords,
  besideAllowed,
  decideFill,
  decideRinse,
  decideSanitiser,
  decideScaleCheck,
  equipmentDue,
  isFillable,
} from '../src/index.js';

describe('a scale against a weight', () => {
  // May differ: one step, or a thousandth of the weight, whichever is more; reckoned by hand.
  const TABLE: readonly (readonly [
    step: number,
    weight: number,
    shown: number,
    off: number,
    may: number,
    ok: boolean,
  ])[] = [
    [1, 2000, 2000, 0, 2, true],
    [1, 2000, 2002, 2, 2, true],
    [1, 2000, 2003, 3, 2, false],
    [1, 2000, 1997.9, -2.1, 2, false],
    [5, 1000, 1005, 5, 5, true],
    [0.1, 150, 150.2, 0.2, 0.15, false],
    [0.1, 150, 150.1, 0.1, 0.15, true],
  ];
  for (const [stepGrams, weightGrams, shownGrams, offGrams, mayDifferGrams, passed] of TABLE)
    it(`${weightGrams} g shown as ${shownGrams} g by steps of ${stepGrams} g`, () => {
      const found = decideScaleCheck({ tag: 'S1', stepGrams, capacityGrams: 6000, weightGrams, shownGrams });
      expect(found.ok && found.value).toEqual({ offGrams, mayDifferGrams, passed });
    });

  it('a weight it cannot weigh, or one so small that a step hides everything, says nothing', () => {
    const asked = { tag: 'S1', stepGrams: 1, capacityGrams: 6000, shownGrams: 0 };
    const code = (weightGrams: number): string | null => {
      const found = decideScaleCheck({ ...asked, weightGrams });
      return found.ok ? null : `${found.refusal.code} ${found.refusal.field}`;
    };
    expect(code(6001)).toBe('equipment.outside weightGrams');
    expect(code(119)).toBe('equipment.outside weightGrams');
    expect(code(120)).toBeNull();
    expect(code(6000)).toBeNull();
  });
});

describe('what is due of a house’s equipment', () => {
  const DAY = 86_400_000;
  const now = 1000 * DAY;
  const due = (kind: 'scale' | 'tool' | 'parts' | 'water', days: number | null, passed: boolean | null = true) =>
    equipmentDue({
      kind,
      now,
      passed: days === null ? null : passed,
      checkedAt: days === null ? null : now - days * DAY,
    });
  it('a scale each week, water each year; tools and parts have no day; what failed stays due', () => {
    expect([due('scale', null), due('scale', 7), due('scale', 7.1)]).toEqual(['never', null, 'old']);
    expect([due('water', null), due('water', 365), due('water', 366)]).toEqual(['never', null, 'old']);
    expect([due('tool', null), due('tool', 900), due('parts', null)]).toEqual([null, null, null]);
    expect([due('scale', 1, false), due('parts', 1, false), due('tool', 400, false)]).toEqual([
      'failed',
      'failed',
      'failed',
    ]);
  });
});

describe('cleaning', () => {
  const AGENTS: readonly (readonly [string, boolean])[] = [
    ['hot water', true],
    ['boiling water', true],
    ['white vinegar 5 %', true],
    ['ethanol, 70 %', true],
    ['peracetic acid', false],
    ['bleach', false],
    ['hot soapy water', false],
    ['something nobody knows', false],
  ];
  for (const [agent, harmless] of AGENTS)
    it(`${agent} ${harmless ? 'asks for no rinse' : 'is rinsed, or its sheet says it need not be'}`, () => {
      expect(decideRinse({ agent, rinsed: false, noRinse: false }).ok).toBe(harmless);
      expect(decideRinse({ agent, rinsed: true, noRinse: false }).ok).toBeTrue();
      expect(decideRinse({ agent, rinsed: false, noRinse: true }).ok).toBeTrue();
    });

  it('a sanitiser past its time or too weak cleans nothing', () => {
    const mix = { code: 'SAN26-0001', goodUntil: 1000, passed: true, unchecked: null, until: 'noon' };
    expect(decideSanitiser({ ...mix, at: 1000 }).ok).toBeTrue();
    const late = decideSanitiser({ ...mix, at: 1001 });
    expect(late.ok || late.refusal.message).toBe('SAN26-0001 was good until noon. Mix a new one, and use that.');
    expect(decideSanitiser({ ...mix, passed: false, at: 0 }).ok).toBeFalse();
  });

  it('a sanitiser nobody checked cleans nothing either, unless it is said why none is checked', () => {
    const mix = { code: 'SAN26-0002', goodUntil: 1000, passed: null, until: 'noon', at: 10 };
    const asked = decideSanitiser({ ...mix, unchecked: null });
    expect(asked.ok || asked.refusal.message).toContain('Nobody has checked how strong SAN26-0002 is');
    expect(decideSanitiser({ ...mix, unchecked: '  ' }).ok).toBeFalse();
    expect(decideSanitiser({ ...mix, unchecked: 'ready to use' }).ok).toBeTrue();
    expect(decideSanitiser({ ...mix, unchecked: 'ready to use', passed: false }).ok).toBeFalse();
    expect(decideSanitiser({ ...mix, unchecked: 'ready to use', at: 1001 }).ok).toBeFalse();
  });
});

describe('what a room allows', () => {
  it('is said at its edges and beyond them', () => {
    const cellar = { leastCelsius: 10, mostCelsius: 18 };
    expect([9.9, 10, 14, 18, 18.1].map((celsius) => besideAllowed(celsius, cellar))).toEqual([
      'colder',
      null,
      null,
      null,
      'warmer',
    ]);
    expect(besideAllowed(-40, {})).toBeNull();
    expect([
      allowedWords(cellar),
      allowedWords({ mostCelsius: 6 }),
      allowedWords({ leastCelsius: 0 }),
      allowedWords({}),
    ]).toEqual(['10 to 18 °C', '6 °C at most', '0 °C or more', null]);
  });
});

describe('a vessel of a metal that rusts', () => {
  it('is offered nowhere, as one that is full or out of use is not; what nobody said of a vessel keeps it from nothing', () => {
    const free = { inUse: true, takenBy: null, details: {} };
    expect([
      isFillable(free),
      isFillable({ ...free, details: { material: 'glass' } }),
      isFillable({ ...free, details: { material: null } }),
      isFillable({ ...free, details: { material: 'rusts' } }),
      isFillable({ ...free, inUse: false }),
      isFillable({ ...free, takenBy: 'NY26-300-A-C1' }),
    ]).toEqual([true, true, true, false, false, false]);
  });

  it('is never filled, however free it is', () => {
    const vessel = { tag: 'B1', brimMl: 20_000, maxFill: 0.9, minFill: 0.1, inUse: true, takenBy: null };
    expect(decideFill({ vessel, grams: 5000 }).ok).toBeTrue();
    const rusts = decideFill({ vessel: { ...vessel, rusts: true }, grams: 5000, overReason: 'all the same' });
    expect(rusts.ok || rusts.refusal.code).toBe('vessel.rusts');
  });
});

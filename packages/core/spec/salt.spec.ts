import fc from 'fast-check';
import {
  SALT_BASES,
  checkSaltFraction,
  decideSaltBeforeFill,
  decideSaltWeigh,
  decideWeakStart,
  lateIngredient,
  saltAtScale,
  saltBand,
  saltGrams,
  saltOnAllBases,
  saltToReach,
  scaleTooCoarse,
  topUp,
  waterPhase,
  waterPhaseSalt,
  waysBack,
  type Outcome,
} from '../src/index.js';

const code = (outcome: Outcome<unknown>): string | undefined => (outcome.ok ? undefined : outcome.refusal.code);
const roots = { grams: 6500, waterFraction: 0.92 };
const water = (grams: number) => ({ grams, waterFraction: 1 });

describe('W1: one salt mass on all bases', () => {
  it('310 g over 6,500 g roots and 4,200 g water', () => {
    const all = saltOnAllBases({ vegetableGrams: 6500, waterGrams: 4200, saltGrams: 310 });
    expect(all.ofVegetable! * 100).toBeCloseTo(4.77, 2);
    expect(all.ofWater! * 100).toBeCloseTo(7.38, 2);
    expect(all.ofSolution! * 100).toBeCloseTo(6.87, 2);
    expect(all.ofEverything! * 100).toBeCloseTo(2.9, 2);
    expect(all.ofTotal! * 100).toBeCloseTo(2.82, 2);
    const wps = waterPhaseSalt({ saltGrams: 310, parts: [roots, water(4200)] });
    expect(wps * 100).toBeCloseTo(2.96, 2);
    expect(saltBand(wps)).toBe('usual');
  });
  const table: [(typeof SALT_BASES)[number], number, number, number, string][] = [
    ['ofVegetable', 0.022, 143.0, 1.39, 'weak'],
    ['ofWater', 0.05, 210.0, 2.02, 'usual'],
    ['ofSolution', 0.05, 221.1, 2.13, 'usual'],
    ['ofEverything', 0.026, 278.2, 2.66, 'usual'],
  ];
  for (const [basis, saltFraction, grams, wpsPercent, band] of table) {
    it(`${saltFraction} ${basis} is ${grams} g, ${wpsPercent} % in the water phase, ${band}`, () => {
      const salt = saltGrams({ basis, vegetableGrams: 6500, waterGrams: 4200, saltFraction });
      expect(salt).toBeCloseTo(grams, 1);
      const wps = waterPhaseSalt({ saltGrams: salt, parts: [roots, water(4200)] });
      expect(wps * 100).toBeCloseTo(wpsPercent, 2);
      expect(saltBand(wps)).toBe(band as never);
    });
  }
});

describe('the same “5 %” is not the same brine', () => {
  it('packed twice as tight the turnips end up too weak', () => {
    const loose = waterPhaseSalt({ saltGrams: 150, parts: [{ grams: 4000, waterFraction: 0.92 }, water(3000)] });
    const tight = waterPhaseSalt({ saltGrams: 75, parts: [{ grams: 4000, waterFraction: 0.92 }, water(1500)] });
    expect(loose * 100).toBeCloseTo(2.2, 2);
    expect(tight * 100).toBeCloseTo(1.43, 2);
    expect(saltBand(tight)).toBe('weak');
  });
});

describe('bands', () => {
  for (const [wps, band] of [
    [0.0149, 'weak'],
    [0.015, 'caution'],
    [0.018, 'usual'],
    [0.04, 'usual'],
    [0.041, 'slow'],
    [0.08, 'slow'],
    [0.081, 'stalls'],
  ] as const) {
    it(`${wps * 100} % is ${band}`, () => expect(saltBand(wps)).toBe(band));
  }
});

describe('W6: hidden water', () => {
  const shred = { grams: 12000, waterFraction: 0.92 };
  it('a culture woken in 300 g of water takes 2.34 to 2.28 %, and 7.2 g hold it', () => {
    const before = waterPhaseSalt({ saltGrams: 264, parts: [shred] });
    expect(before * 100).toBeCloseTo(2.34, 2);
    const phase = waterPhase({ saltGrams: 264, parts: [shred, water(300)] });
    expect((phase.salt / (phase.salt + phase.water)) * 100).toBeCloseTo(2.28, 2);
    expect(saltToReach({ saltGrams: phase.salt, waterGrams: phase.water, waterPhaseSalt: before })).toBeCloseTo(7.2, 1);
  });
});

describe('W7: a late ingredient', () => {
  it('900 g carrot asks for 18 g; without it 2.13 falls to 1.93 %', () => {
    const late = lateIngredient({
      saltFraction: 0.02,
      saltGrams: 168,
      parts: [{ grams: 8400, waterFraction: 0.92 }],
      late: { grams: 900, waterFraction: 0.88 },
    });
    expect(late.secondDoseGrams).toBeCloseTo(18, 6);
    expect(late.before * 100).toBeCloseTo(2.13, 2);
    expect(late.withoutDose * 100).toBeCloseTo(1.93, 2);
  });
});

describe('W8: top-up', () => {
  const crock = { saltGrams: 572, waterGrams: 23_920, lostGrams: 900 };
  it('an overflow of 900 g took 21 g of salt; plain water would leave 2.25 %', () => {
    const back = topUp({ ...crock, how: 'overflow' });
    expect(back.saltGrams).toBeCloseTo(21.0, 1);
    expect(back.waterGrams).toBeCloseTo(879, 0);
    expect(back.before * 100).toBeCloseTo(2.34, 2);
    expect(back.withPlainWater * 100).toBeCloseTo(2.25, 2);
  });
  it('evaporated liquid took no salt: water alone restores', () =>
    expect(topUp({ ...crock, how: 'evaporation' })).toEqual({
      saltGrams: 0,
      waterGrams: 900,
      before: 572 / 24_492,
      withPlainWater: 572 / 24_492,
    }));
});

describe('W9: overshot', () => {
  const batch = {
    basis: 'ofVegetable',
    saltFraction: 0.022,
    produceGrams: 14_600,
    waterGrams: 0,
    saltInGrams: 0,
  } as const;
  it('342 g on 321.2 g is 6.5 % over: 21 g out before it goes in', () => {
    const atScale = saltAtScale({ saltGrams: 342, targetGrams: 321.2 });
    expect(atScale.verdict).toBe('over');
    expect(atScale.deviation * 100).toBeCloseTo(6.5, 1);
    expect(-atScale.toTargetGrams).toBeCloseTo(20.8, 6);
    expect(code(decideSaltWeigh({ batch, grams: 342, alreadyIn: false }))).toBe('salt.overTarget');
  });
  it('once in, 945 g more shred make it right, or a reason', () => {
    expect(
      waysBack({ basis: 'ofVegetable', saltFraction: 0.022, vegetableGrams: 14_600, waterGrams: 0, saltGrams: 342 })
        .addProduceGrams,
    ).toBeCloseTo(945, 0);
    expect(decideSaltWeigh({ batch, grams: 342, alreadyIn: true }).ok).toBeTrue();
    const over = { ...batch, saltInGrams: 342 };
    expect(code(decideSaltBeforeFill({ batch: over, acceptedReason: null }))).toBe('salt.outOfTolerance');
    expect(decideSaltBeforeFill({ batch: over, acceptedReason: 'kept, tasted by two' }).ok).toBeTrue();
    expect(decideSaltBeforeFill({ batch: { ...over, produceGrams: 15_545 }, acceptedReason: null }).ok).toBeTrue();
  });
  it('portions add up to one target', () => {
    const first = decideSaltWeigh({ batch, grams: 160, alreadyIn: false });
    expect(first.ok && first.value.atScale.verdict).toBe('under');
    const second = decideSaltWeigh({ batch: { ...batch, saltInGrams: 160 }, grams: 161, alreadyIn: false });
    expect(second.ok && second.value.atScale.verdict).toBe('in');
  });
  it('refuses salt before there is anything to salt', () =>
    expect(code(decideSaltWeigh({ batch: { ...batch, produceGrams: 0 }, grams: 10, alreadyIn: true }))).toBe(
      'salt.nothingToSalt',
    ));
});

describe('W19: a scale too coarse', () => {
  it('118 g on a 5 g scale is 4.2 % of the dose', () => {
    const scale = scaleTooCoarse({ doseGrams: 118, stepGrams: 5 });
    expect(scale.tooCoarse).toBeTrue();
    expect(scale.stepOfDose * 100).toBeCloseTo(4.2, 1);
  });
  it('and fine enough at 1 g', () => expect(scaleTooCoarse({ doseGrams: 118, stepGrams: 1 }).tooCoarse).toBeFalse());
});

describe('laws of salt', () => {
  const mass = fc.double({ min: 100, max: 1e6, noNaN: true });
  it('a way back brings the salt exactly to its target', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...SALT_BASES),
        mass,
        mass,
        fc.double({ min: 0.01, max: 0.1, noNaN: true }),
        fc.double({ min: 1.05, max: 2, noNaN: true }),
        (basis, v, w, p, over) => {
          const salt = saltGrams({ basis, vegetableGrams: v, waterGrams: w, saltFraction: p }) * over;
          const back = waysBack({ basis, saltFraction: p, vegetableGrams: v, waterGrams: w, saltGrams: salt });
          for (const [moreV, moreW] of [
            [back.addProduceGrams, 0],
            [0, back.addWaterGrams],
          ] as const) {
            if (moreV === null || moreW === null) continue;
            const target = saltGrams({ basis, vegetableGrams: v + moreV, waterGrams: w + moreW, saltFraction: p });
            expect(target / salt).toBeCloseTo(1, 9);
          }
        },
      ),
    );
  });
  it('the salt to reach a strength reaches it', () => {
    fc.assert(
      fc.property(mass, mass, fc.double({ min: 0.001, max: 0.25, noNaN: true }), (s, w, c) => {
        const more = saltToReach({ saltGrams: s, waterGrams: w, waterPhaseSalt: c });
        expect((s + more) / (s + more + w)).toBeCloseTo(c, 9);
      }),
    );
  });
});

describe('refusals of salt', () => {
  it('refuses a percentage typed where a fraction belongs', () => {
    const outcome = checkSaltFraction({ basis: 'ofVegetable', saltFraction: 2.2 });
    expect(code(outcome)).toBe('fraction.percentTyped');
    expect((outcome as { refusal: { message: string } }).refusal.message).toContain('0.022');
  });
  it('refuses a brine beyond saturation', () => {
    expect(code(checkSaltFraction({ basis: 'ofSolution', saltFraction: 0.27 }))).toBe('fraction.percentTyped');
    expect(code(checkSaltFraction({ basis: 'ofWater', saltFraction: 0.36 }))).toBe('fraction.percentTyped');
  });
  it('throws on a caller’s mistake', () => {
    expect(() => saltGrams({ basis: 'ofWater', vegetableGrams: -1, waterGrams: 1, saltFraction: 0.02 })).toThrowError(
      RangeError,
    );
    expect(() => saltGrams({ basis: 'ofWater', vegetableGrams: 1, waterGrams: 1, saltFraction: 2 })).toThrowError(
      RangeError,
    );
    expect(() => saltAtScale({ saltGrams: 1, targetGrams: 0 })).toThrowError(RangeError);
  });
  it('a weak batch starts only on a reviewer’s written reason', () => {
    expect(code(decideWeakStart({ waterPhaseSalt: 0.0139, isReviewer: true, reason: undefined }))).toBe(
      'salt.weakNeedsReviewer',
    );
    expect(code(decideWeakStart({ waterPhaseSalt: 0.0139, isReviewer: false, reason: 'sweet batch' }))).toBe(
      'salt.weakNeedsReviewer',
    );
    expect(decideWeakStart({ waterPhaseSalt: 0.0139, isReviewer: true, reason: 'sweet batch' }).ok).toBeTrue();
  });
});

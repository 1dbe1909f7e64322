import fc from 'fast-check';
import { ABOVE_THE_LIMIT, CAUTIONS, cautionNotesAt, decideVerdict, FINDING_KEYS, findingOf, FINDINGS, judge, PLACES, VERDICTS, type LotFacts, type Place, type Verdict } from '../src/index.js';

const facts = (over: Partial<LotFacts> = {}): LotFacts => ({ ageDays: 12, ph: 3.7, phHoursAgo: 6, trend: 'steady', rise: 0, acidLimit: 4.2, late: false, twiceLate: false, onHold: false, celsius: 14, waterPhaseSalt: 0.024, closure: 'loose', stage: 'ferment', heated: false, redIngredient: false, sweet: false, slowStart: false, filmBefore: false, filmIsHeld: false, ...over });
const say = (finding: string, place: Place, over: Partial<LotFacts> = {}): Verdict => judge({ finding, place, facts: facts(over) }).verdict;

describe('W25: findings', () => {
  it('blue-green in garlic, pH 3.9 falling: Fine', () => expect(say('blueGreenIn', 'piece', { ph: 3.9, trend: 'falling' })).toBe('fine'));
  it('blue-green on the surface: Throw out', () => expect(say('blueGreenIn', 'surface', { ph: 3.9, trend: 'falling' })).toBe('throwOut'));
  it('flat white film, pH 3.7 steady: Act', () => expect(say('film', 'surface')).toBe('act'));
  it('the same film, pH 3.7 to 3.95 in a week: Hold', () => expect(say('film', 'surface', { ph: 3.95, trend: 'rising', rise: 0.25 })).toBe('hold'));
  it('ropy at day 4: Watch; ropy at finish: Hold', () => {
    expect(say('ropy', 'brine', { ageDays: 4, ph: 4.3 })).toBe('watch');
    expect(say('ropy', 'brine', { stage: 'finish' })).toBe('hold');
  });
  it('looks perfect, pH 4.8 past the deadline: Hold', () => expect(say('looksRight', 'surface', { ph: 4.8, late: true })).toBe('hold'));
});

describe('the guide', () => {
  it('gives no verdict from looks alone', () => {
    for (const one of FINDINGS.filter(({ usual }) => usual === 'fine')) expect(say(one.key, one.places[0]!, { ph: null, phHoursAgo: null, trend: 'none' })).withContext(one.key).not.toBe('fine');
    expect(judge({ finding: 'cloudy', place: 'brine', facts: facts({ ph: null, phHoursAgo: null }) }).todo[0]).toBe('Read its pH now, blended');
  });
  it('film that comes again is held, and any film where the house says so', () => expect([say('film', 'surface', { filmBefore: true }), say('film', 'surface', { filmIsHeld: true })]).toEqual(['hold', 'hold']));
  it('raised or coloured growth is thrown out, however sour', () => expect(say('fuzz', 'surface', { ph: 3.3 })).toBe('throwOut'));
  it('a pink top without a red ingredient is held', () => expect(say('pinkTop', 'surface')).toBe('hold'));
  it('soft above the limit is thrown out', () => expect([say('soft', 'feel'), say('soft', 'feel', { ph: 4.4 })]).toEqual(['hold', 'throwOut']));
  it('no sign of life is early on day 2, and on day 4 for an allium', () => expect([say('noLife', 'brine', { ageDays: 2, ph: 5.9 }), say('noLife', 'brine', { ageDays: 4, ph: 5.9, slowStart: true }), say('noLife', 'brine', { ageDays: 4, ph: 5.9 })]).toEqual(['fine', 'fine', 'watch']));
  it('a hiss in a live vessel is life, in a heated jar a hold', () => expect([say('bubbles', 'brine'), say('hissHeated', 'jar', { stage: 'packed', heated: true })]).toEqual(['fine', 'hold']));
  it('what is held is not tasted, and says whom to ask', () => expect(judge({ finding: 'hissHeated', place: 'jar', facts: facts({ stage: 'packed' }) }).todo.join(' ')).toMatch(/not taste.*authority/i));
  it('says why, the decisive reason first', () => expect(judge({ finding: 'looksRight', place: 'brine', facts: facts({ ph: 4.8, late: true }) }).reasons[0]).toContain('past its deadline'));
  it('every finding has its tell, its places and a double that is in the guide', () => {
    for (const one of FINDINGS) {
      expect(one.tell.length).withContext(one.key).toBeGreaterThan(10);
      expect(one.places.length).toBeGreaterThan(0);
      if (one.double) expect(findingOf(one.double)).withContext(`${one.key}’s double`).toBeDefined();
    }
    expect(new Set(FINDING_KEYS).size).toBe(FINDINGS.length);
    expect(FINDINGS.length).toBeGreaterThanOrEqual(30);
  });
  it('an unknown finding is a fault of the caller', () => expect(() => judge({ finding: 'nice', place: 'brine', facts: facts() })).toThrowError(RangeError));

  // Handbook 3.3 and 3.4 said a second time, plainly, without the guide's own rules.
  const ruleSays = (finding: string, place: Place, f: LotFacts): boolean =>
    f.late || f.twiceLate || f.onHold || f.rise > 0.2 || (f.stage !== 'ferment' && f.ph !== null && f.ph > f.acidLimit) || (f.heated && f.stage === 'packed' && f.trend === 'falling')
    || ['fuzz', 'putrid', 'hissHeated', 'hissLive', 'heatedCloudy', 'glass', 'flies', 'bagLeaks', 'sealFailed', 'soft'].includes(finding)
    || (finding === 'blueGreenIn' && place === 'surface') || (finding === 'film' && (f.trend === 'rising' || f.filmBefore || f.filmIsHeld)) || (finding === 'ropy' && f.stage !== 'ferment') || (finding === 'pinkTop' && !f.redIngredient) || (finding === 'redBleed' && !f.redIngredient);
  const anyFacts = fc.record({
    ageDays: fc.integer({ min: 0, max: 120 }), ph: fc.option(fc.double({ min: 2.8, max: 6.5, noNaN: true })), phHoursAgo: fc.option(fc.integer({ min: 0, max: 900 })), trend: fc.constantFrom('none', 'falling', 'steady', 'rising'), rise: fc.double({ min: 0, max: 0.6, noNaN: true }),
    acidLimit: fc.constantFrom(3.8, 4.0, 4.2, 4.6), late: fc.boolean(), twiceLate: fc.boolean(), onHold: fc.boolean(), celsius: fc.option(fc.double({ min: 0, max: 40, noNaN: true })), waterPhaseSalt: fc.option(fc.double({ min: 0, max: 0.1, noNaN: true })), closure: fc.option(fc.constantFrom('airlock', 'sealed', 'loose')),
    stage: fc.constantFrom('ferment', 'finish', 'packed'), heated: fc.boolean(), redIngredient: fc.boolean(), sweet: fc.boolean(), slowStart: fc.boolean(), filmBefore: fc.boolean(), filmIsHeld: fc.boolean(),
  }) as fc.Arbitrary<LotFacts>;
  const anyCase = fc.tuple(fc.constantFrom(...FINDING_KEYS), fc.constantFrom(...(Object.keys(PLACES) as Place[])), anyFacts);
  it('2,000 combinations: no “Fine” where a rule says Hold or Throw out', () => {
    let held = 0;
    fc.assert(fc.property(anyCase, ([finding, place, f]) => {
      const { verdict, reasons } = judge({ finding, place, facts: f });
      if (ruleSays(finding, place, f)) held += 1;
      return reasons.length > 0 && (!ruleSays(finding, place, f) || verdict === 'hold' || verdict === 'throwOut');
    }), { numRuns: 2000 });
    expect(held).toBeGreaterThan(500);
  });
  it('a worse fact never makes a verdict milder', () => fc.assert(fc.property(anyCase, ([finding, place, f]) => {
    const rank = (one: LotFacts): number => VERDICTS.indexOf(judge({ finding, place, facts: one }).verdict);
    return rank({ ...f, late: true }) >= rank({ ...f, late: false }) && rank({ ...f, onHold: true }) >= rank({ ...f, onHold: false }) && rank({ ...f, rise: 0.5 }) >= rank({ ...f, rise: 0 });
  })));

  it('anybody makes a verdict stricter, a reviewer with a reason milder', () => {
    const code = (said: Verdict, isReviewer: boolean, reason: string | null): string => {
      const outcome = decideVerdict({ guide: 'act', said, isReviewer, reason });
      return outcome.ok ? String(outcome.value.changed) : outcome.refusal.code;
    };
    expect([code('act', false, null), code('hold', false, null), code('fine', false, 'looks fine'), code('fine', true, ' '), code('watch', true, 'skimmed twice, pH steady')]).toEqual(['null', 'stricter', 'finding.laxer', 'finding.laxer', 'laxer']);
  });
});

describe('cautions', () => {
  const all = JSON.stringify([CAUTIONS, ABOVE_THE_LIMIT, FINDINGS]);
  it('never claim safety or health', () => expect(all).not.toMatch(/\bsafe\b|guarantee|healthy|probiotic/i));
  it('are there at every place they belong to', () => {
    for (const place of ['floor', 'tasting', 'judging', 'pack', 'make', 'formula', 'office'] as const) expect(cautionNotesAt(place).length).withContext(place).toBeGreaterThan(0);
    expect(CAUTIONS.length).toBe(16);
  });
});

import {
  ABOVE_THE_LIMIT,
  CAUTIONS,
  cautionNotesAt,
  decideVerdict,
  FINDING_KEYS,
  findingOf,
  FINDINGS,
  judge,
  type LotFacts,
  type Place,
  type Verdict,
} from '../src/index.js';

const facts = (over: Partial<LotFacts> = {}): LotFacts => ({
  ageDays: 12,
  ph: 3.7,
  phCounts: true,
  phHoursAgo: 6,
  trend: 'steady',
  rise: 0,
  acidLimit: 4.2,
  late: false,
  twiceLate: false,
  onHold: false,
  celsius: 14,
  waterPhaseSalt: 0.024,
  closure: 'loose',
  stage: 'ferment',
  heated: false,
  redIngredient: false,
  sweet: false,
  slowStart: false,
  filmBefore: false,
  filmIsHeld: false,
  ...over,
});
const say = (finding: string, place: Place, over: Partial<LotFacts> = {}): Verdict =>
  judge({ finding, place, facts: facts(over) }).verdict;

describe('W25: findings', () => {
  it('blue-green in garlic, pH 3.9 falling: Fine', () =>
    expect(say('blueGreenIn', 'piece', { ph: 3.9, trend: 'falling' })).toBe('fine'));
  it('blue-green on the surface: Throw out', () =>
    expect(say('blueGreenIn', 'surface', { ph: 3.9, trend: 'falling' })).toBe('throwOut'));
  it('flat white film, pH 3.7 steady: Act', () => expect(say('film', 'surface')).toBe('act'));
  it('the same film, pH 3.7 to 3.95 in a week: Hold', () =>
    expect(say('film', 'surface', { ph: 3.95, trend: 'rising', rise: 0.25 })).toBe('hold'));
  it('ropy at day 4: Watch; ropy at finish: Hold', () => {
    expect(say('ropy', 'brine', { ageDays: 4, ph: 4.3 })).toBe('watch');
    expect(say('ropy', 'brine', { stage: 'finish' })).toBe('hold');
  });
  it('looks perfect, pH 4.8 past the deadline: Hold', () =>
    expect(say('looksRight', 'surface', { ph: 4.8, late: true })).toBe('hold'));
});

describe('the guide', () => {
  it('gives no verdict from looks alone', () => {
    for (const one of FINDINGS.filter(({ usual }) => usual === 'fine'))
      expect(say(one.key, one.places[0]!, { ph: null, phHoursAgo: null, trend: 'none' }))
        .withContext(one.key)
        .not.toBe('fine');
    expect(judge({ finding: 'cloudy', place: 'brine', facts: facts({ ph: null, phHoursAgo: null }) }).todo[0]).toBe(
      'Read its pH now, blended',
    );
  });
  it('film that comes again is held, and any film where the house says so', () =>
    expect([say('film', 'surface', { filmBefore: true }), say('film', 'surface', { filmIsHeld: true })]).toEqual([
      'hold',
      'hold',
    ]));
  it('raised or coloured growth is thrown out, however sour', () =>
    expect(say('fuzz', 'surface', { ph: 3.3 })).toBe('throwOut'));
  it('pink without a red ingredient is held; on the surface or the wall it is growth', () =>
    expect([
      say('pinkTop', 'piece'),
      say('pinkTop', 'surface'),
      say('pinkTop', 'wall', { redIngredient: true }),
    ]).toEqual(['hold', 'throwOut', 'throwOut']));
  it('soft above the limit is thrown out', () =>
    expect([say('soft', 'feel'), say('soft', 'feel', { ph: 4.4 })]).toEqual(['hold', 'throwOut']));
  it('no sign of life is early on day 2, and on day 4 for an allium', () =>
    expect([
      say('noLife', 'brine', { ageDays: 2, ph: 5.9 }),
      say('noLife', 'brine', { ageDays: 4, ph: 5.9, slowStart: true }),
      say('noLife', 'brine', { ageDays: 4, ph: 5.9 }),
    ]).toEqual(['fine', 'fine', 'watch']));
  it('a hiss in a live vessel is life, in a heated jar a hold', () =>
    expect([
      say('bubbles', 'brine', { ageDays: 6 }),
      say('hissHeated', 'jar', { stage: 'packed', heated: true }),
    ]).toEqual(['fine', 'hold']));
  it('what is held is not tasted, and says whom to ask', () =>
    expect(judge({ finding: 'hissHeated', place: 'jar', facts: facts({ stage: 'packed' }) }).todo.join(' ')).toMatch(
      /not taste.*authority/i,
    ));
  it('says why, the decisive reason first', () =>
    expect(
      judge({ finding: 'looksRight', place: 'brine', facts: facts({ ph: 4.8, late: true }) }).reasons[0],
    ).toContain('past its deadline'));
  it('every finding has its tell, its places and a double that is in the guide', () => {
    for (const one of FINDINGS) {
      expect(one.tell.length).withContext(one.key).toBeGreaterThan(10);
      expect(one.places.length).toBeGreaterThan(0);
      if (one.double) expect(findingOf(one.double)).withContext(`${one.key}’s double`).toBeDefined();
    }
    expect(new Set(FINDING_KEYS).size).toBe(FINDINGS.length);
    expect(FINDINGS.length).toBeGreaterThanOrEqual(30);
  });
  it('an unknown finding is a fault of the caller', () =>
    expect(() => judge({ finding: 'nice', place: 'brine', facts: facts() })).toThrowError(RangeError));

  it('anybody makes a verdict stricter, a reviewer with a reason milder', () => {
    const code = (said: Verdict, isReviewer: boolean, reason: string | null): string => {
      const outcome = decideVerdict({ guide: 'act', said, isReviewer, reason });
      return outcome.ok ? String(outcome.value.changed) : outcome.refusal.code;
    };
    expect([
      code('act', false, null),
      code('hold', false, null),
      code('fine', false, 'looks fine'),
      code('fine', true, ' '),
      code('watch', true, 'skimmed twice, pH steady'),
    ]).toEqual(['null', 'stricter', 'finding.laxer', 'finding.laxer', 'laxer']);
  });
});

describe('cautions', () => {
  const all = JSON.stringify([CAUTIONS, ABOVE_THE_LIMIT, FINDINGS]);
  it('never claim safety or health', () => expect(all).not.toMatch(/\bsafe\b|guarantee|healthy|probiotic/i));
  it('are there at every place they belong to', () => {
    for (const place of ['floor', 'tasting', 'judging', 'pack', 'make', 'formula', 'office'] as const)
      expect(cautionNotesAt(place).length).withContext(place).toBeGreaterThan(0);
    expect(CAUTIONS.length).toBe(16);
  });
});

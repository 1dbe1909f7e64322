import {
  effectsOf,
  FORM_KEYS,
  HOUSE_RULES,
  decideStorage,
  decideTogether,
  ruleInForce,
  ruleOption,
  rulesInForce,
  runSheet,
  type RuleEffects,
} from '../src/index.js';

/** What the next batch asks, shows and refuses under these answers: its run sheet and all effects. */
const nextBatch = (rules: Record<string, string>): { effects: RuleEffects; sheet: string } => ({
  effects: effectsOf(rules),
  sheet: JSON.stringify(
    FORM_KEYS.map((form) =>
      runSheet({
        brined: form !== 'shred',
        heavy: form === 'leaf',
        form,
        steps: [],
        hasFlavourings: true,
        hasStarter: false,
        rules,
        materialCautions: {},
      }).map(({ key, checks, cautions }) => [key, checks, cautions]),
    ),
  ),
});

describe('each answer of each question', () => {
  for (const rule of HOUSE_RULES) {
    it(`changes what the next batch asks, shows, schedules or refuses: ${rule.question}`, () => {
      const answers = [...rule.options.map(({ key }) => key), ...(rule.figure ? ['4.1'] : [])];
      const seen = answers.map((answer) => JSON.stringify(nextBatch({ [rule.key]: answer })));
      expect(new Set(seen).size).toBe(answers.length);
    });
  }
  it('the checklist says what the house does', () => {
    const said = (rules: Record<string, string>): string => nextBatch(rules).sheet;
    expect(said({ core: 'in' })).toContain('cores cut in as fine as the rest');
    expect(said({ core: 'in' })).not.toContain('Cores and outer leaves out');
    expect(said({ wash: 'none' })).toContain('not washed');
    expect(said({ juice: 'pound' })).toContain('Pounded');
  });
  it('what a riskier way asks in exchange stands on the round', () => {
    const asked = (rules: Record<string, string>) => effectsOf(rules).checks.map(({ what, words }) => words ?? what);
    expect(asked({})).toEqual([]);
    expect(asked({ lid: 'loose' })).toEqual(['look']);
    expect(asked({ lid: 'sealed' })).toEqual(['burp']);
    expect(asked({ headspace: 'tight' })).toEqual(['level']);
    expect(asked({ floaters: 'down' })).toEqual(['press']);
    expect(asked({ rinse: 'count' })).toEqual(['ph']);
    expect(asked({ light: 'light' })).toEqual(['out of the sun']);
  });
  it('a limit of the house’s own, up to 4.6 and no further', () => {
    const rule = HOUSE_RULES.find(({ key }) => key === 'acidLimit')!;
    expect(
      ['4.1', '3.95', '4.6', '4.61', '4.7', '1', 'low', '4.1.2'].map((key) => ruleOption(rule, key)?.key ?? null),
    ).toEqual(['4.1', '3.95', '4.6', null, null, null, null, null]);
    expect(ruleOption(rule, '4.5')!.asks).toContain('boundary');
    expect(ruleInForce(rule, { acidLimit: '4.1' }).option.key).toBe('4.1');
    expect(effectsOf({ acidLimit: '4.1' }).acidLimit).toBe(4.1);
    expect(effectsOf({ acidLimit: '5' }).acidLimit)
      .withContext('an answer that is none is the careful one')
      .toBe(4.2);
  });
  const kept = (
    storage: Parameters<typeof decideStorage>[0]['storage'],
    of: { processOnFile: boolean; coolAllowed: boolean },
  ): string | null => {
    const said = decideStorage({ storage, restarts: [], driedUnmeasured: [], ...of });
    return said.ok ? null : said.refusal.code;
  };
  it('nothing live stands warm', () => {
    expect([
      decideTogether({ storage: 'ambient' }).ok,
      decideTogether({ storage: 'ambient', heat: 'heat' }).ok,
      decideTogether({ storage: 'cellar' }).ok,
    ]).toEqual([false, true, true]);
  });
  it('and no run is kept warm without a process on file', () => {
    expect([
      kept('ambient', { processOnFile: true, coolAllowed: false }),
      kept('ambient', { processOnFile: false, coolAllowed: true }),
    ]).toEqual([null, 'pack.ambient']);
  });
  it('and none is kept cool where no rule of the house lets live jars stand there', () => {
    const nothing = { processOnFile: false, coolAllowed: false };
    expect([kept('cellar', nothing), kept('cold', nothing), kept('cellar', { ...nothing, coolAllowed: true })]).toEqual(
      ['pack.cool', null, null],
    );
  });
  it('vinegar and a starter have a step to be weighed in, though the formula has no line for them', () => {
    const steps = (rules: Record<string, string>): string[] =>
      runSheet({
        brined: false,
        heavy: false,
        form: 'shred',
        steps: [],
        hasFlavourings: false,
        hasStarter: false,
        rules,
        materialCautions: {},
      }).map(({ key }) => key);
    expect(steps({}).filter((key) => key === 'flavour' || key === 'starter')).toEqual([]);
    expect(
      steps({ vinegar: 'splash', starter: 'culture' }).filter((key) => key === 'flavour' || key === 'starter'),
    ).toEqual(['flavour', 'starter']);
  });
  it('a batch keeps all of them, the formula’s own where it may differ', () =>
    expect(rulesInForce({ lid: 'loose', film: 'skim' }, { lid: 'sealed', film: 'reject' })).toEqual(
      jasmine.objectContaining({ lid: 'sealed', film: 'skim', wash: 'rinse' }),
    ));
});

describe('cautions at the step that has them', () => {
  const at = (station: string, words: string[]) =>
    runSheet({
      brined: true,
      heavy: false,
      form: 'sticks',
      steps: words.map((one) => ({ words: one, minutes: null, at: station as 'weigh' })),
      hasFlavourings: true,
      hasStarter: false,
      rules: {},
      materialCautions: { flavour: ['Chilli: gloves and goggles; ventilate.'] },
    })
      .find((step) => step.key === station)!
      .cautions.map(({ words: said }) => said)
      .join(' ');
  it('blades, lye, hot liquid, sanitiser, chilli', () => {
    expect(at('weigh', [])).toContain('Blades');
    expect(at('prepare', ['Boil the purée.'])).toContain('Hot liquid');
    expect(at('prepare', ['Soak in lye.'])).toContain('Lye burns');
    expect(at('clean', [])).toContain('sanitiser');
    expect(at('flavour', [])).toContain('Chilli');
  });
});

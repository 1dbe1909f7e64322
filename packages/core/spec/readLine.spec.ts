import { readLine, readNotebook, readStep } from '../src/index.js';

type Row = readonly [
  text: string,
  role: string,
  name: string,
  amount: string | null,
  more?: { mark?: RegExp; asked?: RegExp; basis?: string | null },
];

/** Written from notebooks as people keep them; what each says was decided by reading it, not by the reader. */
const LINES: readonly Row[] = [
  ['2 % salt', 'salt', 'salt', '2 %', { asked: /of what/, basis: null }],
  ['salt 2.5% of cabbage', 'salt', 'salt', '2.5 %', { basis: 'ofVegetable' }],
  ['2,5 % sea salt by weight', 'salt', 'sea salt', '2,5 %', { asked: /of what/, basis: null }],
  ['Salt: 2.2 % of total weight', 'salt', 'Salt', '2.2 %', { basis: 'ofEverything' }],
  ['3% salt of cabbage and water', 'salt', 'salt', '3 %', { basis: 'ofEverything' }],
  ['4 % salt of the water', 'salt', 'salt', '4 %', { basis: 'ofWater' }],
  ['5% brine', 'salt', 'salt', '5 %', { asked: /of its water, or of the whole brine/, basis: null }],
  ['3% ginger', 'line', 'ginger', '3 %'],
  ['1,180 g white cabbage', 'line', 'white cabbage', '1180 g'],
  ['1 bunch lovage', 'line', 'lovage', '1 bunch'],
  ['2 bunches dill', 'line', 'dill', '2 bunches'],
  ['6 cloves garlic', 'line', 'garlic', '6 cloves'],
  ['a medium head of cabbage', 'line', 'cabbage', '1 head'],
  ['2 large heads pointed cabbage', 'line', 'pointed cabbage', '2 heads'],
  ['2 medium heads pointed cabbage, 3.2 kg', 'line', 'pointed cabbage', '3.2 kg'],
  ['cabbage (about 3 lb)', 'line', 'cabbage', '3 lb', { asked: /weigh it once/ }],
  ['2-3 tbsp caraway', 'line', 'caraway', null, { mark: /range/ }],
  ['½ cup vinegar', 'line', 'vinegar', '½ cup'],
  ['1 ½ cups vinegar', 'line', 'vinegar', '1 ½ cups'],
  ['old brine', 'brine', 'old brine', null, { asked: /which vessel/, mark: /names no figure/ }],
  ['½ cup brine from last batch', 'brine', 'brine from last batch', '½ cup', { asked: /which vessel/ }],
  ['200 ml kept brine', 'brine', 'kept brine', '200 ml', { asked: /which vessel/ }],
  ['1 gal water', 'water', 'water', '1 gal'],
  ['filtered water to cover', 'water', 'filtered water to cover', null, { mark: /names no figure/ }],
  ['3 tbsp salt', 'salt', 'salt', '3 tbsp', { asked: /by the spoon/ }],
  ['60 g salt', 'salt', 'salt', '60 g'],
  ['a handful of lemon thyme', 'line', 'lemon thyme', null, { mark: /names no figure/ }],
  ['• 2 kg baby turnips', 'line', 'baby turnips', '2 kg'],
  ['-2 g mace', 'line', 'g mace', null, { mark: /more than zero/ }],
  ['- 500 g radish, sliced', 'line', 'radish', '500 g'],
  ['500 g beets, golden', 'line', 'beets, golden', '500 g'],
  ['🥕 500 g carrots', 'line', 'carrots', '500 g'],
  ['2\tlb\tturnips', 'line', 'turnips', '2 lb'],
  ['1 tbsp whey', 'starter', 'whey', '1 tbsp'],
  ['2 jars', 'packaging', 'jars', '2 pieces'],
  ['4 jars, 1 pint', 'packaging', 'jars, 1 pint', '4 pieces'],
  ['Massage until the juice runs.', 'step', 'Massage until the juice runs.', null],
  ['3. Press under the brine', 'step', 'Press under the brine', null],
  ['rest 20 min', 'step', 'rest 20 min', null],
  ['Let stand 3 weeks at 18 °C', 'step', 'Let stand 3 weeks at 18 °C', null],
  ['garlic, to taste', 'line', 'garlic', null, { mark: /names no figure/ }],
  ['שום 3 שיני', 'line', 'שום 3 שיני', null, { mark: /./ }],
  ['salted anchovies 20 g', 'line', 'salted anchovies', '20 g'],
  ['Green tomatoes 4 kg', 'line', 'Green tomatoes', '4 kg'],
  ['salt 35 g', 'salt', 'salt', '35 g'],
  ['Salt: 3 tbsp', 'salt', 'Salt', '3 tbsp', { asked: /by the spoon/ }],
  ['salt 35', 'salt', 'salt 35', null, { mark: /names no figure/ }],
  ['Dill, 1 bunch', 'line', 'Dill', '1 bunch'],
  ['Horseradish leaf, 2', 'line', 'Horseradish leaf', '2 pieces'],
  ['bay leaves 4', 'line', 'bay leaves', '4 pieces'],
  ['turnips 500', 'line', 'turnips 500', null, { mark: /names no figure/ }],
  ['1 grape leaf', 'line', 'grape leaf', '1 pieces'],
  ['500 turnips', 'line', 'turnips', null, { mark: /no unit known/ }],
  ['brine from last batch, 100 ml', 'brine', 'brine from last batch', '100 ml', { asked: /which vessel/ }],
  ['thyme (to taste)', 'line', 'thyme', null, { mark: /names no figure/ }],
  ['500 g garlic, peeled', 'line', 'garlic', '500 g'],
  ['Blend after 4 weeks', 'step', 'Blend after 4 weeks', null],
  ['1 Kopf Rotkohl (ca. 1,5 kg)', 'line', 'Rotkohl', '1,5 kg', { asked: /weigh it once/ }],
  ['Salz 2,2 %', 'salt', 'Salz', '2,2 %', { asked: /of what/, basis: null }],
  ['2 EL Apfelessig', 'line', 'Apfelessig', '2 EL'],
  ['3 Wacholderbeeren', 'line', 'Wacholderbeeren', '3 pieces'],
  ['4 Zehen Knoblauch', 'line', 'Knoblauch', '4 Zehen'],
  ['1 L Wasser', 'water', 'Wasser', '1 L'],
  ['2 c. à s. de vinaigre', 'line', 'de vinaigre', '2 tbsp'],
  ['3 gousses d’ail', 'line', 'd’ail', '3 gousses'],
  ['30 g gros sel', 'salt', 'gros sel', '30 g'],
];

describe('a line of a notebook', () => {
  for (const [text, role, name, amount, more] of LINES)
    it(`“${text}”`, () => {
      const read = readLine(text, { decimalMark: 'point' });
      expect({ role: read.role as string, name: read.name, amount: read.amount }).toEqual({ role, name, amount });
      if (more?.mark) expect(read.mark!).toMatch(more.mark);
      else expect(read.mark).toBeNull();
      if (more?.asked) expect(read.asked!).toMatch(more.asked);
      else expect(read.asked).toBeNull();
      expect(read.basis ?? null).toBe((more?.basis ?? null) as never);
    });

  it('a comma is the house’s mark or its thousands', () => {
    for (const decimalMark of ['point', 'comma'] as const)
      expect(readLine('1,180 g cabbage', { decimalMark }).amount).toBe('1180 g');
    expect(readLine('1,180 kg cabbage', { decimalMark: 'point' }).mark).toContain('could be');
    expect(readLine('1,5 kg cabbage', { decimalMark: 'comma' }).amount).toBe('1,5 kg');
  });

  it('headings are no lines, and below “Method” everything is done', () => {
    const read = readNotebook(
      'Ingredients:\n2 kg cabbage\n40 g salt\n\n## Method\n1. Shred, 2 mm.\n2 hours later press down\n',
      { decimalMark: 'point' },
    );
    expect(read.map(({ role, name }) => [role, name])).toEqual([
      ['line', 'cabbage'],
      ['salt', 'salt'],
      ['step', 'Shred, 2 mm.'],
      ['step', '2 hours later press down'],
    ]);
  });

  it('two things on one line, each with its amount, are two lines; words behind one are not', () => {
    const of = (text: string) => readNotebook(text, { decimalMark: 'point' }).map(({ name, amount }) => [name, amount]);
    expect(of('fennel 1.5 kg, apple 500 g')).toEqual([
      ['fennel', '1.5 kg'],
      ['apple', '500 g'],
    ]);
    expect(of('1 kg cabbage + 20 g salt')).toEqual([
      ['cabbage', '1 kg'],
      ['salt', '20 g'],
    ]);
    expect(of('2 kg cabbage, in 1 cm strips')).toEqual([['cabbage, in 1 cm strips', '2 kg']]);
    expect(of('2 heads cabbage, 3.2 kg')).toEqual([['cabbage', '3.2 kg']]);
    expect(of('500 g turnips, peeled')).toEqual([['turnips', '500 g']]);
  });

  it('three hundred lines are cut to a recipe, and nothing breaks', () => {
    expect(readNotebook(Array.from({ length: 300 }, (_, i) => `${i + 1} g thing`).join('\n')).length).toBe(120);
    for (const odd of ['', '%', '2 %', '•', '—', '🥬', '\u202eabc', '1 %%% salt', ':', '####'])
      expect(() => readNotebook(odd)).not.toThrow();
  });
});

describe('what a step says of time and warmth', () => {
  for (const [words, minutes, days, celsius] of [
    ['rest 20 min', 20, null, null],
    ['soak for 2 hours', 120, null, null],
    ['rest 20-30 min', null, null, null],
    ['Ferment 3 weeks at 16-18 °C', null, [21, 21], [16, 18]],
    ['stand 10 to 14 days at 68 °F', null, [10, 14], [20, 20]],
    ['leave it 2 months in the cellar', null, [60, 60], null],
    ['press down firmly', null, null, null],
  ] as const)
    it(`“${words}”`, () => {
      const says = readStep(words);
      expect(says.minutes).toBe(minutes);
      expect(says.days && [says.days.from, says.days.to]).toEqual(days as never);
      expect(says.celsius && [says.celsius.least, says.celsius.most]).toEqual(celsius as never);
    });
});

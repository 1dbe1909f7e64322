import { TestBed } from '@angular/core/testing';
import { type Entry, entrySchema } from '@clear-tally/contract';
import { STARTER_MATERIALS } from '@clear-tally/core';
import { newId } from '../../state/form';
import { FakeApi, inHouse, INES, ODILE, within } from '../../state/testing';
import { firstFormula, STYLES } from './first-formula';
import { Founding } from './founding';
import { Registers } from './registers';
import { readTags } from '@clear-tally/core';

const ROOM = '11111111-1111-4111-8111-111111111111';
const CROCK = '22222222-2222-4222-8222-222222222222';
const crock = {
  id: CROCK,
  tag: 'C1',
  shape: 'crock' as const,
  brimMl: 30_000,
  maxFill: 0.9,
  minFill: 0.5,
  closure: 'loose' as const,
  roomId: ROOM,
  inUse: true,
  takenBy: null,
  cleanedAt: null,
  cleanedWith: null,
  usedSince: false,
  weightVolumeMl: 350,
  inner: null,
  details: {},
};
const house = { rooms: [{ id: ROOM, name: 'Cellar', usualCelsius: 14, details: {} }], vessels: [crock] };
const fits = (kind: string, body: object): string[] => {
  const entry = { id: newId(), kind, happenedAt: new Date().toISOString(), by: newId(), device: 'spec', body };
  const read = entrySchema.safeParse(entry as unknown as Entry);
  return read.success ? [] : read.error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`);
};

describe('tags as they are typed', () => {
  const table: [string, readonly string[], boolean][] = [
    ['C1', ['C1'], false],
    ['c1, c2', ['C1', 'C2'], false],
    ['G1-G3', ['G1', 'G2', 'G3'], false],
    ['G9–11 C1', ['G9', 'G10', 'G11', 'C1'], false],
    ['', [], false],
    ['1C', [], true],
    ['C1, C1', [], true],
    ['G5-G2', [], true],
    ['G1-G999', [], true],
    ['TOOLONG', [], true],
  ];
  for (const [text, tags, wrong] of table)
    it(`“${text}”`, () => expect([readTags(text).tags, readTags(text).problem !== null]).toEqual([tags, wrong]));
});

describe('rooms and vessels', () => {
  const open = async (person: typeof INES | typeof ODILE = ODILE) => {
    TestBed.resetTestingModule();
    const api = new FakeApi({});
    inHouse(api, house, person);
    const fixture = TestBed.createComponent(Registers);
    await fixture.whenStable();
    await fixture.whenStable();
    return { ...within(fixture), api };
  };
  it('a row of vessels is added at once; a tag that is taken is said', async () => {
    const page = await open();
    await page.type('Tag, or several', 'C1-C2');
    expect(page.text()).toContain('There is a vessel C1 already.');
    await page.type('Tag, or several', 'G1-G2');
    await page.type('Holds to the brim', '5');
    await page.press('Add 2 vessels');
    expect(page.api.sent.at(-1)!.map(({ kind, body }) => [kind, (body as { tag: string }).tag])).toEqual([
      ['vessel.add', 'G1'],
      ['vessel.add', 'G2'],
    ]);
    for (const { kind, body } of page.api.sent.at(-1)!) expect(fits(kind, body)).toEqual([]);
  });
  it('one that is chosen begins with what is known of it, and goes out of use with its reason', async () => {
    const page = await open();
    await page.press('C1');
    expect(page.field('Holds to the brim').value).toBe('30');
    await page.type('Holds to the brim', '28.5');
    await page.type('Why, for the book', 'measured with water');
    await page.press('Keep it so');
    const { kind, body } = page.api.sent.at(-1)![0]!;
    expect([kind, body as object]).toEqual([
      'vessel.change',
      jasmine.objectContaining({ vesselId: CROCK, tag: 'C1', brimMl: 28_500, reason: 'measured with water' }),
    ]);
    expect(fits(kind, body)).toEqual([]);
  });
  it('a maker is told who does it', async () =>
    expect((await open(INES)).text()).toContain('An owner of the house adds rooms and vessels'));
});

describe('to begin with', () => {
  it('every material on the list can be recorded as it stands, and stands there once', () => {
    for (const { allergens, ...one } of STARTER_MATERIALS)
      expect(fits('material.add', { ...one, materialId: newId(), allergens: [...allergens] }))
        .withContext(one.name)
        .toEqual([]);
    expect(new Set(STARTER_MATERIALS.map(({ name }) => name)).size).toBe(STARTER_MATERIALS.length);
    expect(STARTER_MATERIALS.length).toBeGreaterThan(55);
  });
  it('every beginning is a formula the schema takes', () => {
    for (const { key } of STYLES) {
      const ids = { formulaId: newId(), produceId: newId(), saltId: newId() };
      expect(fits('formula.save', firstFormula({ style: key, number: 1, produceName: 'Carrots', ...ids })))
        .withContext(key)
        .toEqual([]);
    }
  });
  it('what a house has by now is counted; what it needs for a first batch is marked', async () => {
    TestBed.resetTestingModule();
    inHouse(
      new FakeApi({
        '/api/people': { people: [], locks: [] },
        '/api/formulas': { formulas: [] },
        '/api/lots?many=20': { lots: [] },
      }),
      house,
      ODILE,
    );
    const fixture = TestBed.createComponent(Founding);
    await fixture.whenStable();
    await fixture.whenStable();
    const page = within(fixture);
    expect(page.text()).toContain('there: Rooms');
    expect(page.text()).toContain('not yet: A formula');
    expect(page.button('Write it, to be changed').textContent).toContain('missing: produce, salt');
  });
});

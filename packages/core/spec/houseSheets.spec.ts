import { type HouseKnown, HOUSE_SHEETS, readHouseSheets, type SheetRead } from '../src/index.js';

const NOTHING: HouseKnown = {
  rooms: [],
  tags: [],
  suppliers: [],
  prefixes: [],
  materials: [],
  people: [],
  initials: [],
  equipment: [],
};
const sheet = (name: string, ...rows: readonly (readonly string[])[]): SheetRead => ({
  name,
  rows: rows.map((cells, index) => ({ row: index + 1, cells })),
});
const ROOMS = ['Room*', 'Usual °C*'];
const VESSELS = [...HOUSE_SHEETS.Vessels];
const MATERIALS = [...HOUSE_SHEETS.Materials];
const read = (sheets: readonly SheetRead[], known: Partial<HouseKnown> = {}) =>
  readHouseSheets({ sheets, known: { ...NOTHING, ...known } });

describe('a house from a workbook', () => {
  const WHOLE = [
    sheet('Rooms', ROOMS, ['Cellar', '13'], ['Loft', '19.5 °C']),
    sheet(
      'Vessels',
      VESSELS,
      ['C1', 'crock', '30', '', '90 %', '', 'cloth', 'cellar'],
      ['G1-G3', 'Glass', '5', '50', '88', '120', 'airlock', 'Loft'],
    ),
    sheet(
      'Suppliers',
      ['Supplier', 'Head of codes', 'Own plot'],
      ['North Field', 'nf', 'yes'],
      ['Salt Works', 'SW', ''],
    ),
    sheet(
      'Materials',
      MATERIALS,
      ['Leeks', 'produce', '87', '', '70', '', ''],
      ['Mustard seed', 'flavouring', '6', '0', '', 'mustard', '11'],
    ),
    sheet('People', ['Name', 'Initials', 'Role'], ['Alma Body', 'AB', 'Maker']),
    sheet('How', ['anything']),
  ];

  it('is read sheet by sheet, rows of tags as vessels of their own', () => {
    const found = read(WHOLE);
    expect(found.faults).toEqual([]);
    expect(found.rooms).toEqual([
      { name: 'Cellar', usualCelsius: 13 },
      { name: 'Loft', usualCelsius: 19.5 },
    ]);
    expect(
      found.vessels.map(({ tag, brimMl, minFill, maxFill, weightVolumeMl, room }) => [
        tag,
        brimMl,
        minFill,
        maxFill,
        weightVolumeMl,
        room,
      ]),
    ).toEqual([
      ['C1', 30_000, 0, 0.9, 0, 'Cellar'],
      ['G1', 5000, 0.5, 0.88, 120, 'Loft'],
      ['G2', 5000, 0.5, 0.88, 120, 'Loft'],
      ['G3', 5000, 0.5, 0.88, 120, 'Loft'],
    ]);
    expect(found.suppliers).toEqual([
      { name: 'North Field', prefix: 'NF', ownPlot: true },
      { name: 'Salt Works', prefix: 'SW', ownPlot: false },
    ]);
    expect(found.materials).toEqual([
      {
        name: 'Leeks',
        kind: 'produce',
        waterFraction: 0.87,
        saltFraction: 0,
        trimYield: 0.7,
        allergens: [],
        gramsPer15Ml: null,
      },
      {
        name: 'Mustard seed',
        kind: 'flavouring',
        waterFraction: 0.06,
        saltFraction: 0,
        trimYield: null,
        allergens: ['mustard'],
        gramsPer15Ml: 11,
      },
    ]);
    expect(found.people).toEqual([{ name: 'Alma Body', initials: 'AB', role: 'maker' }]);
  });

  it('taken in a second time brings nothing', () => {
    const found = read(WHOLE, {
      rooms: ['cellar', 'Loft'],
      tags: ['C1', 'G1', 'G2', 'G3'],
      suppliers: ['North field', 'Salt Works'],
      prefixes: ['NF', 'SW'],
      materials: ['Leeks', 'Mustard Seed'],
      people: ['Alma Body'],
      initials: ['AB'],
    });
    expect(found.faults).toEqual([]);
    expect(
      [found.rooms, found.vessels, found.suppliers, found.materials, found.people].map(({ length }) => length),
    ).toEqual([0, 0, 0, 0, 0]);
    expect(found.known).toBe(11);
  });

  // A sheet, and the cell and words of what is wrong with it.
  const FAULTS: [string, SheetRead, string | null, RegExp][] = [
    [
      'a head in another language',
      sheet('Rooms', ['Raum', 'Grad'], ['Keller', '13']),
      null,
      /names no column “Room”, “Usual °C”.*Raum, Grad/,
    ],
    ['a figure that is words', sheet('Rooms', ROOMS, ['Cellar', 'cool']), 'B2', /“cool” was given; -5 to 45/],
    ['a figure that is missing', sheet('Rooms', ROOMS, ['Cellar', '']), 'B2', /is missing/],
    ['a name that is missing', sheet('Rooms', ROOMS, ['', '13']), 'A2', /Room is missing/],
    ['a name twice', sheet('Rooms', ROOMS, ['Cellar', '13'], ['cellar ', '14']), 'A3', /stands in A2 already/],
    ['a name no field takes', sheet('Rooms', ROOMS, ['x'.repeat(81), '13']), 'A2', /80 letters/],
    [
      'a tag that is none',
      sheet('Vessels', VESSELS, ['crock 1', 'crock', '30', '', '90', '', 'cloth', 'Cellar']),
      'A2',
      /“1”: a tag is a capital letter/,
    ],
    [
      'a shape nobody knows',
      sheet('Vessels', VESSELS, ['C1', 'Topf', '30', '', '90', '', 'cloth', 'Cellar']),
      'B2',
      /“Topf”.*crock, drum/,
    ],
    [
      'a capacity of a lake',
      sheet('Vessels', VESSELS, ['C1', 'crock', '30000', '', '90', '', 'cloth', 'Cellar']),
      'C2',
      /0\.1 to 2000/,
    ],
    [
      'fills turned about',
      sheet('Vessels', VESSELS, ['C1', 'crock', '30', '95', '90', '', 'cloth', 'Cellar']),
      'D2',
      /lower one comes first/,
    ],
    [
      'a room that is none',
      sheet('Vessels', VESSELS, ['C1', 'crock', '30', '', '90', '', 'cloth', 'Attic']),
      'H2',
      /“Attic” is no room/,
    ],
    [
      'a date as a figure',
      sheet('Vessels', VESSELS, ['C1', 'crock', '2026-11-25', '', '90', '', 'cloth', 'Cellar']),
      'C2',
      /2026-11-25/,
    ],
    [
      'more water and salt than there is',
      sheet('Materials', MATERIALS, ['Olives', 'produce', '80', '30', '', '', '']),
      'D2',
      /more than there is/,
    ],
    [
      'an allergen nobody knows',
      sheet('Materials', MATERIALS, ['Dip', 'flavouring', '10', '', '', 'kryptonite', '']),
      'F2',
      /“kryptonite” is none of/,
    ],
    [
      'a head that is taken',
      sheet('Suppliers', ['Supplier', 'Head of codes'], ['One', 'AA'], ['Two', 'aa']),
      'B3',
      /AA stands in B2/,
    ],
    [
      'a role that is none',
      sheet('People', ['Name', 'Initials', 'Role'], ['A', 'A', 'boss']),
      'C2',
      /owner, maker, inspector/,
    ],
    ['no sheet of these', sheet('Sheet1', ['x']), null, /No sheet is called Rooms/],
  ];
  for (const [what, of, cell, words] of FAULTS)
    it(`${what} is named by its cell`, () => {
      const { faults } = read([of], { rooms: of.name === 'Vessels' ? ['Cellar'] : [] });
      expect(faults.length).withContext(JSON.stringify(faults)).toBe(1);
      expect([faults[0]!.sheet, faults[0]!.cell]).toEqual([of.name, cell]);
      expect(faults[0]!.words).toMatch(words);
    });

  it('5,001 rows are refused as a whole, 5,000 are read', () => {
    const rows = (many: number) =>
      sheet('Rooms', ROOMS, ...Array.from({ length: many }, (_, i) => [`Room ${i}`, '13']));
    expect(read([rows(5001)]).faults[0]!.words).toContain('5000 are read at most');
    expect(read([rows(5000)]).rooms.length).toBe(5000);
  });

  it('a comma house reads its own figures', () => {
    const { rooms } = readHouseSheets({
      sheets: [sheet('Rooms', ROOMS, ['Cellar', '13,5'])],
      known: NOTHING,
      decimalMark: 'comma',
    });
    expect(rooms[0]!.usualCelsius).toBe(13.5);
  });

  it('equipment comes with its room, of this house or of the same workbook; what is half said names its cell', () => {
    const head = ['Tag', 'What', 'Name', 'Weighs up to, g', 'Smallest step, g', 'How many', 'In words', 'Room'];
    const rows = [
      ['sc1', 'scale', 'Bench scale', '6000', '1', '', '', 'cellar'],
      ['AL', 'parts', 'Airlocks', '', '', '14', 'with gasket', ''],
      ['T1', 'tool', 'Shredder', '6000', '1', '3', '', ''],
      ['SC2', 'scale', 'Floor scale', '6000', '', '', '', ''],
      ['GW', 'parts', 'Weights', '', '', '2.5', '', ''],
      ['AL', 'parts', 'Airlocks again', '', '', '3', '', ''],
      ['TAP1', 'water', 'Tap', '', '', '', '', 'Attic'],
      ['OLD', 'tool', 'Paddle', '', '', '', '', ''],
    ];
    const found = readHouseSheets({
      sheets: [
        {
          name: 'Rooms',
          rows: [
            ['Room', 'Usual °C'],
            ['Cellar', '14'],
          ].map((cells, at) => ({ row: at + 1, cells })),
        },
        { name: 'Equipment', rows: [head, ...rows].map((cells, at) => ({ row: at + 1, cells })) },
      ],
      known: {
        rooms: [],
        tags: [],
        suppliers: [],
        prefixes: [],
        materials: [],
        people: [],
        initials: [],
        equipment: ['OLD'],
      },
    });
    const none = { capacityGrams: null, stepGrams: null, count: null, words: null, room: null };
    expect(found.equipment).toEqual([
      { ...none, tag: 'SC1', kind: 'scale', name: 'Bench scale', capacityGrams: 6000, stepGrams: 1, room: 'Cellar' },
      { ...none, tag: 'AL', kind: 'parts', name: 'Airlocks', count: 14, words: 'with gasket' },
      { ...none, tag: 'T1', kind: 'tool', name: 'Shredder' },
    ]);
    expect([found.known, found.faults.map(({ cell }) => cell)]).toEqual([1, ['D5', 'F6', 'A7', 'H8']]);
  });
});

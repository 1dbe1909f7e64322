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
  formulas: [],
  kinds: {},
  taken: [],
  runs: [],
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
        purity: null,
        trimYield: 0.7,
        allergens: [],
        gramsPer15Ml: null,
        group: null,
        atDoor: [],
      },
      {
        name: 'Mustard seed',
        kind: 'flavouring',
        waterFraction: 0.06,
        saltFraction: 0,
        purity: null,
        trimYield: null,
        allergens: ['mustard'],
        gramsPer15Ml: 11,
        group: null,
        atDoor: [],
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
      known: { ...NOTHING, equipment: ['OLD'] },
    });
    const none = { capacityGrams: null, stepGrams: null, count: null, words: null, room: null };
    expect(found.equipment).toEqual([
      { ...none, tag: 'SC1', kind: 'scale', name: 'Bench scale', capacityGrams: 6000, stepGrams: 1, room: 'Cellar' },
      { ...none, tag: 'AL', kind: 'parts', name: 'Airlocks', count: 14, words: 'with gasket' },
      { ...none, tag: 'T1', kind: 'tool', name: 'Shredder' },
    ]);
    expect([found.known, found.faults.map(({ cell }) => cell)]).toEqual([1, ['D5', 'F6', 'A7', 'H8']]);
  });

  it('a vessel brings what it is made of and weighs; a material its group, and what is asked of it at the door', () => {
    const found = read(
      [
        sheet(
          'Vessels',
          VESSELS,
          ['C1', 'crock', '30', '', '90', '', 'cloth', 'Cellar', 'stoneware', '240', '9800', '2024-03-01'],
          ['C2', 'crock', '30', '', '90', '', 'cloth', 'Cellar', 'tin', '5', '', '1 March 2024'],
        ),
        sheet(
          'Materials',
          MATERIALS,
          ['Leeks', 'produce', '87', '', '', '', '', 'vegetable', 'its variety, celsius'],
          ['Chard', 'produce', '90', '', '', '', '', 'roots', 'its colour'],
        ),
      ],
      { rooms: ['Cellar'] },
    );
    expect(found.vessels.map(({ details }) => details)).toEqual([
      { material: 'stoneware', mouthMm: 240, tareGrams: 9800, boughtOn: '2024-03-01' },
    ]);
    expect(found.materials.map(({ name, group, atDoor }) => [name, group, atDoor])).toEqual([
      ['Leeks', 'vegetable', ['variety', 'celsius']],
    ]);
    expect(found.faults.map(({ cell }) => cell)).toEqual(['I3', 'J3', 'L3', 'H3', 'I3']);
  });

  describe('formulas and what stands there already', () => {
    const F = [...HOUSE_SHEETS.Formulas];
    const L = [...HOUSE_SHEETS['Formula lines']];
    const S = [...HOUSE_SHEETS.Standing];
    const kinds = {
      Kohlrabi: 'produce',
      Celeriac: 'produce',
      Garlic: 'produce',
      Juniper: 'flavouring',
      'Pan salt': 'salt',
    };
    const of = (...sheets: SheetRead[]) => read(sheets, { kinds, tags: ['C1', 'C2'], taken: ['C2'] });
    const shred = [
      'Winter shred',
      'in its own juice',
      '2.2',
      'of the vegetable',
      'pan salt',
      '',
      '78',
      '95',
      '97',
      '330',
      '320',
      '28',
      '',
    ];

    it('come with their lines: produce by share, anything else by one amount; what nobody says stays open', () => {
      const found = of(
        sheet('Formulas', F, shred, ['Sticks', 'in brine', '', '', '', '', '90', '96', '98', '500', '480', '10', '4']),
        sheet(
          'Formula lines',
          L,
          ['winter shred', 'Kohlrabi', '70', '', '', ''],
          ['Winter shred', 'Celeriac', '30', '', '', ''],
          ['Winter shred', 'juniper', '', '', '300', ''],
          ['Winter shred', 'Garlic', '', '12', '', ''],
          ['Sticks', 'Kohlrabi', '', '', '', ''],
          ['Sticks', 'Juniper', '', '', '', ''],
        ),
      );
      expect(found.faults).toEqual([]);
      expect(found.formulas).toEqual([
        {
          name: 'Winter shred',
          made: 'shred',
          saltFraction: 0.022,
          saltBasis: 'ofVegetable',
          salt: 'Pan salt',
          waterPerProduce: 0,
          yields: { trim: 0.78, ferment: 0.95, pack: 0.97 },
          jar: { sizeMl: 330, fillGrams: 320 },
          usualDays: 28,
          firstTaste: 14,
          produce: [
            { material: 'Kohlrabi', share: 0.7 },
            { material: 'Celeriac', share: 0.3 },
          ],
          lines: [
            { material: 'Juniper', scaleBy: 'saltMass', amount: 0.3 },
            { material: 'Garlic', scaleBy: 'mainMass', amount: 0.012 },
          ],
        },
        jasmine.objectContaining({
          name: 'Sticks',
          made: 'brine',
          saltFraction: null,
          saltBasis: null,
          waterPerProduce: null,
          firstTaste: 4,
          produce: [{ material: 'Kohlrabi', share: 1 }],
          lines: [{ material: 'Juniper', scaleBy: 'mainMass', amount: null }],
        }) as never,
      ]);
    });

    const LINE_FAULTS: [string, string[][], string, RegExp][] = [
      [
        'shares that make no whole',
        [
          ['Kohlrabi', '70', '', '', ''],
          ['Celeriac', '20', '', '', ''],
        ],
        'A2',
        /make 90 %, not 100/,
      ],
      [
        'a share that is missing',
        [
          ['Kohlrabi', '70', '', '', ''],
          ['Celeriac', '', '', '', ''],
        ],
        'C3',
        /its share of the produce is missing/,
      ],
      ['no produce at all', [['Juniper', '', '2', '', '']], 'A2', /of what Winter shred is made/],
      [
        'a share of a spice',
        [
          ['Kohlrabi', '', '', '', ''],
          ['Juniper', '3', '', '', ''],
        ],
        'C3',
        /no produce/,
      ],
      [
        'two amounts',
        [
          ['Kohlrabi', '', '', '', ''],
          ['Juniper', '', '2', '300', ''],
        ],
        'C3',
        /more than one amount/,
      ],
      [
        'a material of no house',
        [
          ['Kohlrabi', '', '', '', ''],
          ['Myrrh', '', '2', '', ''],
        ],
        'B3',
        /“Myrrh” is no material/,
      ],
    ];
    for (const [what, lines, cell, words] of LINE_FAULTS)
      it(`${what} is named by its cell, and the formula stays out`, () => {
        const found = of(
          sheet('Formulas', F, shred),
          sheet('Formula lines', L, ...lines.map((line) => ['Winter shred', ...line])),
        );
        expect(found.faults.map((fault) => fault.cell)).toEqual([cell]);
        expect(found.faults[0]!.words).toMatch(words);
      });

    it('a line of a formula that stands nowhere is a fault; one of the house is left as it is', () => {
      const lines = sheet(
        'Formula lines',
        L,
        ['Old sauce', 'Kohlrabi', '', '', '', ''],
        ['Nowhere', 'Kohlrabi', '', '', '', ''],
      );
      const found = read([lines], { kinds, formulas: ['Old sauce'] });
      expect([found.known, found.faults.map(({ cell }) => cell)]).toEqual([1, ['A3']]);
      const again = read(
        [sheet('Formulas', F, shred), sheet('Formula lines', L, ['Winter shred', 'Kohlrabi', '', '', '', ''])],
        {
          kinds,
          formulas: ['winter shred'],
        },
      );
      expect([again.formulas.length, again.known, again.faults]).toEqual([0, 1, []]);
    });

    it('vessels and jars from before the book, once each', () => {
      const rows = sheet(
        'Standing',
        S,
        ['vessel', 'Shred of October', 'c1', '14.6', '', '', '', '2026-10-20'],
        ['vessel', 'Mash', 'C2', '8', '', '', '', ''],
        ['vessel', 'Mash', 'C9', '8', '', '', '', ''],
        ['jars', 'Sauce', '', '', '42', '250', '240', ''],
        ['jars', 'Sticks', '', '', '4.5', '500', '480', ''],
        ['jars', 'Sticks', '', '', '12', '500', '480', '24 Nov'],
      );
      const found = of(rows);
      expect(found.standing).toEqual([
        { what: 'vessel', name: 'Shred of October', tag: 'C1', grams: 14_600, filledOn: '2026-10-20' },
        { what: 'jars', name: 'Sauce', count: 42, sizeMl: 250, netGrams: 240, filledOn: null },
      ]);
      expect([found.known, found.faults.map(({ cell }) => cell)]).toEqual([1, ['C4', 'E6', 'H7']]);
      const again = read([rows], {
        tags: ['C1', 'C2', 'C9'],
        taken: ['C1', 'C2', 'C9'],
        runs: [{ name: 'sauce', jars: 42 }],
      });
      expect([again.standing.length, again.known]).toEqual([0, 4]);
    });
  });
});

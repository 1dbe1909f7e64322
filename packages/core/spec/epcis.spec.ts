import { epcisProblems, type EpcisDocument, type EpcisInput, spreadsheetCell, writeEpcis } from '../src/index.js';

const id = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const events: EpcisInput[] = [
  {
    id: id(1),
    at: '2026-10-07T07:10:00.000Z',
    offset: '+01:00',
    kind: 'received',
    from: 'Low Mill Spices',
    what: { lot: 'LM-0002', kilograms: 2.5 },
    paper: 'LS 4711',
  },
  {
    id: id(2),
    at: '2026-10-30T10:20:00.000Z',
    offset: '+00:00',
    kind: 'made',
    of: [
      { lot: 'NY26-280-A-D1', kilograms: 11.94 },
      { lot: 'LM-0002', kilograms: 0.012 },
    ],
    what: { lot: 'NY26-280-A-01', kilograms: 11.952 },
    step: 'packing',
  },
  {
    id: id(3),
    at: '2026-11-11T07:30:00.000Z',
    offset: '+00:00',
    kind: 'shipped',
    to: 'The Copper Ladle',
    what: { lot: 'NY26-280-A-01', pieces: 12 },
    paper: 'D26-0003',
  },
];
const document = (): EpcisDocument =>
  writeEpcis({ base: 'https://house.example', at: '2026-11-26T15:00:00.000Z', events });

describe('events as others read them', () => {
  it('keep the rules the house holds them to', () => expect(epcisProblems(document())).toEqual([]));
  it('say what came, what was made of what, what went out; masses in kilograms, jars by the piece', () => {
    const [came, made, sent] = document().epcisBody.eventList;
    expect([came!.type, came!.bizStep, came!.quantityList]).toEqual([
      'ObjectEvent',
      'receiving',
      [{ epcClass: 'https://house.example/trace/LM-0002', quantity: 2.5, uom: 'KGM' }],
    ]);
    expect([made!.type, made!.inputQuantityList!.length, made!.outputQuantityList![0]!.quantity]).toEqual([
      'TransformationEvent',
      2,
      11.952,
    ]);
    expect(sent!.quantityList).toEqual([{ epcClass: 'https://house.example/trace/NY26-280-A-01', quantity: 12 }]);
    expect(sent!.destinationList![0]!.destination).toContain('The%20Copper%20Ladle');
  });
  it('come back from their text as they went into it', () =>
    expect(JSON.parse(JSON.stringify(document()))).toEqual(document() as never));
  const broken: [string, (of: EpcisDocument) => unknown][] = [
    ['no moment', (of) => Object.assign(of.epcisBody.eventList[0]!, { eventTime: '2026-10-07' })],
    ['two of one id', (of) => Object.assign(of.epcisBody.eventList[1]!, { eventID: `urn:uuid:${id(1)}` })],
    ['nothing went in', (of) => Object.assign(of.epcisBody.eventList[1]!, { inputQuantityList: [] })],
    ['no action', (of) => Object.assign(of.epcisBody.eventList[0]!, { action: undefined })],
    [
      'a code that is no address',
      (of) => Object.assign(of.epcisBody.eventList[2]!, { quantityList: [{ epcClass: 'NY26 280', quantity: 1 }] }),
    ],
    [
      'less than nothing',
      (of) => Object.assign(of.epcisBody.eventList[2]!, { quantityList: [{ epcClass: 'https://a/b', quantity: -1 }] }),
    ],
  ];
  for (const [what, breakIt] of broken)
    it(`${what} is named`, () => {
      const of = JSON.parse(JSON.stringify(document())) as EpcisDocument;
      breakIt(of);
      expect(epcisProblems(of).length).toBeGreaterThan(0);
    });
});

describe('words in a spreadsheet', () => {
  for (const text of ['=1+1', '+1', '-1', '@sum', '\tx', '\rx'])
    it(`${JSON.stringify(text)} stays words`, () => expect(spreadsheetCell(text)).toBe(`'${text}`));
  it('others are left alone', () => expect(spreadsheetCell('Baby turnips')).toBe('Baby turnips'));
});

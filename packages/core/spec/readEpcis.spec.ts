import { readDeliveryRows, readEpcis, writeEpcis } from '../src/index.js';

const shipping = (more: object = {}): object => ({
  type: 'ObjectEvent',
  eventID: 'urn:uuid:00000000-0000-4000-8000-000000000001',
  eventTime: '2026-11-24T06:00:00Z',
  eventTimeZoneOffset: '+00:00',
  bizStep: 'shipping',
  quantityList: [{ epcClass: 'urn:epc:class:lgtin:0614141.107346.GP%2F7', quantity: 12.5, uom: 'KGM' }],
  sourceList: [{ type: 'possessing_party', source: 'https://growers.example/party/Fen%20Growers' }],
  ...more,
});
const document = (...events: object[]): string =>
  JSON.stringify({ type: 'EPCISDocument', schemaVersion: '2.0', epcisBody: { eventList: events } });
const rowsOf = (...events: object[]): readonly (readonly string[])[] => {
  const read = readEpcis(document(...events));
  return read.ok ? read.value.rows : [];
};

describe('events of somebody else’s system, as a delivery', () => {
  const cases: readonly (readonly [string, object, readonly string[]])[] = [
    ['a class with a lot', shipping(), ['0614141.107346', 'Fen Growers', 'GP/7', '12.5', 'kg', '']],
    [
      'a Digital Link, in grams, with its last day',
      shipping({
        quantityList: [{ epcClass: 'https://id.example/01/09506000134352/10/AB-12', quantity: 900, uom: 'GRM' }],
        ilmd: { 'cbvmda:itemExpirationDate': '2027-01-31T00:00:00Z' },
      }),
      ['09506000134352', 'Fen Growers', 'AB-12', '900', 'g', '2027-01-31'],
    ],
    [
      'pieces, at a step written as a URN',
      shipping({
        bizStep: 'urn:epcglobal:cbv:bizstep:receiving',
        quantityList: [{ epcClass: 'https://jars.example/lots/J-9', quantity: 480 }],
      }),
      ['', 'Fen Growers', 'J-9', '480', 'pcs', ''],
    ],
    [
      'a step written as an address; a unit nobody knows stays as it is',
      shipping({
        bizStep: 'https://ref.gs1.org/cbv/BizStep-shipping',
        quantityList: [{ epcClass: 'https://x.example/lots/L1', quantity: 3, uom: 'XYZ' }],
        sourceList: [],
      }),
      ['', '', 'L1', '3', 'XYZ', ''],
    ],
    [
      'no quantity is no figure',
      shipping({ quantityList: [{ epcClass: 'https://x.example/lots/L1', quantity: '4' }] }),
      ['', 'Fen Growers', 'L1', '', 'pcs', ''],
    ],
  ];
  for (const [what, event, row] of cases) it(`reads ${what}`, () => expect(rowsOf(event)).toEqual([row]));

  it('leaves aside what brings no goods, and says how many', () => {
    const made = { type: 'TransformationEvent', bizStep: 'packing', outputQuantityList: [] };
    const read = readEpcis(document(made, shipping(), shipping({ quantityList: [] })));
    expect(read.ok && [read.value.rows.length, read.value.aside, read.value.events]).toEqual([
      1,
      2,
      ['urn:uuid:00000000-0000-4000-8000-000000000001'],
    ]);
  });

  for (const odd of ['', '[]', '{"type":"EPCISDocument"}', 'null', '{"type":"Recipe","epcisBody":{}}', document()])
    it(`refuses ${odd.slice(0, 40) || 'nothing'}, with words`, () => {
      const read = readEpcis(odd);
      expect(read.ok ? '' : read.refusal.message).toMatch(/no EPCIS document|brings goods/);
    });

  it('reads what a house of this kind sent, with its names: jars by the piece, masses as they were', () => {
    const sent = writeEpcis({
      base: 'https://house.example',
      at: '2026-11-26T15:00:00.000Z',
      events: [
        {
          id: '00000000-0000-4000-8000-000000000009',
          at: '2026-11-26T07:00:00.000Z',
          offset: '+00:00',
          kind: 'received',
          from: 'Low Mill Spices',
          what: { lot: 'LM-0002', name: 'Juniper berries', kilograms: 2.5 },
          paper: null,
        },
      ],
    });
    const read = readEpcis(JSON.stringify(sent));
    expect(read.ok && read.value.rows).toEqual([['Juniper berries', 'Low Mill Spices', 'LM-0002', '2.5', 'kg', '']]);
    const [row] = readDeliveryRows({
      head: read.ok ? read.value.head : [],
      rows: read.ok ? read.value.rows : [],
      isMaterial: (name) => name === 'Juniper berries',
      isSupplier: (name) => name === 'Low Mill Spices',
    });
    expect([row!.grams, row!.lot, row!.errors]).toEqual([2500, 'LM-0002', []]);
  });
});

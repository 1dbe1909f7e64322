import { type EpcisDocument, epcisProblems } from '@clear-tally/core';
import exceljs from 'exceljs';
import papaparse from 'papaparse';
import { Client } from './client.js';
import { ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, packJars, receive, sour } from './oneBatch.js';

describe('records that leave', () => {
  let house: TestHouse;
  let maker: Client;
  let run: { runLotId: string; code: string };
  const csv = async (name: string): Promise<Record<string, string>[]> =>
    papaparse.parse<Record<string, string>>(
      (await maker.bytes(`/api/records/${name}`)).toString('utf8').replace(/^\uFEFF/, ''),
      {
        header: true,
        skipEmptyLines: true,
      },
    ).data;

  beforeAll(async () => {
    house = await openHouse('spec_records');
    maker = await Client.signIn(house, house.maker);
    const owner = await Client.signIn(house, house.owner);
    await receive(house, house.names.pepper, 2000, '=cmd|evil', daysAgo(45));
    const batch = await dryBatch(house, { tag: 'C1', at: daysAgo(40) });
    await sour(house, batch.fillId, daysAgo(40), daysAgo(9));
    run = await packJars(house, batch.fillId, 12, { at: daysAgo(9), brine: 'own', storage: 'cold' });
    const customerId = ids.next();
    await house.record('customer.add', {
      customerId,
      name: 'Łódź & Sons',
      customerKind: 'shop',
      address: '1 Quay',
      contact: null,
    });
    await owner.send('POST', '/api/session/proof', { pin: PIN });
    const released = await owner.record('run.release', { runLotId: run.runLotId, excuses: {} });
    if (released.status !== 200) throw new Error(JSON.stringify(released.body));
    await house.record('jars.dispatch', {
      dispatchId: ids.next(),
      customerId,
      jars: [{ runLotId: run.runLotId, first: 1, last: 5 }],
      note: null,
    });
    await house.record(
      'vessel.clean',
      { vesselId: house.vessel('C2'), agent: 'soda', rinsed: true },
      { by: house.maker },
    );
  }, 60_000);
  afterAll(() => house.close());

  it('received: both codes, the supplier, the mass; words that begin like a formula stay words', async () => {
    const rows = await csv('receiving.csv');
    const pepper = rows.find((row) => row['Product'] === 'Black pepper')!;
    expect(pepper['Supplier’s lot']).toBe("'=cmd|evil");
    expect(pepper['Quantity, kg or pieces']).toBe('2');
    expect(pepper['Lot code']).toMatch(/^[A-Z]{2}-\d{4}$/);
  });
  it('made: what went into what, with both codes; sent: every jar by its codes', async () => {
    const made = await csv('transformation.csv');
    const packed = made.filter((row) => row['What'] === 'packed');
    expect(packed.map((row) => [row['New lot'], row['Quantity, kg']])).toEqual([[run.code, '3.84']]);
    const [sent] = await csv('shipping.csv');
    expect([sent!['To'], sent!['Jars'], sent!['Net, kg'], sent!['First jar']!.slice(0, -2)]).toEqual([
      'Łódź & Sons',
      '5',
      '1.6',
      `${run.code}-00001`,
    ]);
  });
  it('readings and cleanings stand there; days outside give none', async () => {
    expect(
      (await csv('readings.csv')).some((row) => row['What'] === 'pH' && row['Counts for release'] === 'yes'),
    ).toBeTrue();
    expect((await csv('cleaning.csv'))[0]!['Rinsed']).toBe('yes');
    expect(await csv('readings.csv?from=1990-01-01&to=1990-12-31')).toEqual([]);
    expect((await maker.get('/api/records/readings.csv?from=yesterday')).status).toBe(400);
    expect((await maker.get('/api/records/secrets.csv')).status).toBe(400);
  });
  it('the sheet opens with the same rows, its head frozen', async () => {
    const reply = await maker.bytes('/api/records/receiving.xlsx');
    const book = new exceljs.Workbook();
    await book.xlsx.load(reply as never);
    const sheet = book.worksheets[0]!;
    expect(sheet.rowCount).toBe((await csv('receiving.csv')).length + 1);
    expect(sheet.getRow(1).getCell(2).value).toBe('Lot code');
  });
  it('events keep the rules they are held to; the run is made of its vessel, and went to its customer', async () => {
    const document = JSON.parse((await maker.bytes('/api/records/events.jsonld')).toString('utf8')) as EpcisDocument;
    expect(epcisProblems(document)).toEqual([]);
    const { eventList } = document.epcisBody;
    const made = eventList.find(({ transformationID }) => transformationID?.endsWith(`/trace/${run.code}`))!;
    expect([made.bizStep, made.inputQuantityList!.length, made.outputQuantityList![0]!.quantity]).toEqual([
      'packing',
      1,
      3.84,
    ]);
    expect(eventList.filter(({ bizStep }) => bizStep === 'shipping').length).toBe(1);
  });
});

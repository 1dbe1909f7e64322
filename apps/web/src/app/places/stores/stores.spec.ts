import { TestBed } from '@angular/core/testing';
import type { HouseReply, StockReply } from '@clear-tally/contract';
import { FakeApi, inHouse, ODILE, within } from '../../state/testing';
import { Delivery } from './delivery';
import { DeliveryList } from './delivery-list';
import { NewSupplier } from './new-supplier';
import { keepingWords } from './keeping-words';
import { Stock } from './stock';

const id = (last: string): string => `018f6b1e-0000-7000-8000-0000000000${last}`;
const lot = (last: string, over: Partial<StockReply['lots'][number]> = {}): StockReply['lots'][number] => ({
  lotId: id(last),
  code: `CG-00${last}`,
  materialId: id('e1'),
  materialName: 'Kohlrabi',
  kind: 'produce',
  supplierName: 'Causeway Growers',
  supplierLotCode: 'F2-KO',
  onHandGrams: 12_000,
  receivedAt: '2026-11-20T07:00:00Z',
  useBy: null,
  hold: null,
  until: null,
  keeps: 'noDate',
  days: null,
  state: 'asReceived',
  unit: 'g',
  standsFor: null,
  photo: null,
  cost: null,
  reference: null,
  condition: null,
  door: null,
  keepsUntil: null,
  ...over,
});
const house: Partial<HouseReply> = {
  suppliers: [{ id: id('d1'), name: 'Causeway Growers', prefix: 'CG', ownPlot: false }],
  materials: [
    {
      id: id('e1'),
      name: 'Kohlrabi',
      kind: 'produce',
      waterFraction: 0.91,
      saltFraction: 0,
      allergens: [],
      caution: null,
      details: { keepsOpenedDays: 3 },
    },
  ],
};

describe('how long a lot keeps, in words', () => {
  const words = (
    days: number | null,
    keeps: 'noDate' | 'keeps' | 'soon' | 'past',
    state: 'asReceived' | 'opened' = 'asReceived',
  ) => keepingWords({ days, keeps, state, until: '2026-12-24' });
  it('says what a hand in the store needs', () => {
    expect([
      words(null, 'noDate'),
      words(0, 'soon'),
      words(1, 'soon'),
      words(2, 'soon'),
      words(31, 'keeps'),
      words(-1, 'past'),
      words(-4, 'past'),
    ]).toEqual([
      null,
      'use it today',
      'use by tomorrow',
      'use within 2 days',
      'keeps until 24 Dec 2026',
      '1 day past its date',
      '4 days past its date',
    ]);
    expect(words(2, 'soon', 'opened')).toBe('opened, use within 2 days');
  });
});

describe('the stock', () => {
  let api: FakeApi;
  const open = async (
    reply: StockReply = {
      today: '2026-11-23',
      low: [{ materialId: id('e9'), name: 'Black pepper', onHandGrams: 400, lowStockGrams: 1000, unit: 'g' }],
      lots: [lot('01', { keeps: 'past', days: -1, until: '2026-11-22' }), lot('02', { hold: 'recall' }), lot('03')],
    },
  ) => {
    api = new FakeApi({ '/api/stock': reply });
    inHouse(api, house);
    const fixture = TestBed.createComponent(Stock);
    await fixture.whenStable();
    await fixture.whenStable();
    return within(fixture);
  };
  it('says what runs low, what is past its date, what is on hold', async () => {
    const page = await open();
    expect(page.text()).toContain('Running low: Black pepper, 400 g of 1,000 g.');
    expect(page.text()).toContain('1 day past its date');
    expect(page.text()).toContain('on hold');
  });
  it('a count goes in at its line', async () => {
    const page = await open();
    await page.press('CG-0003');
    await page.type('Counted, on the scale', '11.5 kg');
    await page.press('Record 11.50 kg');
    expect(api.sent[0]![0]).toEqual(
      jasmine.objectContaining({
        kind: 'stock.count',
        body: { lotId: id('03'), grams: 11_500, reason: null } as never,
      }),
    );
  });
  it('a difference that wants a reason asks for it, and keeps the figure', async () => {
    const page = await open();
    await page.press('CG-0003');
    await page.type('Counted, on the scale', '8 kg');
    api.refusal = {
      code: 'stock.reasonNeeded',
      field: 'reason',
      detail: '4,000 g missing. Say where the difference comes from.',
    } as never;
    await page.press('Record 8,000 g');
    api.refusal = null;
    expect(page.field('Counted, on the scale').value).toBe('8 kg');
    await page.type('Where the difference comes from', 'sold at the market');
    await page.press('Record 8,000 g');
    expect((api.sent[0]![0]!.body as { reason: string }).reason).toBe('sold at the market');
  });
  it('opened, it keeps as long as its material says', async () => {
    const page = await open();
    await page.press('CG-0003');
    await page.press('opened');
    expect(page.field('Keeps until').value).toBe('26 Nov 2026');
    await page.press('Record it as opened');
    expect(api.sent[0]![0]!.body).toEqual({ lotId: id('03'), state: 'opened', keepsUntil: '2026-11-26' } as never);
  });
  it('is found by code, material and supplier; an empty store says so', async () => {
    const page = await open();
    await page.type('Find', 'cg-0002');
    expect(page.element.querySelectorAll('tbody tr').length).toBe(1);
    TestBed.resetTestingModule();
    expect((await open({ today: '2026-11-23', low: [], lots: [] })).text()).toContain('The stores are empty.');
  });
});

describe('a delivery list', () => {
  const open = async (of: Partial<HouseReply> = house) => {
    const api = new FakeApi();
    inHouse(api, of);
    const fixture = TestBed.createComponent(DeliveryList);
    await fixture.whenStable();
    const page = within(fixture);
    const settle = async (): Promise<void> => {
      await new Promise((resolve) => setTimeout(resolve, 120));
      await fixture.whenStable();
    };
    const give = async (text: string, name = 'list.csv'): Promise<void> => {
      const before = page.text();
      await page.give(new File([text], name));
      // A file is read in its own time.
      for (let turn = 0; turn < 100 && (turn === 0 || page.text() === before); turn += 1) await settle();
    };
    return { ...page, api, give, settle };
  };
  const rows = (count: number): string =>
    Array.from({ length: count }, (_, i) => `Kohlrabi,Causeway Growers,F${i},${i + 1},kg`).join('\n');
  it('shows what is wrong before anything is received, and receives what is sound', async () => {
    const page = await open();
    await page.give(`material,supplier,lot,quantity,unit\n${rows(450)}\nBeets,Nobody,,2,kg`);
    expect(page.text()).toContain('450 rows are sound, 1 has something to mend.');
    expect(page.api.sent).toEqual([]);
    await page.press('Receive 450 sound rows');
    await page.settle();
    expect(page.api.sent.map(([entry]) => (entry!.body as { lines: unknown[] }).lines.length)).toEqual([400, 50]);
    expect(page.text()).toContain('450 lines are received. What is left above wants mending first.');
    expect(page.text()).toContain('“Beets” is not known here');
  });
  it('without a fault comes in whole or not at all: one piece, however long', async () => {
    const page = await open();
    await page.give(`material,supplier,lot,quantity,unit\n${rows(450)}`);
    page.api.refusal = {
      type: 'about:blank',
      title: 'No',
      status: 409,
      code: 'lot.closed',
      detail: 'Their lot F7 is here already.',
    };
    await page.press('Receive all 450');
    await page.settle();
    expect(page.text()).toContain('Their lot F7 is here already.');
    expect(page.text()).toContain('450 rows are sound');
    page.api.refusal = null;
    await page.press('Receive all 450');
    await page.settle();
    expect(page.api.sent.length).toBe(1);
    expect(page.api.sent[0]!.map((entry) => (entry.body as { lines: unknown[] }).lines.length)).toEqual([400, 50]);
  });
  it('events of a supplier’s system come in by what their names are here, each once in whichever file it comes', async () => {
    const shipping = (id: number, lot: string): object => ({
      type: 'ObjectEvent',
      eventID: `urn:uuid:00000000-0000-4000-8000-00000000000${id}`,
      bizStep: 'shipping',
      quantityList: [{ epcClass: `urn:epc:class:lgtin:0614141.107346.${lot}`, quantity: 12.5, uom: 'KGM' }],
      sourceList: [{ type: 'possessing_party', source: 'https://x.example/party/Causeway%20Growers' }],
    });
    const fileOf = (...eventList: object[]): string =>
      JSON.stringify({ type: 'EPCISDocument', epcisBody: { eventList } });
    const made = { type: 'TransformationEvent', bizStep: 'packing' };
    const received = async (file: string, many: number): Promise<string> => {
      const page = await open();
      await page.give(file, 'sent.jsonld');
      expect(page.text()).toContain('1 event of the file brings no goods');
      expect(page.text()).toContain('“0614141.107346” is the material');
      await page.choose('“0614141.107346” is the material', 'Kohlrabi');
      await page.settle();
      await page.press(`Receive all ${many}`);
      await page.settle();
      const [entry] = page.api.sent[0]!;
      const { lines } = entry!.body as { lines: { lotId: string; grams: number; supplierLotCode: string }[] };
      TestBed.resetTestingModule();
      const line = lines.find(({ supplierLotCode }) => supplierLotCode === 'K7')!;
      expect(line.grams).toBe(12_500);
      return line.lotId;
    };
    const once = await received(fileOf(made, shipping(1, 'K7')), 1);
    expect(await received(fileOf(made, shipping(1, 'K7')), 1)).toBe(once);
    expect(await received(fileOf(shipping(2, 'K9'), made, shipping(1, 'K7')), 2)).toBe(once);
  });
  it('what a material asks at the door is said once for all rows that do not say it', async () => {
    const page = await open({
      ...house,
      materials: house.materials!.map((one) =>
        one.name === 'Kohlrabi' ? { ...one, details: { atDoor: ['variety', 'celsius'] as const as never } } : one,
      ),
    });
    await page.give(
      'material,supplier,lot,quantity,unit,temperature\nKohlrabi,Causeway Growers,F1,2,kg,\nKohlrabi,Causeway Growers,F2,3,kg,4',
    );
    expect(page.text()).toContain('Kohlrabi, 2 rows that do not say it');
    expect(page.text()).toContain('0 rows are sound, 2 have something to mend.');
    await page.type('Variety', 'Superschmelz');
    expect(page.text()).toContain('1 row is sound, 1 has something to mend.');
    await page.type('Its temperature', '6.5');
    await page.press('Receive all 2');
    await page.settle();
    const { lines } = page.api.sent[0]![0]!.body as { lines: { door: object }[] };
    expect(lines.map(({ door }) => door)).toEqual([
      { variety: 'Superschmelz', celsius: 6.5 },
      { variety: 'Superschmelz', celsius: 4 },
    ]);
  });
  it('a lost line stops it; what was received has left the list, and nothing comes in twice', async () => {
    const page = await open();
    await page.give(`material,supplier,lot,quantity,unit\n${rows(30)}`);
    page.api.refusal = { code: 'offline', detail: 'The server does not answer.' };
    await page.press('Receive all 30');
    await page.settle();
    expect(page.text()).toContain('The server does not answer.');
    page.api.refusal = null;
    await page.press('Receive all 30');
    await page.settle();
    expect(page.api.sent.length).toBe(1);
    expect(page.text()).toContain('30 lines are received.');
  });
  it('a file without rows says so', async () => {
    const page = await open();
    await page.give('material,supplier');
    expect(page.text()).toContain('no rows below its first one');
  });
});

describe('a supplier', () => {
  const open = async () => {
    const api = new FakeApi();
    inHouse(api, house, ODILE);
    const fixture = TestBed.createComponent(NewSupplier);
    const added: string[] = [];
    fixture.componentInstance.added.subscribe((id) => added.push(id));
    await fixture.whenStable();
    const page = within(fixture);
    await page.press('Another supplier');
    return { ...page, api, added };
  };
  it('comes in with the letters of its lots; an own plot says so', async () => {
    const page = await open();
    await page.type('Supplier’s name', 'Hill Farm');
    await page.type('Letters of its lots', 'hf');
    page.element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    await page.press('Add Hill Farm');
    expect(page.api.sent[0]![0]!.body).toEqual(
      jasmine.objectContaining({ name: 'Hill Farm', prefix: 'HF', ownPlot: true }) as never,
    );
    expect(page.added).toEqual([(page.api.sent[0]![0]!.body as { supplierId: string }).supplierId]);
  });
  it('letters that are none are asked for again', async () => {
    const page = await open();
    await page.type('Supplier’s name', 'Hill Farm');
    await page.type('Letters of its lots', 'H1');
    expect(page.text()).toContain('Two or three letters');
    expect(page.button('Add Hill Farm').disabled).toBeTrue();
  });
});

describe('a delivery', () => {
  it('begins with one line, and receives nothing half filled in', async () => {
    inHouse(new FakeApi(), house);
    const fixture = TestBed.createComponent(Delivery);
    await fixture.whenStable();
    const page = within(fixture);
    expect(page.button('Receive').disabled).toBeTrue();
    await page.press('Another line');
    expect(page.text()).toContain('Line 2');
    await page.press('Leave line 2 out');
    expect(page.text()).not.toContain('Line 2');
  });
});

import { TestBed } from '@angular/core/testing';
import { FakeApi, inHouse, within } from '../../state/testing';
import { readTable } from './read-table';
import { RejectLot } from './reject-lot';

const id = '018f6b1e-0000-7000-8000-0000000000b1';
const node = (code: string, kind: string, hold: string | null = null) => ({
  lotId: `${id.slice(0, -2)}${code.slice(-2)}`,
  code,
  kind,
  name: 'Turnips',
  column: 1,
  grams: 1,
  at: '2026-11-20T08:00:00Z',
  origin: 'made',
  supplier: null,
  supplierLotCode: null,
  hold,
  detail: null,
});

describe('a lot rejected after it came in', () => {
  const open = async (nodes: object[], jarCount = 0) => {
    const api = new FakeApi({ '/api/trace/CG-0019': { nodes, flows: [], jars: [], jarCount } });
    inHouse(api);
    const fixture = TestBed.createComponent(RejectLot);
    for (const [name, value] of Object.entries({ lotId: id, code: 'CG-0019', onHand: 800, unit: 'g' }))
      fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    const page = within(fixture);
    await page.press('Reject this lot');
    await fixture.whenStable();
    return { page, api };
  };
  it('shows what was made with it before anything is held', async () => {
    const { page } = await open(
      [node('NY26-320-A', 'batch'), node('NY26-320-A-11', 'fill', 'film'), node('NY26-320-A-12', 'run')],
      96,
    );
    expect(page.text()).toContain('2 lots hold some of it, 96 jars');
    expect(page.text()).toContain('NY26-320-A-11 Turnips, on hold');
    expect(page.button('Hold CG-0019').disabled).toBeTrue();
  });
  it('is held with its reason, or what is left goes back', async () => {
    const { page, api } = await open([]);
    expect(page.text()).toContain('Nothing is made with it yet.');
    await page.type('What is wrong with it', 'mould inside');
    await page.press('Send 800 g back');
    expect(api.sent[0]![0]!.body).toEqual({ lotId: id, sink: 'returned', grams: 800, note: 'mould inside' });
    await page.press('Reject this lot');
    await page.press('Hold CG-0019');
    expect(api.sent[1]![0]!.body).toEqual({ lotId: id, reason: 'mould inside' });
  });
});

describe('a delivery list as a workbook', () => {
  it('its first sheet is read as a CSV would be: dates as days, formulas by their result, empty rows left out', async () => {
    const { default: excel } = await import('exceljs');
    const book = new excel.Workbook();
    const sheet = book.addWorksheet('list');
    sheet.addRow(['material', 'supplier', 'lot', 'kg', 'use by']);
    sheet.addRow([
      'Kohlrabi',
      'Causeway Growers',
      'F2-KO',
      { formula: '6*2', result: 12 },
      new Date(Date.UTC(2026, 10, 30)),
    ]);
    sheet.addRow([]);
    sheet.addRow(['Garlic', 'Causeway Growers', 'F1-GA', 1.5]);
    const file = new File([await book.xlsx.writeBuffer()], 'list.xlsx');
    expect(await readTable(file)).toEqual([
      ['material', 'supplier', 'lot', 'kg', 'use by'],
      ['Kohlrabi', 'Causeway Growers', 'F2-KO', '12', '2026-11-30'],
      ['Garlic', 'Causeway Growers', 'F1-GA', '1.5'],
    ]);
  });
  it('a CSV stays what it was', async () =>
    expect(await readTable(new File(['material,kg\nKohlrabi,12\n'], 'list.csv'))).toEqual([
      ['material', 'kg'],
      ['Kohlrabi', '12'],
    ]));
});

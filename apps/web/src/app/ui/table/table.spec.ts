import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { FakeApi, inHouse, INES, ODILE, within } from '../../state/testing';
import { Cell } from './cell';
import type { Column } from './column';
import { csvOf, type Sheet, xlsxOf } from './leave';
import { Table } from './table';

interface Lot {
  readonly id: string;
  readonly code: string;
  readonly grams: number | null;
  readonly state: string;
  readonly at: string;
}
const LOTS: readonly Lot[] = [
  { id: 'a', code: 'K10', grams: 12_400, state: 'live', at: '2026-11-20T08:00:00Z' },
  { id: 'b', code: 'K2', grams: 850, state: 'on hold', at: '2026-11-22T08:00:00Z' },
  { id: 'c', code: 'K33', grams: null, state: 'live', at: '2025-11-21T08:00:00Z' },
];

@Component({
  imports: [Cell, Table],
  template: `<ct-table
    name="Lots"
    [rows]="rows()"
    [columns]="columns"
    [rowKey]="keyOf"
    [chosen]="picked()"
    (picked)="picked.set($event.id)"
  >
    <ng-template ctCell="code" let-lot
      ><a href="#{{ lot.code }}">{{ lot.code }}</a></ng-template
    >
  </ct-table>`,
})
class Page {
  readonly rows = signal<readonly Lot[]>(LOTS);
  readonly picked = signal<string | null>(null);
  readonly columns: readonly Column<Lot>[] = [
    { key: 'code', head: 'Code', value: ({ code }) => code },
    { key: 'grams', head: 'On hand', kind: 'kg', value: ({ grams }) => grams },
    { key: 'state', head: 'State', value: ({ state }) => state },
    { key: 'at', head: 'Since', kind: 'moment', value: ({ at }) => at, aside: true },
  ];
  readonly keyOf = (lot: Lot): string => lot.id;
}

describe('a table', () => {
  beforeEach(() => localStorage.removeItem('ct.tables'));
  const open = async (rows: readonly Lot[] = LOTS, house = {}, person: typeof INES | typeof ODILE = INES) => {
    TestBed.resetTestingModule();
    inHouse(new FakeApi(), house, person);
    const fixture = TestBed.createComponent(Page);
    fixture.componentInstance.rows.set(rows);
    await fixture.whenStable();
    const page = within(fixture);
    const lines = (): string[][] =>
      [...page.element.querySelectorAll('tbody tr:not(.ant-table-measure-row)')].map((row) =>
        [...row.querySelectorAll('td')].map((cell) => cell.textContent!.trim()),
      );
    /** A list that opens over the page. */
    const panel = (): HTMLElement => document.querySelector<HTMLElement>('.ct-table-panel')!;
    const tap = async (of: ParentNode, words: string): Promise<void> => {
      const found = [...of.querySelectorAll<HTMLElement>('button, label')].find(
        (one) => (one.getAttribute('aria-label') ?? one.textContent ?? '').trim() === words,
      )!;
      found.click();
      await fixture.whenStable();
    };
    return { ...page, fixture, lines, panel, tap };
  };

  it('writes masses in one unit, and what is not there as nothing', async () => {
    const page = await open();
    expect([...page.element.querySelectorAll('th')].map((head) => head.textContent!.trim())).toEqual([
      'Code',
      'On hand, kg',
      'State',
    ]);
    expect(page.lines()).toEqual([
      ['K10', '12.40', 'live'],
      ['K2', '0.85', 'on hold'],
      ['K33', '', 'live'],
    ]);
    expect((await open(LOTS, { decimalMark: 'comma' })).lines()[1]![1]).toBe('0,85');
  });
  it('sorts up, down and back; codes by their number; what has no figure comes last either way', async () => {
    const page = await open();
    await page.tap(page.element, 'Code');
    expect(page.lines().map(([code]) => code)).toEqual(['K2', 'K10', 'K33']);
    expect(page.element.querySelector('th')!.getAttribute('aria-sort')).toBe('ascending');
    await page.tap(page.element, 'On hand, kg');
    await page.tap(page.element, 'On hand, kg');
    expect(page.lines().map(([code]) => code)).toEqual(['K10', 'K2', 'K33']);
    await page.tap(page.element, 'On hand, kg');
    expect(page.lines().map(([code]) => code)).toEqual(['K10', 'K2', 'K33']);
    expect([...page.element.querySelectorAll('th')].map((head) => head.getAttribute('aria-sort'))).toEqual([
      'none',
      'none',
      'none',
    ]);
  });
  it('finds by any words, filters by what a column knows or by figures, and says how many of how many', async () => {
    const page = await open();
    await page.type('Find', 'live k3');
    expect(page.lines().map(([code]) => code)).toEqual(['K33']);
    expect(page.text()).toContain('1 of 3');
    await page.press('Show all');
    await page.tap(page.element, 'Filter State');
    await page.tap(page.panel(), 'live');
    expect(page.lines().map(([code]) => code)).toEqual(['K2']);
    await page.tap(page.panel(), 'Close');
    await page.press('Show all');
    await page.tap(page.element, 'Filter On hand');
    const least = page.panel().querySelector<HTMLInputElement>('input')!;
    least.value = '1';
    least.dispatchEvent(new Event('input'));
    await page.settle();
    expect(page.lines().map(([code]) => code)).toEqual(['K10']);
    await page.type('Find', 'nobody');
    expect(page.text()).toContain('Nothing fits what is asked for.');
  });
  it('shows the columns somebody asked for, and remembers them for that person alone', async () => {
    const page = await open();
    await page.press('Columns');
    await page.tap(page.panel(), 'Since');
    await page.tap(page.panel(), 'Code');
    expect(page.lines()[2]).toEqual(['', 'live', 'Fri 21 Nov 2025 08:00']);
    expect((await open()).lines()[0]!.length).toBe(3);
    expect((await open(LOTS, {}, ODILE)).lines()[2]).toEqual(['K33', '', 'live']);
  });
  it('goes by keyboard from line to line', async () => {
    const page = await open();
    document.body.appendChild(page.element);
    const links = [...page.element.querySelectorAll<HTMLElement>('tbody a')];
    links[0]!.focus();
    links[0]!.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true }));
    expect(document.activeElement).toBe(links[1]!);
    links[1]!.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }));
    expect(document.activeElement).toBe(links[0]!);
    page.element.remove();
  });
  it('draws of 5,000 lines those in sight, and says how many there are to who listens', async () => {
    const many = Array.from({ length: 5000 }, (_, i) => ({ ...LOTS[0]!, id: `l${i}`, code: `K${i}` }));
    const page = await open(many);
    await new Promise((done) => setTimeout(done, 50));
    await page.settle();
    expect(page.lines().length).toBeLessThan(120);
    expect(page.element.querySelector('table')!.getAttribute('aria-rowcount')).toBe('5001');
    await page.type('Find', 'k4711');
    expect(page.lines().map(([code]) => code)).toEqual(['K4711']);
  });
});

describe('a table that leaves', () => {
  const sheet: Sheet = {
    name: 'Lots: live/held',
    heads: ['Code', 'On hand, kg', 'State'],
    rows: [
      ['K2', 0.85, 'on; hold'],
      ['=1+1', null, 'a "b"'],
    ],
  };
  it('as CSV, with its mark, quotes, and nothing that a spreadsheet would reckon', async () => {
    expect(await csvOf(sheet, 'point')).toBe(
      '\uFEFFCode,"On hand, kg",State\r\nK2,0.85,on; hold\r\n\'=1+1,,"a ""b"""\r\n',
    );
  });
  it('of a comma house parted by semicolons, with its decimal comma', async () => {
    const rows = [['K2', '0,85', 'on; hold'], ...sheet.rows.slice(1)];
    expect(await csvOf({ ...sheet, rows }, 'comma')).toBe(
      '\uFEFFCode;On hand, kg;State\r\nK2;0,85;"on; hold"\r\n\'=1+1;;"a ""b"""\r\n',
    );
  });
  it('as a workbook whose figures are figures', async () => {
    const { Workbook } = (await import('exceljs')).default;
    const book = new Workbook();
    await book.xlsx.load(await xlsxOf(sheet));
    const page = book.worksheets[0]!;
    expect(page.name).toBe('Lots  live held');
    expect([1, 2, 3].map((row) => (page.getRow(row).values as unknown[]).slice(1))).toEqual([
      ['Code', 'On hand, kg', 'State'],
      ['K2', 0.85, 'on; hold'],
      ["'=1+1", '', 'a "b"'],
    ]);
  });
});

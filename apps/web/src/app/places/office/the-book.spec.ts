import { TestBed } from '@angular/core/testing';
import type { BookLine, JournalReply } from '@clear-tally/contract';
import { FakeApi, inHouse, within } from '../../state/testing';
import { line as lineOf } from '../lots/book.testing';
import { TheBook } from './the-book';

const line = (seq: number, more: Partial<BookLine> = {}): BookLine =>
  lineOf({ entryId: `018f6b1e-0000-7000-8000-0000000000${seq}`, seq, at: '2026-11-25T08:26:00Z', ...more });

describe('everything recorded', () => {
  let api: FakeApi;
  const open = async (replies: Record<string, JournalReply>) => {
    api = new FakeApi(replies);
    inHouse(api);
    const fixture = TestBed.createComponent(TheBook);
    for (let i = 0; i < 3; i += 1) await fixture.whenStable();
    const page = within(fixture);
    const rows = (): string[] =>
      [...fixture.nativeElement.querySelectorAll('tbody tr')].map((row: HTMLElement) => row.textContent!.trim());
    return { ...page, rows, settle: async () => void (await fixture.whenStable(), await fixture.whenStable()) };
  };

  it('opens on the newest, with a way to put each line right and to older ones', async () => {
    const page = await open({
      '/api/journal?many=500': {
        lines: [line(12, { struck: ['5.71'] }), line(11, { correctable: false })],
        next: '11',
      },
      '/api/journal?many=500&before=11': { lines: [line(10, { what: 'Salt weighed' })], next: null },
    });
    expect(page.rows().length).toBe(2);
    expect(document.querySelectorAll('a[aria-label^="Correct pH"]').length).toBe(1);
    expect(document.querySelector('del')!.textContent).toBe('5.71');
    await page.press('Older');
    await page.settle();
    expect(page.text()).toContain('Salt weighed');
    expect(page.rows().length).toBe(1);
  });
  it('of a day: that day of the house, all its pages, and the day before with one press', async () => {
    const page = await open({
      '/api/journal?many=500': { lines: [], next: null },
      '/api/journal?many=500&from=2026-11-26&to=2026-11-26': { lines: [line(12), line(11)], next: '11' },
      '/api/journal?many=500&from=2026-11-26&to=2026-11-26&before=11': { lines: [line(10)], next: null },
      '/api/journal?many=500&from=2026-11-25&to=2026-11-25': { lines: [], next: null },
    });
    await page.press('One day');
    await page.settle();
    expect(page.rows().length).toBe(3);
    await page.press('‹');
    await page.settle();
    expect(page.text()).toContain('Nothing happened then that was recorded.');
  });
  it('days the wrong way round, and more of them than a table holds, are said and not asked', async () => {
    const page = await open({
      '/api/journal?many=500': { lines: [], next: null },
      '/api/journal?many=500&from=2026-11-19&to=2026-11-26': { lines: [line(12)], next: null },
    });
    await page.press('From a day to a day');
    await page.settle();
    expect(page.rows().length).toBe(1);
    const asked = api.asked.length;
    await page.type('Last day', '18 Nov 2026');
    expect(page.text()).toContain('The last day is before the first.');
    await page.type('First day', '1 Mar 2026');
    expect(page.text()).toContain('More than 92 days leave as a sheet');
    expect(api.asked.length).toBe(asked);
  });
});

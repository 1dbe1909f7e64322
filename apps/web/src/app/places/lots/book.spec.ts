import { TestBed } from '@angular/core/testing';
import type { BookLine } from '@clear-tally/contract';
import { FakeApi, inHouse, within } from '../../state/testing';
import { Book } from './book';
import { line } from './book.testing';

describe('the book of a lot', () => {
  let api: FakeApi;
  const open = async (lines: BookLine[], mayCorrect = true) => {
    api = new FakeApi();
    inHouse(api);
    const fixture = TestBed.createComponent(Book);
    fixture.componentRef.setInput('lines', lines);
    fixture.componentRef.setInput('mayCorrect', mayCorrect);
    await fixture.whenStable();
    return within(fixture);
  };

  it('shows when, what, figure, words and initials', async () =>
    expect((await open([line({})])).text()).toContain('Fri 20 Nov 08:26 pH 4.71 blended sampleTR'));
  it('shows both times of what was entered later than it happened, and one of what was entered then', async () => {
    const late = line({ at: '2026-11-19T17:40:00Z', recordedAt: '2026-11-20T08:10:00Z' });
    expect((await open([late])).text()).toMatch(/Thu 19 Nov 17:40\s+entered Fri 20 Nov 08:10/);
    TestBed.resetTestingModule();
    expect((await open([line({})])).text()).not.toContain('entered');
  });
  it('shows a corrected figure struck through beside the right one', async () => {
    await open([line({ struck: ['4.71'], figure: '3.71' })]);
    expect(document.querySelector('del')!.textContent).toBe('4.71');
  });
  it('corrects at the line, with a reason, and keeps the sample', async () => {
    const page = await open([line({})]);
    await page.press('Correct');
    await page.type('The right figure', '3.71');
    expect(page.button('Correct 4.71').disabled).withContext('a reason is asked for').toBeTrue();
    await page.type('Reason', 'digits swapped');
    await page.press('Correct 4.71');
    expect(api.sent[0]![0]!.body).toEqual({
      corrects: line({}).entryId,
      reason: 'digits swapped',
      right: { kind: 'ph.read', ph: 3.71, sample: 'brine' },
    });
  });
  it('reads a salt weight in ounces and a temperature in Fahrenheit', async () => {
    const page = await open([line({ kind: 'salt.weigh', what: 'Salt', figure: '342 g', value: 342, sample: null })]);
    await page.press('Correct');
    await page.type('The right figure', '11 oz');
    await page.type('Reason', 'scale in the wrong mode');
    await page.press('Correct 342 g');
    const right = (api.sent[0]![0]!.body as { right: { kind: string; grams: number } }).right;
    expect(right.kind).toBe('salt.weigh');
    expect(right.grams).toBeCloseTo(311.84, 2);
  });
  it('strikes out what never happened, and leads to the form of any other kind', async () => {
    const page = await open([
      line({ kind: 'vessel.fill', what: 'Filled C2', figure: '14 kg', value: null, sample: null }),
      line({
        entryId: '018f6b1e-0000-7000-8000-0000000000b2',
        kind: 'vessel.fill',
        struckOut: true,
        words: 'never happened, OM: twice',
      }),
    ]);
    expect(page.text()).toContain('never happened, OM: twice');
    expect(document.querySelectorAll('tr.out').length).toBe(1);
    expect([...document.querySelectorAll('td a')].map((link) => link.getAttribute('href'))).toEqual([
      '/correct/018f6b1e-0000-7000-8000-0000000000b1',
      '/correct/018f6b1e-0000-7000-8000-0000000000b2',
    ]);
  });
  it('offers an inspector no correction, and lines of other kinds none to anybody', async () => {
    expect((await open([line({})], false)).button('Correct')).toBeUndefined();
    TestBed.resetTestingModule();
    expect((await open([line({ correctable: false })])).button('Correct')).toBeUndefined();
  });
});

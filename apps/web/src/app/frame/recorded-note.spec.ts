import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { recordingWire } from '../state/recording';
import { FakeApi, inHouse, within } from '../state/testing';
import { When } from '../state/when';
import { RecordedNote } from './recorded-note';

describe('the note of what was recorded', () => {
  const recorded = (id: string, kind: string, repeated = false) => ({
    id,
    seq: 1,
    kind,
    recordedAt: '2026-11-26T08:00:00Z',
    repeated,
    facts: {},
  });
  const open = async () => {
    const api = new FakeApi();
    inHouse(api);
    const fixture = TestBed.createComponent(RecordedNote);
    await fixture.whenStable();
    const page = within(fixture);
    const arrives = async (...all: ReturnType<typeof recorded>[]): Promise<void> => {
      TestBed.inject(Store).dispatch(recordingWire.recorded({ form: 'reading#1', recorded: all, changes: [] }));
      await page.settle();
    };
    return { ...page, api, arrives };
  };

  it('takes a slip back with one tap, the last first, and says that it stays in the book', async () => {
    const page = await open();
    await page.arrives(recorded('e1', 'ph.read'), recorded('e2', 'temperature.read'));
    expect(page.text()).toContain('2 entries');
    await page.press('Take it back');
    expect(page.api.sent[0]!.map(({ kind, body }) => [kind, body])).toEqual([
      ['entry.correct', { corrects: 'e2', reason: 'A slip, taken back at once', instead: null }],
      ['entry.correct', { corrects: 'e1', reason: 'A slip, taken back at once', instead: null }],
    ] as never);
    expect(page.text()).toContain('Both stay in the book.');
    expect(page.button('Take it back')).toBeUndefined();
  });
  it('says what changed after the fact, before it says that it was recorded', async () => {
    const page = await open();
    const changes = [{ code: 'NY26-300-A-C1', what: 'acid', was: 'late 8 h', now: 'met' }];
    TestBed.inject(Store).dispatch(
      recordingWire.recorded({ form: 'reading#1', recorded: [recorded('e1', 'ph.read')], changes }),
    );
    await page.settle();
    expect(page.text()).toMatch(/NY26-300-A-C1 acid: late 8 h met.*Recorded\./);
    await page.arrives(recorded('e2', 'ph.read'));
    expect(page.text()).not.toContain('acid');
  });
  it('says of which past moment it is, and of none where only now makes sense', async () => {
    const page = await open();
    TestBed.inject(When).choose(Date.parse('2026-11-06T09:30:00Z'));
    await page.arrives(recorded('e1', 'ph.read'), recorded('e2', 'temperature.read'));
    expect(page.text()).toContain('Recorded. 2 entries, of Fri 6 Nov 09:30.');
    await page.arrives(recorded('e3', 'ph.read'));
    expect(page.text()).toContain('Recorded. Of Fri 6 Nov 09:30.');
    await page.arrives(recorded('e4', 'meter.add'));
    expect(page.text()).not.toContain('6 Nov');
  });
  it('says what stands in the way, and where to put it right', async () => {
    const page = await open();
    await page.arrives(recorded('e1', 'batch.start'));
    page.api.refusal = { code: 'correction.inTheWay', detail: 'D1 was filled from it.' } as never;
    await page.press('Take it back');
    expect(page.text()).toContain('It stands. D1 was filled from it.');
    expect(page.element.querySelector('a')!.getAttribute('href')).toBe('/correct/e1');
  });
  it('offers no way back from what stood already, or from a correction', async () => {
    const page = await open();
    await page.arrives(recorded('e1', 'ph.read', true));
    expect(page.text()).toContain('Recorded already.');
    expect(page.button('Take it back')).toBeUndefined();
    await page.arrives(recorded('e2', 'entry.correct'));
    expect(page.button('Take it back')).toBeUndefined();
  });
});

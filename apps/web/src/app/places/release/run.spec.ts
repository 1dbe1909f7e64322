import { TestBed } from '@angular/core/testing';
import { of, throwError } from 'rxjs';
import type { RunReply } from '@clear-tally/contract';
import { FakeApi, inHouse, INES, ODILE, within } from '../../state/testing';
import { Run } from './run';

const CODE = 'NY26-327-A-01';
const reply = (open: readonly ('checks' | 'gas')[], more: Partial<RunReply['run']> = {}): RunReply => ({
  run: {
    lotId: 'run-1',
    code: CODE,
    name: 'Turnips',
    packedAt: '2026-11-10T08:00:00Z',
    packedBy: 'IC',
    storage: 'cellar',
    state: 'waits',
    hold: null,
    jars: 40,
    inHouse: 40,
    checks: [],
    ...more,
  },
  conditions: (['readings', 'checks', 'gas', 'tally'] as const).map((key) => ({
    key,
    words: `Condition ${key}`,
    state: (open as readonly string[]).includes(key) ? 'open' : 'met',
    now: 'its facts',
    mayExcuse: key === 'checks',
    wayOn: (open as readonly string[]).includes(key) ? `Way on of ${key}.` : null,
  })),
  leaving: more.inHouse ?? 40,
  closing: { later: false, done: false },
  shelf: { labelDays: null, days: null, run: null, against: null, says: 'none' },
  packing: { cleared: false, weights: [], closures: [], retained: [] },
  openSince: [],
  maySign: true,
  signatures: [],
  made: [],
  jars: [],
  holders: [],
  vessels: [],
});

describe('the release of a run', () => {
  const open = async (of_: RunReply, person: typeof INES | typeof ODILE = ODILE) => {
    TestBed.resetTestingModule();
    const api = new FakeApi({ [`/api/runs/${CODE}`]: of_ });
    const proved: string[] = [];
    Object.assign(api, {
      prove: (pin: string) => {
        proved.push(pin);
        return pin === '2711' ? of({}) : throwError(() => ({ code: 'who.wrongPin', detail: 'This is not your PIN.' }));
      },
    });
    inHouse(api, {}, person);
    const fixture = TestBed.createComponent(Run);
    fixture.componentRef.setInput('code', CODE);
    await fixture.whenStable();
    await fixture.whenStable();
    return { ...within(fixture), api, proved, fixture };
  };

  it('names each open condition with its way on, and keeps the button grey until none is left', async () => {
    const page = await open(reply(['gas', 'checks']));
    expect(page.text()).toContain('2 lines are open');
    expect(page.text()).toContain('Way on of gas.');
    expect(page.button('Release 40 jars').disabled).toBeTrue();
    expect(page.button('Release 40 jars').textContent).toContain('one condition');
    expect(page.text()).not.toContain('meets the limits');
  });
  it('missed checks are excused in writing; the PIN is proved first, then the release is signed with it', async () => {
    const page = await open(reply(['checks']));
    await page.type('Excuse in writing', 'seen by eye');
    expect(page.button('Release').disabled).toBeTrue();
    await page.type('Sign the release', '2711');
    await page.press('Release');
    expect(page.proved).toEqual(['2711']);
    expect(page.api.sent[0]!.map(({ kind, body }) => [kind, body])).toEqual([
      ['run.release', { runLotId: 'run-1', excuses: { checks: 'seen by eye' } }],
    ] as never);
    expect(page.field('Sign the release').value).toBe('');
  });
  it('a wrong PIN signs nothing, is said, and is gone from its field', async () => {
    const page = await open(reply([]));
    await page.type('Sign the release', '9999');
    await page.press('Release');
    expect(page.api.sent).toEqual([]);
    expect(page.text()).toContain('This is not your PIN.');
    expect(page.field('Sign the release').value).toBe('');
    expect(localStorage.getItem('ct.typed') ?? '').not.toContain('9999');
  });
  it('a maker sees what stands open, and that a reviewer signs', async () => {
    const page = await open(reply([]), INES);
    expect(page.button('Release')).toBeUndefined();
    expect(page.text()).toContain('A reviewer of the house signs');
  });
  it('nothing says that it meets the limits while something stands open since', async () => {
    const page = await open({ ...reply([], { state: 'released' }), openSince: ['No hold on it: one gushed'] });
    expect(page.text()).not.toContain('meets the limits');
    expect(page.text()).toContain('Nothing of it leaves.');
  });
  it('what is released is withdrawn with a reason', async () => {
    const page = await open(reply([], { state: 'released' }));
    expect(page.text()).toContain('meets the limits set in this house');
    await page.type('Why it is withdrawn', 'one gushed');
    await page.type('Your PIN', '2711');
    await page.press('Withdraw');
    expect(page.api.sent[0]![0]!.kind).toBe('run.withdraw');
  });
  it('a jar that was opened says how it was, and is struck off', async () => {
    const page = await open(reply(['gas']), INES);
    await page.type('Serial of the jar', '7');
    await page.press('lively');
    expect(page.api.sent[0]!.map(({ body }) => body)).toEqual([
      { runLotId: 'run-1', what: 'gas', says: 'lively', opened: 7, note: null, photo: null },
    ] as never);
  });
});

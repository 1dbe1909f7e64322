import { TestBed } from '@angular/core/testing';
import { FakeApi, inHouse, within } from '../state/testing';
import { clockWords, Timers } from '../state/timers';
import { Bell } from './bell';
import { Ringing } from './ringing';

describe('the bell', () => {
  const id = '018f6b1e-0000-7000-8000-0000000000aa';
  const timer = (endsIn: number, words: string, timerId = id) => ({
    timerId,
    batchId: null,
    batchCode: null,
    step: null,
    words,
    minutes: 10,
    startedAt: new Date(Date.now() - 60_000).toISOString(),
    endsAt: new Date(Date.now() + endsIn * 1000).toISOString(),
    by: 'IC',
  });
  let rung = 0;
  const open = async (timers: object[], skewMs = 0) => {
    const api = new FakeApi({ '/api/timers': { now: new Date(Date.now() + skewMs).toISOString(), timers } });
    rung = 0;
    inHouse(api, {}, undefined, [
      Timers,
      {
        provide: Ringing,
        useValue: {
          start: () => {
            rung += 1;
            return () => {
              rung -= 1;
            };
          },
        },
      },
    ]);
    const fixture = TestBed.createComponent(Bell);
    await fixture.whenStable();
    await fixture.whenStable();
    return { ...within(fixture), fixture, api };
  };
  it('rings for what is over, not for what runs', async () => {
    const page = await open([timer(300, 'Rest, bowl 1')]);
    expect([page.text().trim(), rung]).toEqual(['', 0]);
  });
  it('several at once are all seen, with how long ago; one sound', async () => {
    const page = await open([timer(-62, 'Turn, bowl 2'), timer(-1, 'Rest, bowl 1', id.replace('aa', 'ab'))]);
    expect(page.text()).toContain('Turn, bowl 2');
    expect(page.text()).toContain('+01:0');
    expect(page.text()).toContain('Rest, bowl 1');
    expect(rung).toBe(1);
  });
  it('quiet stops the sound, not the band; stop records it', async () => {
    const page = await open([timer(-62, 'Turn')]);
    await page.press('Quiet');
    expect([rung, page.text()]).toEqual([0, jasmine.stringContaining('Turn')]);
    await page.press('Stop it');
    expect(page.api.sent[0]![0]).toEqual(jasmine.objectContaining({ kind: 'timer.stop', body: { timerId: id } }));
  });
  it('a tablet whose clock is five minutes slow rings on the server’s time', async () => {
    await open([timer(240, 'Rest')], 300_000);
    expect(rung).toBe(1);
  });
  it('writes the time as a clock does', () =>
    expect([clockWords(400), clockWords(-63), clockWords(3725), clockWords(0)]).toEqual([
      '06:40',
      '+01:03',
      '1:02:05',
      '00:00',
    ]));
});

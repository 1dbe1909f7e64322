import type { Recorded } from '@clear-tally/contract';
import { readsFeature, readsPage, readsWire, selectRead, type ReadsState } from './reads';
import { recordingFeature, recordingPage, recordingWire, selectProgress } from './recording';
import { sessionFeature, sessionWire, signInPage } from './session';

const problem = { code: 'offline' as const, detail: 'no answer' };

describe('what is read', () => {
  const reduce = (...actions: Parameters<typeof readsFeature.reducer>[1][]): ReadsState =>
    actions.reduce((state, action) => readsFeature.reducer(state, action), { byUrl: {}, shown: {} } as ReadsState);
  const read = (state: ReadsState, url = '/a') => selectRead(url)({ reads: state });

  it('is loading until it arrives', () => {
    expect(read(reduce(readsPage.shows({ url: '/a' }))).state).toBe('loading');
    expect(read(reduce(readsPage.shows({ url: '/a' }), readsWire.arrived({ url: '/a', data: { n: 1 } })))).toEqual({
      state: 'ready',
      data: { n: 1 },
      problem: null,
    });
  });
  it('keeps the last good data when it is refused, and while it is read again', () => {
    const refused = reduce(
      readsPage.shows({ url: '/a' }),
      readsWire.arrived({ url: '/a', data: { n: 1 } }),
      readsPage.asksAgain({ url: '/a' }),
      readsWire.refused({ url: '/a', problem }),
    );
    expect(read(refused)).toEqual({ state: 'refused', data: { n: 1 }, problem });
  });
  it('that says the same when it is read again is the same, and nothing is drawn anew', () => {
    const lines = (n: number) => ({ lines: [{ n, code: 'NY26-001-A' }], next: null });
    const first = reduce(readsPage.shows({ url: '/a' }), readsWire.arrived({ url: '/a', data: lines(1) }));
    const again = (n: number) =>
      [readsPage.asksAgain({ url: '/a' }), readsWire.arrived({ url: '/a', data: lines(n) })].reduce(
        (now, action) => readsFeature.reducer(now, action),
        first,
      );
    expect(read(again(1)).data).toBe(read(first).data);
    expect(read(again(1)).state).toBe('ready');
    expect(read(again(2)).data).toEqual(lines(2));
  });
  it('counts who shows it, and forgets what nobody shows once there is too much', () => {
    let state = reduce(readsPage.shows({ url: '/kept' }));
    for (let i = 0; i < 80; i += 1)
      state = [readsPage.shows({ url: `/${i}` }), readsPage.leaves({ url: `/${i}` })].reduce(
        (now, action) => readsFeature.reducer(now, action),
        state,
      );
    expect(Object.keys(state.byUrl).length).toBeLessThan(50);
    expect(state.byUrl['/kept']).toBeDefined();
    expect(Object.keys(state.shown)).toEqual(['/kept']);
  });
});

describe('what is recorded', () => {
  const submitted = recordingPage.submitted({ form: 'f', entries: [] });
  const start = recordingFeature.reducer(undefined, { type: 'start' });
  const at = (state: typeof start) => selectProgress('f')({ recording: state });

  it('goes from idle to saving to recorded', () => {
    expect(at(start).state).toBe('idle');
    const saving = recordingFeature.reducer(start, submitted);
    expect(at(saving).state).toBe('saving');
    expect(
      at(
        recordingFeature.reducer(
          saving,
          recordingWire.recorded({ form: 'f', recorded: [] as Recorded[], changes: [] }),
        ),
      ).state,
    ).toBe('recorded');
  });
  it('a refusal stays until somebody edits, and editing does not stop what is being saved', () => {
    const saving = recordingFeature.reducer(start, submitted);
    expect(at(recordingFeature.reducer(saving, recordingPage.edited({ form: 'f' }))).state).toBe('saving');
    const refused = recordingFeature.reducer(saving, recordingWire.refused({ form: 'f', problem }));
    expect(at(refused)).toEqual({ state: 'refused', problem });
    expect(at(recordingFeature.reducer(refused, recordingPage.edited({ form: 'f' }))).state).toBe('idle');
  });
});

describe('who is signed in', () => {
  const ines = {
    id: '018f6b1e-0000-7000-8000-000000000001',
    name: 'Ines Calloway',
    initials: 'IC',
    role: 'maker' as const,
  };
  const reduce = sessionFeature.reducer;
  it('is asked first, then known', () => {
    expect(reduce(undefined, { type: 'start' }).state).toBe('asking');
    expect(reduce(undefined, sessionWire.sessionKnown({ person: ines })).person).toEqual(ines);
  });
  it('a refused PIN signs nobody in; signing out forgets the person', () => {
    const typed = reduce(undefined, signInPage.pinTyped({ personId: ines.id, pin: '0' }));
    const refused = reduce(typed, sessionWire.signInRefused({ problem }));
    expect([refused.state, refused.person]).toEqual(['refused', null]);
    expect(
      reduce(reduce(undefined, sessionWire.signedIn({ person: ines })), sessionWire.signedOut()).person,
    ).toBeNull();
  });
});

import { draftPage, draftsFeature, KEPT_STEPS, type DraftsState } from './drafts';

const run = (...actions: ReturnType<(typeof draftPage)[keyof typeof draftPage]>[]): DraftsState =>
  actions.reduce((state, action) => draftsFeature.reducer(state, action), { byKey: {} } as DraftsState);
const opened = draftPage.opened({ key: 'k', draft: { n: 0 } });
const edit = (n: number, field: string) => draftPage.edited({ key: 'k', draft: { n }, field });

describe('work that is not kept yet', () => {
  it('typing on in one field is one step back', () => {
    const state = run(opened, edit(1, 'name'), edit(2, 'name'), edit(3, 'salt'), draftPage.undone({ key: 'k' }));
    expect(state.byKey['k']!.now).toEqual({ n: 2 });
    expect(draftsFeature.reducer(state, draftPage.undone({ key: 'k' })).byKey['k']!.now).toEqual({ n: 0 });
  });
  it('what was undone comes back, until something else is typed', () => {
    const undone = run(opened, edit(1, 'a'), edit(2, 'b'), draftPage.undone({ key: 'k' }));
    expect(draftsFeature.reducer(undone, draftPage.redone({ key: 'k' })).byKey['k']!.now).toEqual({ n: 2 });
    expect(
      draftsFeature.reducer(draftsFeature.reducer(undone, edit(9, 'c')), draftPage.redone({ key: 'k' })).byKey['k']!
        .now,
    ).toEqual({ n: 9 });
  });
  it('with nothing to undo nothing happens', () => {
    expect(run(opened, draftPage.undone({ key: 'k' })).byKey['k']!.now).toEqual({ n: 0 });
    expect(run(opened, draftPage.redone({ key: 'k' })).byKey['k']!.now).toEqual({ n: 0 });
    expect(run(draftPage.undone({ key: 'k' }))).toEqual({ byKey: {} });
  });
  it('a long day does not fill a tablet', () => {
    const state = run(opened, ...Array.from({ length: KEPT_STEPS + 30 }, (_, n) => edit(n, `f${n}`)));
    expect(state.byKey['k']!.past.length).toBe(KEPT_STEPS);
  });
  it('two drafts do not touch each other, and a kept one goes', () => {
    const state = run(
      opened,
      draftPage.opened({ key: 'other', draft: { n: 7 } }),
      edit(1, 'a'),
      draftPage.closed({ key: 'k' }),
    );
    expect(Object.keys(state.byKey)).toEqual(['other']);
  });
});

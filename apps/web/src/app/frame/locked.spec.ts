import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { Lock, openLock } from '../state/lock';
import { sessionFeature, sessionWire } from '../state/session';
import { A_HOUSE, FakeApi, INES, inHouse, ODILE, within } from '../state/testing';
import { Locked } from './locked';

const MINUTE = 60_000;

describe('a tablet nobody touches', () => {
  let api: FakeApi;
  const open = (lockMinutes: number | null): Lock => {
    api = new FakeApi();
    inHouse(api, { settings: { ...A_HOUSE.settings, lockMinutes } }, INES, [Lock]);
    return TestBed.inject(Lock);
  };
  afterEach(() => localStorage.removeItem('clear-tally.locked'));

  const cases: readonly (readonly [number | null, number, boolean])[] = [
    [null, 999, false],
    [10, 9, false],
    [10, 10, true],
    [1, 60, true],
  ];
  for (const [minutes, untouched, locked] of cases)
    it(`for ${untouched} minutes, where the house wants ${minutes ?? 'none'}, ${locked ? 'asks' : 'stays open'}`, () => {
      const lock = open(minutes);
      lock.look(Date.now() + untouched * MINUTE + 1000 * (locked ? 1 : -1));
      expect(lock.locked()).toBe(locked);
    });

  it('touched in between it stays open', () => {
    const lock = open(10);
    const clock = spyOn(Date, 'now').and.returnValue(Date.now() + 9 * MINUTE);
    document.dispatchEvent(new Event('pointerdown'));
    clock.and.callThrough();
    lock.look(Date.now() + 18 * MINUTE);
    expect(lock.locked()).toBeFalse();
  });

  it('handed over it asks, also when its page is read again, until somebody comes in here', () => {
    const lock = open(null);
    lock.lock();
    expect(localStorage.getItem('clear-tally.locked')).toBe('yes');
    const store = TestBed.inject(Store);
    store.dispatch(sessionWire.signedIn({ person: INES, stay: true }));
    TestBed.tick();
    expect(lock.locked()).toBeFalse();
    expect(localStorage.getItem('clear-tally.locked')).toBeNull();
    expect(store.selectSignal(sessionFeature.selectPerson)()?.id).toBe(INES.id);
  });
});

describe('a tablet that was locked when its sign-in ended', () => {
  it('asks no second time behind the door', () => {
    localStorage.setItem('clear-tally.locked', 'yes');
    openLock();
    inHouse(new FakeApi(), {}, INES, [Lock]);
    expect(TestBed.inject(Lock).locked()).toBeFalse();
  });
});

describe('who is there', () => {
  it('proposes whoever had it, takes another by initials and PIN, and says why not', async () => {
    const api = new FakeApi();
    inHouse(api, A_HOUSE);
    const fixture = TestBed.createComponent(Locked);
    const store = TestBed.inject(Store);
    store.dispatch(
      sessionWire.choicesKnown({
        choices: {
          house: 'Ninefold Yard',
          people: [ODILE, INES].map(({ id, name, initials, role }) => ({ id, name, initials, role })),
          demoPins: null,
          other: null,
        },
      }),
    );
    await fixture.whenStable();
    const page = within(fixture);
    const sent = spyOn(store, 'dispatch').and.callThrough();
    await page.press(INES.initials);
    await page.type('PIN', '4840');
    await page.press('Go on');
    expect(sent.calls.mostRecent().args[0]).toEqual(
      jasmine.objectContaining({ personId: INES.id, pin: '4840', stay: true }) as never,
    );
  });
});

import { Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { RecordButton } from '../ui/record-button';
import { recordingForm } from './form';
import { sessionWire } from './session';
import { FakeApi, inHouse, INES, ODILE, within } from './testing';
import { When } from './when';

const LOT = '018f6b1e-0000-7000-8000-0000000000aa';

@Component({
  selector: 'ct-of-work',
  imports: [RecordButton],
  template: `<button class="go" [ctRecord]="form" (click)="read()">Read</button
    ><button class="go" [ctRecord]="form" (click)="read()">Read again</button
    ><button class="go" [ctRecord]="setting" (click)="set()">Set</button>`,
})
class OfWork {
  readonly form = recordingForm('reading');
  readonly setting = recordingForm('house.set');
  read(): void {
    this.form.record(
      this.form.entry('ph.read', { lotId: LOT, ph: 3.6, sample: 'blended' }),
      this.form.entry('temperature.read', { lotId: LOT, celsius: 15 }),
    );
  }
  set(): void {
    this.setting.record(this.setting.entry('house.set', { currency: 'EUR' }));
  }
}

describe('when it happened', () => {
  let api: FakeApi;
  const NOW = new Date('2026-11-26T09:00:00Z');
  beforeEach(() => {
    jasmine.clock().install();
    jasmine.clock().mockDate(NOW);
  });
  afterEach(() => jasmine.clock().uninstall());
  const open = async () => {
    api = new FakeApi();
    inHouse(api);
    const fixture = TestBed.createComponent(OfWork);
    fixture.detectChanges();
    return { ...within(fixture), look: () => fixture.detectChanges() };
  };
  const panel = (): HTMLElement => document.querySelector<HTMLElement>('.ct-when-panel')!;
  const pressIn = (words: string): void =>
    [...panel().querySelectorAll('button')].find((one) => one.textContent!.includes(words))!.click();
  const typeIn = (text: string): void => {
    const field = panel().querySelector('input')!;
    field.value = text;
    field.dispatchEvent(new Event('input'));
  };

  it('is now, once beside a form’s main button, and nothing is said of it where only now makes sense', async () => {
    const page = await open();
    expect(page.text().match(/When: now/g)!.length).toBe(1);
    page.button('Read').click();
    expect(api.sent[0]!.map(({ happenedAt }) => happenedAt)).toEqual([NOW.toISOString(), NOW.toISOString()]);
  });

  it('yesterday 17:40 is taken, shown, and holds for what follows, in its order; settings stay of now', async () => {
    const page = await open();
    page.button('When').click();
    page.look();
    typeIn('yesterday 17:40');
    page.look();
    expect(panel().textContent).toContain('Wed 25 Nov 17:40, 15 h 20 min ago');
    pressIn('Record as of then');
    page.look();
    expect(page.text()).toContain('When: Wed 25 Nov 17:40');
    page.button('Read').click();
    page.button('Set').click();
    expect(api.sent.flat().map(({ kind, happenedAt }) => [kind, happenedAt])).toEqual([
      ['ph.read', '2026-11-25T17:40:00.000Z'],
      ['temperature.read', '2026-11-25T17:40:00.001Z'],
      ['house.set', NOW.toISOString()],
    ]);
  });

  it('a moment years ago is asked about once more before it is taken', async () => {
    const page = await open();
    page.button('When').click();
    page.look();
    typeIn('25 Nov 2016 17:40');
    pressIn('Record as of then');
    page.look();
    expect(TestBed.inject(When).at()).toBeNull();
    expect(panel().textContent).toContain('Is the year right?');
    pressIn('Yes, as of then');
    expect(TestBed.inject(When).at()).toBe(Date.parse('2016-11-25T17:40:00Z'));
  });

  it('what is not yet, or no time, is said in the field and nothing is chosen', async () => {
    const page = await open();
    page.button('When').click();
    page.look();
    for (const [typed, words] of [
      ['17:40', 'not yet today'],
      ['evening', 'no time of day'],
    ] as const) {
      typeIn(typed);
      pressIn('Record as of then');
      page.look();
      expect(panel().textContent).toContain(words);
    }
    expect(TestBed.inject(When).at()).toBeNull();
  });

  it('ends by itself when nothing was recorded for twenty minutes, and with another person at the tablet', async () => {
    await open();
    const when = TestBed.inject(When);
    when.choose(Date.parse('2026-11-25T17:40:00Z'));
    jasmine.clock().tick(19 * 60_000);
    when.next();
    jasmine.clock().tick(19 * 60_000);
    expect(when.at()).not.toBeNull();
    jasmine.clock().tick(2 * 60_000);
    expect(when.at()).toBeNull();
    when.choose(Date.parse('2026-11-25T17:40:00Z'));
    TestBed.inject(Store).dispatch(sessionWire.signedIn({ person: ODILE }));
    TestBed.tick();
    expect(when.at()).toBeNull();
  });

  it('outlives a reload for whoever chose it, in its order, and no longer than its twenty minutes; nobody else has it', async () => {
    const chosen = Date.parse('2026-11-25T17:40:00Z');
    const reloaded = (minutes: number, by: typeof INES | typeof ODILE = INES): When => {
      const kept = sessionStorage.getItem('ct.when')!;
      TestBed.resetTestingModule();
      jasmine.clock().tick(minutes * 60_000);
      inHouse(new FakeApi(), {}, by);
      sessionStorage.setItem('ct.when', kept);
      return TestBed.inject(When);
    };
    await open();
    TestBed.inject(When).choose(chosen);
    TestBed.inject(When).next();
    let when = reloaded(15);
    expect(when.at()).toBe(chosen);
    expect(when.next().getTime()).toBe(chosen + 1);
    when = reloaded(15);
    expect(when.at()).toBe(chosen);
    jasmine.clock().tick(6 * 60_000);
    expect(when.at()).toBeNull();
    when.choose(chosen);
    expect(reloaded(21).at()).toBeNull();
    TestBed.inject(When).choose(chosen);
    expect(reloaded(1, ODILE).at()).toBeNull();
  });

  it('is now where the storage holds something that is no moment, or one from the future', async () => {
    for (const kept of ['5', '"x"', '{}', '[]', '{"at":"x","by":"me","used":0}', 'no JSON']) {
      TestBed.resetTestingModule();
      inHouse(new FakeApi());
      sessionStorage.setItem('ct.when', kept.replace('me', INES.id).replace('"used":0', `"used":${Date.now()}`));
      expect(TestBed.inject(When).at()).withContext(kept).toBeNull();
    }
    const later = { at: Date.now() - 60_000, given: 0, by: INES.id, used: Date.now() + 3_600_000 };
    TestBed.resetTestingModule();
    inHouse(new FakeApi());
    sessionStorage.setItem('ct.when', JSON.stringify(later));
    expect(TestBed.inject(When).at()).toBeNull();
  });

  it('outlives a session that was lost in the middle', async () => {
    await open();
    const when = TestBed.inject(When);
    const store = TestBed.inject(Store);
    when.choose(Date.parse('2026-11-25T17:40:00Z'));
    store.dispatch(sessionWire.sessionKnown({ person: null }));
    TestBed.tick();
    expect(when.at()).toBeNull();
    store.dispatch(sessionWire.signedIn({ person: INES }));
    TestBed.tick();
    expect(when.at()).toBe(Date.parse('2026-11-25T17:40:00Z'));
  });
});

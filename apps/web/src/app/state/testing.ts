import { Component, type Provider, provideZonelessChangeDetection, signal } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideStore, Store } from '@ngrx/store';
import { EMPTY, type Observable, of, throwError } from 'rxjs';
import type { EntriesReply, Entry, HouseReply, ShelfReply } from '@clear-tally/contract';
import { Api, type WireProblem } from '../api/api';
import { HouseDates } from '../ui/dates';
import { CHECK } from './checked';
import { House } from './house';
import { devicesFeature } from './devices';
import { draftsFeature } from './drafts';
import { readsFeature } from './reads';
import { ReadsEffects } from './reads.effects';
import { recordingFeature } from './recording';
import { RecordingEffects } from './recording.effects';
import { sessionFeature, sessionWire } from './session';
import { By } from '@angular/platform-browser';
import { Choice } from '../ui/choice';
import { Select } from '../ui/select';
import { provideWords } from '../ui/locale';

export const INES = {
  id: '018f6b1e-0000-7000-8000-000000000001',
  name: 'Ines Calloway',
  initials: 'IC',
  role: 'maker' as const,
};

export const ODILE = {
  id: '018f6b1e-0000-7000-8000-000000000002',
  name: 'Odile Marr',
  initials: 'OM',
  role: 'owner' as const,
};

export const INSPECTOR = {
  id: '018f6b1e-0000-7000-8000-000000000003',
  name: 'Visiting inspector',
  initials: 'VI',
  role: 'inspector' as const,
};

/** A wire that answers from memory and keeps what was sent. */
export class FakeApi {
  readonly sent: Entry[][] = [];
  /** Also what was never answered. */
  readonly tried: Entry[][] = [];
  readonly asked: string[] = [];
  refusal: WireProblem | null = null;
  /** What the next entries change after the fact. */
  changes: EntriesReply['changes'] = [];
  constructor(private readonly replies: Record<string, object> = {}) {}

  read(url: string): Observable<object> {
    this.asked.push(url);
    const reply = this.replies[url];
    return reply ? of(reply) : throwError((): WireProblem => ({ code: 'offline', detail: `nothing at ${url}` }));
  }

  record(entries: readonly Entry[]): Observable<EntriesReply> {
    this.tried.push([...entries]);
    if (this.refusal) return throwError(() => this.refusal);
    this.sent.push([...entries]);
    return of({
      recorded: entries.map((entry, seq) => ({
        id: entry.id,
        seq,
        kind: entry.kind,
        recordedAt: '2026-11-23T08:00:00Z',
        repeated: false,
        facts: {},
      })),
      changes: this.changes,
    });
  }

  readonly said: string[] = [];
  device(id: string, line: string): Observable<object> {
    this.said.push(`${id} ${line}`);
    return this.refusal ? throwError(() => this.refusal) : of({ done: true });
  }
  print(id: string, lots: readonly string[], copies: number): Observable<object> {
    this.said.push(`${id} prints ${lots.length} × ${copies}`);
    return this.refusal ? throwError(() => this.refusal) : of({ printed: lots.length * copies });
  }

  photo(): Observable<{ id: string }> {
    return this.refusal ? throwError(() => this.refusal) : of({ id: 'a'.repeat(64) });
  }

  calendar(what: 'make' | 'revoke'): Observable<{ address?: string }> {
    this.said.push(`calendar ${what}`);
    return this.refusal
      ? throwError(() => this.refusal)
      : of(what === 'make' ? { address: 'http://house/calendar/abc.ics' } : {});
  }

  private word(words: string): Observable<object> {
    this.said.push(words);
    return this.refusal ? throwError(() => this.refusal) : of({});
  }
  changePin = (old: string, pin: string): Observable<object> => this.word(`pin ${old} to ${pin}`);
  endLocks = (personId: string): Observable<object> => this.word(`locks of ${personId}`);
  givePin = (personId: string, pin: string): Observable<object> => this.word(`pin of ${personId}: ${pin}`);
  verify = (end: unknown): Observable<object> => this.word(`verify ${JSON.stringify(end)}`);

  notes = (): Observable<never> => EMPTY;
  session = (): Observable<never> => EMPTY;
  choices = (): Observable<never> => EMPTY;
}

export const A_HOUSE: HouseReply = {
  name: 'House',
  demo: false,
  site: 'NY',
  timeZone: 'UTC',
  decimalMark: 'point',
  acidLimit: 4.2,
  saltTolerance: 0.03,
  rooms: [],
  vessels: [],
  suppliers: [],
  materials: [],
  rules: {},
  settings: {
    currency: 'EUR',
    labourPerHour: 0,
    scaleStepGrams: 1,
    keptBrineDays: 30,
    keptBrineGenerations: 5,
    acidByHours: {},
    saltBands: {},
    contacts: [],
    address: null,
    lockMinutes: null,
    trainedTasks: [],
    massUnit: 'both',
    passphraseFor: 'nobody',
  },
  scales: [],
};

/** Wherever a link leads. */
@Component({ selector: 'ct-elsewhere', template: '' })
class Elsewhere {}

/** Sets a component in a house with a store and a fake wire, signed in as a maker. */
export function inHouse(
  api: FakeApi,
  house: Partial<HouseReply> = {},
  person: typeof INES | typeof ODILE | typeof INSPECTOR = INES,
  providers: Provider[] = [],
  untrained: Readonly<Record<string, string>> = {},
): void {
  // What another test left on the scale is not on this one.
  localStorage.removeItem('clear-tally.taken');
  localStorage.removeItem('ct.unanswered');
  localStorage.removeItem('ct.typed');
  sessionStorage.removeItem('ct.when');
  TestBed.configureTestingModule({
    providers: [
      ...providers,
      provideWords(),
      provideZonelessChangeDetection(),
      provideRouter([{ path: '**', component: Elsewhere }]),
      provideStore({
        [sessionFeature.name]: sessionFeature.reducer,
        [readsFeature.name]: readsFeature.reducer,
        [recordingFeature.name]: recordingFeature.reducer,
        [draftsFeature.name]: draftsFeature.reducer,
        [devicesFeature.name]: devicesFeature.reducer,
      }),
      provideEffects(ReadsEffects, RecordingEffects),
      { provide: Api, useValue: api },
      // The ids of specs are short words, which no schema takes; what it refuses has a spec of its own.
      { provide: CHECK, useValue: (entries: readonly Entry[]) => of(entries) },
      {
        provide: House,
        useValue: {
          house: signal({ ...A_HOUSE, ...house }),
          shelf: signal<ShelfReply | null>(null),
          shelfProblem: signal(null),
          untrained: signal(untrained),
          dates: signal(new HouseDates('UTC', () => Date.parse('2026-11-26T09:00:00Z'))),
          again: () => undefined,
        } satisfies Record<keyof House, unknown>,
      },
    ],
  });
  TestBed.inject(Store).dispatch(sessionWire.sessionKnown({ person }));
}

export const within = (fixture: ComponentFixture<unknown>) => {
  const element = fixture.nativeElement as HTMLElement;
  const field = (label: string): HTMLInputElement => {
    const found = [...element.querySelectorAll('label')].find((one) => one.textContent!.trim().startsWith(label));
    return element.querySelector<HTMLInputElement>(`#${CSS.escape(found!.htmlFor)}`)!;
  };
  // What is pressed: a button, or one of a few ways side by side.
  const button = (words: string): HTMLButtonElement =>
    [...element.querySelectorAll<HTMLButtonElement>('button, [nz-radio-button], [role=tab]')].find((one) =>
      one.textContent!.trim().startsWith(words),
    )!;
  return {
    text: (): string => element.textContent!.replace(/\s+/g, ' '),
    element,
    field,
    button,
    settle: (): Promise<unknown> => fixture.whenStable(),
    type: async (label: string, text: string): Promise<void> => {
      field(label).value = text;
      field(label).dispatchEvent(new Event('input'));
      await fixture.whenStable();
    },
    select: async (label: string, value: string): Promise<void> => {
      const lists = fixture.debugElement.queryAll(By.directive(Select));
      const list = lists.map(({ componentInstance }) => componentInstance as Select<string>);
      list.find((one) => one.label().startsWith(label))!.valueChange.emit(value);
      await fixture.whenStable();
    },
    /** Of a list one types into. */
    choose: async (label: string, value: string): Promise<void> => {
      const lists = fixture.debugElement.queryAll(By.directive(Choice));
      const list = lists.map(({ componentInstance }) => componentInstance as Choice);
      list.find((one) => one.label().startsWith(label))!.value.set(value);
      await fixture.whenStable();
    },
    /** Gives a file to the first field that takes one. */
    give: async (file: File): Promise<void> => {
      const transfer = new DataTransfer();
      transfer.items.add(file);
      const taking = element.querySelector<HTMLInputElement>('input[type=file]')!;
      taking.files = transfer.files;
      taking.dispatchEvent(new Event('change'));
      await fixture.whenStable();
    },
    press: async (words: string): Promise<void> => {
      button(words).click();
      await fixture.whenStable();
    },
  };
};

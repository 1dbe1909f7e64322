import { Component, computed, inject, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Store } from '@ngrx/store';
import { RouterLink } from '@angular/router';
import type { LooksReply, PeopleReply } from '@clear-tally/contract';
import { calendarDay } from '../../ui/dates';
import { Api } from '../../api/api';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { sessionFeature } from '../../state/session';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { Waiting } from '../../ui/waiting';
import { HouseAddress } from './house-address';
import { OfficeNav } from './office-nav';
import { OwnPin } from './own-pin';
import { NetworkSecret } from './network-secret';
import { TabletLock } from './tablet-lock';
import { TrainedTasks } from './trained-tasks';
import { TrainingOf } from './training';
import { PersonForm } from './person-form';

type Person = PeopleReply['people'][number];

/** Pages by the first word of what is asked. */
const PAGES: Readonly<Record<string, string>> = {
  floor: 'Floor',
  lots: 'Lots',
  journal: 'Everything recorded',
  making: 'Make',
  formulas: 'Formulas',
  trace: 'Trace',
  'recall-ahead': 'Recall, what it would reach',
  recalls: 'Recall',
  runs: 'Run',
  records: 'Records',
  supplies: 'Stores',
  stock: 'Stores',
  photos: 'A photo',
};

/** Who comes in: everybody of the house, what keeps somebody out, who has left; and one's own PIN. */
@Component({
  selector: 'ct-people',
  imports: [
    HouseAddress,
    OfficeNav,
    OwnPin,
    PersonForm,
    Refusal,
    NetworkSecret,
    TabletLock,
    TextField,
    TrainedTasks,
    TrainingOf,
    Waiting,
    FormField,
    RecordButton,
    RouterLink,
    TypedBeforeNote,
  ],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-office-nav />
        <h1>Who comes in</h1>
        <p><a routerLink="/rights">Who may what: every right against every role</a></p>
        @if (rights.isOwner()) {
          <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
          @if (read.data(); as all) {
            <table class="book">
              <thead>
                <tr>
                  <th>Name</th>
                  <th>Is</th>
                  <th>Signed in</th>
                  <th>Kept out</th>
                  <th></th>
                </tr>
              </thead>
              <tbody>
                @for (one of all.people; track one.id) {
                  <tr [class.gone]="one.leftAt">
                    <td>
                      <b class="figure">{{ one.initials }}</b> {{ one.name }}
                    </td>
                    <td>
                      {{ one.leftAt ? 'left ' + house.dates().day(one.leftAt) : one.role }}
                      @if (one.lastDay && !one.leftAt) {
                        <span [class.mustard]="isOver(one)"
                          >{{ isOver(one) ? 'ended' : 'until' }} {{ calendarDay(one.lastDay) }}</span
                        >
                      }
                    </td>
                    <td>{{ signedIn(one) }}</td>
                    <td>
                      @for (lock of locksOf(one.id); track lock.until) {
                        <span class="mustard"
                          >{{ lock.here ? 'at one address' : 'everywhere' }} until
                          {{ house.dates().time(lock.until) }}</span
                        >
                        <button type="button" class="plain small" (click)="endLock(one)">End it</button>
                      } @empty {
                        {{ one.leftAt || one.hasPin ? '' : 'has no PIN yet' }}
                      }
                    </td>
                    <td class="right">
                      @if (one.leftAt) {
                        <button type="button" class="plain small" (click)="ask(one)">Is back</button>
                      } @else {
                        @if (one.id !== me()) {
                          <button
                            type="button"
                            class="plain small"
                            (click)="giving.set(one.id); pin.set(''); problem.set(null)"
                          >
                            Give a PIN
                          </button>
                          ·
                        }
                        @if (one.role === 'inspector') {
                          <button
                            type="button"
                            class="plain small"
                            [attr.aria-expanded]="looking() === one.id"
                            (click)="looking.set(looking() === one.id ? null : one.id)"
                          >
                            Looked at
                          </button>
                          ·
                        }
                        @if (one.role !== 'inspector') {
                          <button
                            type="button"
                            class="plain small"
                            [attr.aria-expanded]="teaching() === one.id"
                            (click)="teaching.set(teaching() === one.id ? null : one.id)"
                          >
                            Training
                          </button>
                          ·
                        }
                        <button type="button" class="plain small" (click)="changing.set(one.id)">Change</button>
                        ·
                        <button type="button" class="plain small" (click)="ask(one)">Has left</button>
                      }
                    </td>
                  </tr>
                  @if (looking() === one.id) {
                    <tr>
                      <td colspan="5">
                        <ct-waiting [loading]="looks.loading()" [problem]="looks.problem()" (again)="looks.again()" />
                        @if (looks.data(); as all) {
                          <ol class="looks" [attr.aria-label]="'What ' + one.name + ' looked at'">
                            @for (look of all.looks; track $index) {
                              <li>
                                <span class="figure">{{ house.dates().moment(look.at) }}</span>
                                {{ lookWords(look.what) }}
                              </li>
                            } @empty {
                              <li class="soft">Nothing yet.</li>
                            }
                          </ol>
                        }
                      </td>
                    </tr>
                  }
                  @if (teaching() === one.id) {
                    <tr>
                      <td colspan="5">
                        <ct-training [person]="one" (done)="read.again()" />
                      </td>
                    </tr>
                  }
                  @if (changing() === one.id) {
                    <tr>
                      <td colspan="5">
                        <ct-person-form [person]="one" (done)="changing.set(null); read.again()" />
                      </td>
                    </tr>
                  }
                  @if (giving() === one.id) {
                    <tr>
                      <td colspan="5">
                        <form class="stack ask" (submit)="$event.preventDefault(); give(one)">
                          <p>
                            {{ one.name }} changes it afterwards. Wherever {{ one.name }} is signed in now, it is asked
                            for.
                          </p>
                          <ct-text
                            [label]="'A PIN for ' + one.name"
                            [value]="pin()"
                            [problem]="problem()"
                            (valueChange)="pin.set($event); problem.set(null)"
                          />
                          <div class="row">
                            <button [disabled]="!pin().trim()">Give {{ one.name }} this PIN</button
                            ><button type="button" (click)="giving.set(null)">Not now</button>
                          </div>
                        </form>
                      </td>
                    </tr>
                  }
                  @if (asked() === one.id) {
                    <tr>
                      <td colspan="5">
                        <form class="stack ask" (submit)="$event.preventDefault(); leave(one)">
                          <ct-typed-before [typed]="form.typed" />
                          <p>
                            {{
                              one.leftAt
                                ? one.name + ' comes back. Give them a PIN afterwards.'
                                : one.name +
                                  ' leaves the house: every tablet they are signed in on goes dark, and their PIN is worth nothing. What they recorded keeps their name.'
                            }}
                          </p>
                          <ct-text label="Why, if anybody should ask" [formField]="form.fields.reason" />
                          <ct-refusal [message]="form.problem()" />
                          <div class="row">
                            <button [class.stern]="!one.leftAt" [ctRecord]="form">
                              {{ one.leftAt ? one.name + ' is back' : one.name + ' has left' }}</button><button
                              type="button"
                              (click)="asked.set(null)"
                            >
                              Not now
                            </button>
                          </div>
                        </form>
                      </td>
                    </tr>
                  }
                }
              </tbody>
            </table>
            <ct-refusal [message]="giving() ? null : problem()" />
            <ct-person-form (done)="read.again()" />
            <ct-trained-tasks [people]="all.people" />
          }
        }
        <ct-own-pin (changed)="read.again()" />
        @if (rights.isOwner()) {
          <ct-tablet-lock />
          <ct-network-secret />
          <ct-house-address />
        }
        <div class="soft small">
          <p>
            Of one person at one address five wrong PINs wait five minutes, twenty wait a day: ten thousand would take
            over a year. Nobody can keep somebody else out from elsewhere for longer than a minute.
          </p>
        </div>
      </div>
    </div>
  `,
  styles:
    '.looks { max-height: 320px; overflow: auto; } .looks li { display: flex; gap: 14px; padding: 4px 0; border-bottom: 1px solid var(--hair); } .gone td { color: var(--soft); } .ask { max-width: 620px; padding: 6px 0 14px; }',
})
export class People {
  private readonly api = inject(Api);
  private readonly person = inject(Store).selectSignal(sessionFeature.selectPerson);
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly read = shown<PeopleReply>(computed(() => (this.rights.isOwner() ? '/api/people' : null)));
  protected readonly me = computed(() => this.person()?.id ?? null);
  protected readonly changing = signal<string | null>(null);
  /** Whose training is open. */
  protected readonly teaching = signal<string | null>(null);
  /** Whose looks are open. */
  protected readonly looking = signal<string | null>(null);
  protected readonly looks = shown<LooksReply>(
    computed(() => (this.looking() ? `/api/people/${this.looking()}/looks` : null)),
  );
  protected readonly calendarDay = calendarDay;
  protected readonly giving = signal<string | null>(null);
  protected readonly pin = signal('');
  protected readonly asked = signal<string | null>(null);
  protected readonly form = recordingForm('person.leave', {
    fields: { reason: '' },
    recorded: () => {
      this.asked.set(null);
      this.reason.set('');
      this.read.again();
    },
  });
  protected readonly reason = this.form.values.reason;
  protected readonly problem = signal<string | null>(null);

  protected locksOf(id: string): PeopleReply['locks'] {
    return (this.read.data()?.locks ?? []).filter(({ personId }) => personId === id);
  }

  /** "Trace SP-0001": the page, and what was asked there. */
  protected lookWords(what: string): string {
    const [page = '', ...rest] = what.split('/');
    return [PAGES[page] ?? page, ...rest].join(' ');
  }

  /** Whether the last day of who looks is over, by the house's clock. */
  protected isOver({ lastDay }: Person): boolean {
    return lastDay !== null && this.house.dates().today() > lastDay;
  }

  protected signedIn(one: Person): string {
    if (one.leftAt) return '';
    const now = one.signedIn === 0 ? 'not now' : one.signedIn === 1 ? 'on one tablet' : `on ${one.signedIn} tablets`;
    return `${now}; ${one.devices === 0 ? 'no device knows them' : one.devices === 1 ? 'one device knows them' : `${one.devices} devices know them`}`;
  }

  protected ask(one: Person): void {
    this.form.edited();
    this.asked.set(one.id);
  }

  protected leave(one: Person): void {
    this.form.record(
      this.form.entry('person.leave', {
        personId: one.id,
        left: one.leftAt === null,
        reason: this.reason().trim() || null,
      }),
    );
  }

  protected give(one: Person): void {
    this.problem.set(null);
    this.api.givePin(one.id, this.pin().trim()).subscribe({
      next: () => {
        this.giving.set(null);
        this.read.again();
      },
      error: ({ detail }: { detail: string }) => this.problem.set(detail),
    });
  }

  protected endLock(one: Person): void {
    this.problem.set(null);
    this.api.endLocks(one.id).subscribe({
      next: () => this.read.again(),
      error: ({ detail }: { detail: string }) => this.problem.set(detail),
    });
  }
}

import { Component, computed, linkedSignal, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { BookLine, JournalReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { shownPages } from '../../state/shown-pages';
import { Choices } from '../../ui/choices';
import { dayAfter } from '../../ui/dates';
import { DayField } from '../../ui/day-field';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { Waiting } from '../../ui/waiting';
import { isLate } from '../lots/book';
import { OfficeNav } from './office-nav';

type Of = 'newest' | 'day' | 'days';

const OF: readonly (readonly [Of, string])[] = [
  ['newest', 'The newest'],
  ['day', 'One day'],
  ['days', 'From a day to a day'],
];

/** So many lines are asked for at once; those of a day come by themselves, those before the newest when asked for. */
const PAGE = 500;
/** The lines of more days than these are a sheet of the records, not a table on a tablet. */
const MOST_DAYS = 92;
const DAY_MS = 86_400_000;

const figures = ({ struck, figure }: BookLine): string => [...struck.map((one) => `(${one})`), figure ?? ''].join(' ');

const COLUMNS: readonly Column<BookLine>[] = [
  { key: 'at', head: 'When', kind: 'moment', value: ({ at }) => at, width: '204px' },
  {
    key: 'recordedAt',
    head: 'Entered',
    kind: 'moment',
    value: ({ recordedAt }) => recordedAt,
    aside: true,
    width: '204px',
  },
  { key: 'lot', head: 'Lot', value: ({ lotCode }) => lotCode, width: '158px' },
  { key: 'what', head: 'What', value: ({ what }) => what },
  { key: 'figure', head: 'Figure', value: figures, width: '140px' },
  { key: 'words', head: 'Words', value: ({ words }) => words },
  { key: 'by', head: 'By', value: ({ by }) => by, width: '88px' },
  { key: 'correct', head: 'Put right', value: () => null, todo: true, width: '92px' },
];

/** Everything that was recorded, whatever it is of: here a line is found that stands in no lot's book. */
@Component({
  selector: 'ct-the-book',
  imports: [Cell, Choices, DayField, OfficeNav, RouterLink, Table, Waiting],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-office-nav />
        <h1>Everything recorded</h1>
        <p class="soft">
          The newest first. Whatever was typed wrong is put right at its line; the wrong one stays beside it.
        </p>
        <div class="row asked">
          <ct-choices label="Which lines" [options]="ofs" [value]="of()" (picked)="of.set($event)" />
          @switch (of()) {
            @case ('day') {
              <button type="button" aria-label="The day before" (click)="go(-1)">‹</button>
              <ct-day label="Day" [latest]="today()" [(value)]="day" />
              <button type="button" aria-label="The day after" [disabled]="day() >= today()" (click)="go(1)">›</button>
            }
            @case ('days') {
              <ct-day label="First day" [latest]="today()" [(value)]="from" />
              <ct-day label="Last day" [latest]="today()" [(value)]="to" />
            }
          }
        </div>
        @if (problem(); as words) {
          <p class="beet" role="alert">{{ words }}</p>
        } @else {
          @if (pages().length > 0) {
            <ct-table
              name="Everything recorded"
              placeholder="code, what, words, initials"
              [rows]="lines()"
              [columns]="columns"
              [rowKey]="keyOf"
              [reading]="reading()"
              [gone]="struckOut"
              [nothing]="of() === 'newest' ? 'Nothing is recorded yet.' : 'Nothing happened then that was recorded.'"
            >
              <ng-template ctCell="at" let-line>
                <span class="figure">{{ house.dates().moment(line.at) }}</span>
                @if (isLate(line)) {
                  <br /><small class="soft">entered {{ house.dates().moment(line.recordedAt) }}</small>
                }
              </ng-template>
              <ng-template ctCell="lot" let-line>
                @if (line.lotCode) {
                  <a class="figure" [routerLink]="['/lots', line.lotCode]">{{ line.lotCode }}</a>
                }
              </ng-template>
              <ng-template ctCell="figure" let-line>
                <span class="figure">
                  @for (struck of line.struck; track $index) {
                    <del>{{ struck }}</del>
                  }
                  {{ line.figure }}
                </span>
              </ng-template>
              <ng-template ctCell="correct" let-line>
                @if (rights.mayRecord() && line.correctable) {
                  <a
                    [routerLink]="['/correct', line.entryId]"
                    [attr.aria-label]="'Correct ' + line.what + ' ' + (line.figure ?? '')"
                    >Correct</a
                  >
                }
              </ng-template>
            </ct-table>
          }
          <ct-waiting
            [loading]="reading() && pages().length === 0"
            [problem]="read().problem()"
            (again)="read().again()"
          />
          @if (of() === 'newest') {
            <div class="row">
              @if (before() !== null) {
                <button type="button" (click)="before.set(null)">The newest</button>
              }
              @if (newest.data()?.next; as next) {
                <button type="button" (click)="before.set(next)">Older</button>
              }
            </div>
          }
        }
      </div>
    </div>
  `,
  styles:
    '.asked { align-items: end; flex-wrap: wrap; } del { color: var(--beet); margin-right: 8px; } a { font-weight: 700; padding: 6px 0; display: inline-block; }',
})
export class TheBook {
  protected readonly rights = injectRights();
  protected readonly house = injectHouse();
  protected readonly ofs = OF;
  protected readonly columns = COLUMNS;
  protected readonly of = signal<Of>('newest');
  protected readonly today = computed(() => this.house.dates().today());
  protected readonly day = linkedSignal(() => this.today());
  protected readonly from = linkedSignal(() => dayAfter(this.today(), -7));
  protected readonly to = linkedSignal(() => this.today());
  protected readonly problem = computed(() => {
    if (this.of() === 'newest') return null;
    const [from, to] = this.days();
    if (!isDay(from) || !isDay(to)) return 'Give a day that can be read.';
    if (from > to) return 'The last day is before the first.';
    return Date.parse(to) - Date.parse(from) < MOST_DAYS * DAY_MS
      ? null
      : `More than ${MOST_DAYS} days leave as a sheet: Records has all of them.`;
  });
  protected readonly before = signal<string | null>(null);
  protected readonly newest = shown<JournalReply>(
    computed(() => `/api/journal?many=${PAGE}${this.before() === null ? '' : `&before=${this.before()}`}`),
  );
  private readonly ofDays = shownPages<JournalReply>(
    computed(() => {
      if (this.of() === 'newest' || this.problem() !== null) return null;
      const [from, to] = this.days();
      return `/api/journal?many=${PAGE}&from=${from}&to=${to}`;
    }),
  );
  protected readonly read = computed(() => (this.of() === 'newest' ? this.newest : this.ofDays));
  protected readonly pages = computed(() => {
    const all = this.newest.data();
    return this.of() !== 'newest' ? this.ofDays.pages() : all ? [all] : [];
  });
  protected readonly reading = computed(() => (this.of() === 'newest' ? this.newest.loading() : this.ofDays.reading()));
  protected readonly lines = computed(() => this.pages().flatMap(({ lines }) => lines));
  protected readonly keyOf = ({ entryId }: BookLine): string => entryId;
  protected readonly struckOut = ({ struckOut }: BookLine): boolean => struckOut;
  protected readonly isLate = isLate;

  protected go(days: number): void {
    this.day.update((day) => dayAfter(isDay(day) ? day : this.today(), days));
  }

  private days(): readonly [string, string] {
    return this.of() === 'day' ? [this.day(), this.day()] : [this.from(), this.to()];
  }
}

const isDay = (text: string): boolean => /^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text));

import { BreakpointObserver } from '@angular/cdk/layout';
import { OverlayModule } from '@angular/cdk/overlay';
import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import { NgTemplateOutlet } from '@angular/common';
import {
  Component,
  computed,
  contentChildren,
  effect,
  inject,
  input,
  model,
  output,
  signal,
  untracked,
  viewChild,
  ViewEncapsulation,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NzTableModule } from 'ng-zorro-antd/table';
import { map } from 'rxjs';
import { printNumber } from '@clear-tally/core';
import { injectDecimalMark, injectHouse } from '../../state/house';
import { calendarDay } from '../dates';
import { FigureInput } from '../figure-input';
import { Panel } from '../panel';
import { TextField } from '../text-field';
import { Tick } from '../tick';
import { Cell } from './cell';
import {
  type Column,
  fewWords,
  type Filter,
  filters,
  figureOf,
  isFigure,
  lookedAt,
  placesOf,
  PLAIN_VIEW,
  type View,
} from './column';
import { keptView } from './kept-view';
import { csvOf, download, printOut, type Sheet, xlsxOf } from './leave';

/** So many rows are drawn at once; more are drawn as they scroll into sight. */
const DRAWN = 200;
const ROW_PX = 58;
const NARROW = '(max-width: 620px)';
let made = 0;

/**
 * A table somebody can sort, search, filter by column and choose the columns of; it stays so for this person. It is
 * printed, or leaves as CSV or XLSX, exactly as it is shown. A page draws cells of its own by `ctCell`.
 */
@Component({
  selector: 'ct-table',
  imports: [FigureInput, NgTemplateOutlet, NzTableModule, OverlayModule, Panel, ScrollingModule, TextField, Tick],
  encapsulation: ViewEncapsulation.None,
  templateUrl: './table.html',
  styleUrl: './table.less',
  host: { '(keydown.arrowdown)': 'walk($event, 1)', '(keydown.arrowup)': 'walk($event, -1)' },
})
export class Table<R> {
  /** What it is remembered by, and called where it leaves. */
  readonly name = input.required<string>();
  readonly rows = input.required<readonly R[]>();
  readonly columns = input.required<readonly Column<R>[]>();
  readonly rowKey = input.required<(row: R) => string>();
  /** Said where there is nothing at all; what is filtered away says so itself. */
  readonly nothing = input('Nothing here yet.');
  readonly placeholder = input('any words in it');
  /** There are more rows than these, which are still read. */
  readonly reading = input(false);
  readonly chosen = input<string | null>(null);
  readonly gone = input<(row: R) => boolean>(() => false);
  readonly picked = output<R>();

  protected readonly id = `table-${(made += 1)}`;
  readonly find = model('');
  /** What is open over the table: the filter of a column, or one of its two lists. */
  protected readonly open = signal<string | null>(null);
  protected readonly rowPx = ROW_PX;
  private readonly cells = contentChildren(Cell);
  private readonly viewport = viewChild(CdkVirtualScrollViewport);
  private readonly house = injectHouse();
  private readonly mark = injectDecimalMark();
  private readonly kept = keptView();
  protected readonly view = this.kept.view;
  protected readonly drawnBy = computed(() => new Map(this.cells().map((cell) => [cell.key(), cell.template])));
  protected readonly shown = computed(() =>
    this.columns().filter(({ key, aside }) => this.view().shown[key] ?? !aside),
  );
  protected readonly found = computed(() =>
    lookedAt({
      rows: this.rows(),
      columns: this.columns(),
      view: this.view(),
      find: this.find(),
      words: this.words,
    }),
  );
  /** On a phone the cells of a line stand one under the other: lines of many heights, drawn so many at a time. */
  private readonly narrow = toSignal(
    inject(BreakpointObserver)
      .observe(NARROW)
      .pipe(map(({ matches }) => matches)),
    { initialValue: matchMedia(NARROW).matches },
  );
  private readonly atOnce = signal(DRAWN);
  protected readonly big = computed(() => !this.narrow() && this.found().length > DRAWN);
  protected readonly drawn = computed(() => (this.narrow() ? this.found().slice(0, this.atOnce()) : this.found()));
  protected readonly undrawn = computed(() => this.found().length - this.drawn().length);
  protected readonly filtered = computed(
    () => this.find().trim() !== '' || Object.values(this.view().filters).some((filter) => filters(filter)),
  );
  protected readonly many = computed(() => {
    const [found, all] = [this.found().length.toLocaleString('en'), this.rows().length.toLocaleString('en')];
    const of = this.reading() ? `${all} read so far` : all;
    return this.filtered() ? `${found} of ${of}` : of;
  });
  protected readonly isFigure = isFigure;
  protected readonly filters = filters;
  protected readonly few = computed(() => {
    const column = this.columns().find(({ key }) => key === this.open());
    return column ? fewWords(this.rows(), column) : null;
  });

  constructor() {
    effect(() => {
      const name = this.name();
      untracked(() => this.kept.open(name));
    });
  }

  /** As a cell reads. */
  protected readonly words = (column: Column<R>, row: R): string => {
    if (column.words) return column.words(row);
    const value = column.value(row);
    if (value === null || value === '') return '';
    switch (column.kind) {
      case 'kg':
      case 'number':
      case 'percent':
        return this.figure(figureOf(column, row) ?? 0, placesOf(column));
      case 'day':
        return String(value).length > 10 ? this.house.dates().day(String(value)) : calendarDay(String(value));
      case 'moment':
        return this.house.dates().moment(String(value));
      default:
        return String(value);
    }
  };

  protected more(): void {
    this.atOnce.update((many) => many + DRAWN);
  }

  protected readonly keyOf = (_: number, row: R): string => this.rowKey()(row);

  protected headOf(column: Column<R>): string {
    return column.kind === 'kg' ? `${column.head}, kg` : column.kind === 'percent' ? `${column.head}, %` : column.head;
  }

  protected sorted(column: Column<R>): 'ascending' | 'descending' | 'none' {
    const sort = this.view().sort;
    return sort?.key !== column.key ? 'none' : sort.down ? 'descending' : 'ascending';
  }

  /** Up, down, and as it came. */
  protected sortBy(column: Column<R>): void {
    const now = this.sorted(column);
    this.keep({
      ...this.view(),
      sort: now === 'descending' ? null : { key: column.key, down: now === 'ascending' },
    });
  }

  protected filterOf(column: Column<R>): Filter {
    return this.view().filters[column.key] ?? {};
  }

  protected filterBy(column: Column<R>, change: Filter): void {
    this.keep({
      ...this.view(),
      filters: { ...this.view().filters, [column.key]: { ...this.filterOf(column), ...change } },
    });
  }

  protected tick(column: Column<R>, words: string, on: boolean): void {
    const all = this.few() ?? [];
    const now = this.filterOf(column).of ?? all;
    const next = all.filter((one) => (one === words ? on : now.includes(one)));
    this.filterBy(column, { of: next.length === all.length ? undefined : next });
  }

  protected clear(): void {
    this.find.set('');
    this.keep({ ...this.view(), filters: {} });
  }

  protected show(column: Column<R>, on: boolean): void {
    this.keep({ ...this.view(), shown: { ...this.view().shown, [column.key]: on } });
  }

  protected asItWas(): void {
    this.find.set('');
    this.keep(PLAIN_VIEW);
  }

  /** Up and down go from line to line, wherever in a line somebody stands. */
  protected walk(event: Event, by: 1 | -1): void {
    const at = (event.target as HTMLElement).closest('tbody tr');
    const cell = (event.target as HTMLElement).closest('td');
    const next = by === 1 ? at?.nextElementSibling : at?.previousElementSibling;
    const [within] = [
      ...(next?.children[cell?.cellIndex ?? 0]?.querySelectorAll<HTMLElement>('a, button, input') ?? []),
      ...(next?.querySelectorAll<HTMLElement>('a, button, input') ?? []),
    ];
    if (!within) return;
    event.preventDefault();
    within.focus();
  }

  protected async save(as: 'print' | 'csv' | 'xlsx'): Promise<void> {
    this.open.set(null);
    const sheet = this.sheet(as === 'xlsx');
    const name = `${sheet.name} ${this.house.dates().today()}`;
    if (as === 'print') printOut(sheet, `${this.many()}, ${this.house.dates().moment(new Date().toISOString())}`);
    else if (as === 'csv')
      download(`${name}.csv`, 'text/csv;charset=utf-8', await csvOf(sheet, this.mark() ?? 'point'));
    else
      download(
        `${name}.xlsx`,
        'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
        await xlsxOf(sheet),
      );
  }

  /** The stuck head counts against what is scrolled away above it. */
  protected headOffset(): number {
    return -(this.viewport()?.getOffsetToRenderedContentStart() ?? 0);
  }

  /** Figures as figures for who reckons on, and as they read for who reads. */
  private sheet(figures: boolean): Sheet {
    const columns = this.shown().filter(({ todo }) => !todo);
    return {
      name: this.name(),
      heads: columns.map((column) => this.headOf(column)),
      rows: this.found().map((row) =>
        columns.map((column) => {
          const figure = figures && isFigure(column.kind) ? figureOf(column, row) : null;
          return figure === null ? this.words(column, row) : Number(figure.toFixed(placesOf(column)));
        }),
      ),
    };
  }

  private figure(value: number, places: number): string {
    const text = printNumber(Number(value.toFixed(places)), this.mark());
    const mark = this.mark() === 'comma' ? ',' : '.';
    const [whole, part = ''] = text.split(mark);
    return places === 0 ? text : `${whole}${mark}${part.padEnd(places, '0')}`;
  }

  private keep(view: View): void {
    this.kept.keep(view);
  }
}

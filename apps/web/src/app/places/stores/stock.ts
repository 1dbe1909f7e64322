import { Component, computed, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Choices } from '../../ui/choices';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { RouterLink } from '@angular/router';
import { dayProblem, doorWords, formatAmount, STATE_WORDS, SUPPLY_STATES, type SupplyState } from '@clear-tally/core';
import type { StockReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { recordingForm } from '../../state/form';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { CountInput } from '../../ui/count-input';
import { Mark } from '../../ui/mark';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { calendarDay, dayAfter } from '../../ui/dates';
import { TextField } from '../../ui/text-field';
import { Waiting } from '../../ui/waiting';
import { keepingWords } from './keeping-words';
import { RejectLot } from './reject-lot';
import { StoresNav } from './stores-nav';
import { DayField } from '../../ui/day-field';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';

type StockRow = StockReply['lots'][number] & { readonly mass: string; readonly words: string | null };

/** Jars and lids are counted, everything else is weighed: each has a column, with one unit. */
const COLUMNS: readonly Column<StockRow>[] = [
  { key: 'code', head: 'Lot', value: ({ code }) => code, width: '128px' },
  {
    key: 'material',
    head: 'Material',
    value: (row) => row.materialName,
    words: (row) => [row.materialName, row.supplierName, row.supplierLotCode].filter(Boolean).join(', '),
  },
  {
    key: 'onHand',
    head: 'On hand',
    kind: 'kg',
    value: (row) => (row.unit === 'g' ? row.onHandGrams : null),
    width: '154px',
  },
  {
    key: 'pieces',
    head: 'Pieces',
    kind: 'number',
    value: (row) => (row.unit === 'g' ? null : row.onHandGrams),
    width: '110px',
  },
  {
    key: 'keeps',
    head: 'Keeps',
    value: (row) => row.until,
    words: (row) => (row.hold ? 'on hold' : (row.words ?? 'no date')),
  },
  { key: 'came', head: 'Came', kind: 'day', value: ({ receivedAt }) => receivedAt, width: '132px' },
  { key: 'supplier', head: 'Supplier', value: ({ supplierName }) => supplierName, aside: true },
  { key: 'theirs', head: 'Their lot', value: ({ supplierLotCode }) => supplierLotCode, aside: true },
  { key: 'kind', head: 'Kind', value: ({ kind }) => kind, aside: true },
];

/** What is in the stores, first to expire first; counted, opened, frozen and labelled at its line. */
@Component({
  selector: 'ct-stock',
  imports: [
    Choices,
    DayField,
    CountInput,
    Mark,
    QuantityInput,
    Refusal,
    RejectLot,
    RouterLink,
    StoresNav,
    Table,
    Cell,
    TextField,
    Waiting,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  templateUrl: './stock.html',
  styles: `
    .top {
      display: flex;
      justify-content: space-between;
      align-items: center;
      gap: 16px;
    }
    .code {
      border: 0;
      background: none;
      padding: 4px 0;
      min-height: 40px;
      font: 700 18px var(--figures);
    }
    .dates {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 4px 14px;
    }
    dd {
      margin: 0;
    }
  `,
})
export class Stock {
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly read = shown<StockReply>(signal('/api/stock'));
  protected readonly chosen = signal<string | null>(null);
  protected readonly count = recordingForm('stock.count', {
    fields: { counted: null as number | null, reason: '' },
    about: computed(() => this.chosen()),
    recorded: () => this.clear(),
  });
  protected readonly counted = this.count.values.counted;
  protected readonly reason = this.count.values.reason;
  protected readonly state = signal<SupplyState | null>(null);
  protected readonly change = recordingForm('supply.state', {
    fields: { until: '' },
    about: computed(() => this.chosen()),
    recorded: () => this.clear(),
  });
  protected readonly until = this.change.values.until;
  protected readonly copies = signal('1');
  protected readonly states = SUPPLY_STATES.map((key) => ({ key, words: STATE_WORDS[key] }));

  protected readonly rows = computed(() =>
    (this.read.data()?.lots ?? []).map((lot) => ({
      ...lot,
      mass: lot.onHandGrams === null ? 'tap' : formatAmount(lot.onHandGrams, lot.unit),
      words: keepingWords(lot),
    })),
  );
  protected readonly columns: readonly Column<StockRow>[] = COLUMNS;
  protected readonly keyOf = (row: StockRow): string => row.lotId;
  protected readonly wrongDay = (day: string): boolean => dayProblem(day) !== null;
  protected readonly lot = computed(() => this.rows().find((lot) => lot.lotId === this.chosen()) ?? null);
  protected readonly day = calendarDay;
  protected readonly doorWords = doorWords;
  protected readonly amount = formatAmount;
  /** A lot that is opened keeps as long as its material says. */
  protected readonly usualUntil = computed(() => {
    const lot = this.lot();
    const days = this.house.house()?.materials.find((one) => one.id === lot?.materialId)?.details.keepsOpenedDays;
    const today = this.read.data()?.today;
    if (days == null || !today) return '';
    return dayAfter(today, days);
  });

  protected choose(lotId: string): void {
    this.chosen.set(lotId);
    this.clear();
  }

  protected pick(state: SupplyState): void {
    this.state.set(state);
    this.until.set(state === 'opened' ? this.usualUntil() : '');
    this.change.edited();
  }

  protected recordCount(): void {
    if (this.counted() === null) return;
    this.count.record(
      this.count.entry('stock.count', {
        lotId: this.chosen()!,
        grams: this.counted()!,
        reason: this.reason().trim() || null,
      }),
    );
  }

  protected recordState(): void {
    if (!this.state()) return;
    this.change.record(
      this.change.entry('supply.state', {
        lotId: this.chosen()!,
        state: this.state()!,
        keepsUntil: this.until() || null,
      }),
    );
  }

  private clear(): void {
    this.counted.set(null);
    this.reason.set('');
    this.state.set(null);
    this.until.set('');
    this.count.edited();
    this.change.edited();
  }
}

import { CdkDrag, type CdkDragDrop, CdkDragHandle, CdkDropList, moveItemInArray } from '@angular/cdk/drag-drop';
import { Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormField } from '@angular/forms/signals';
import { Store } from '@ngrx/store';
import type { LabelsReply } from '@clear-tally/contract';
import {
  LABEL_FIELD_WORDS,
  LABEL_FIELDS,
  type LabelDesign,
  type LabelField,
  type LabelPlace,
  labelsPerPage,
  SYMBOL_KINDS,
  SYMBOL_WORDS,
  type SymbolKind,
} from '@clear-tally/core';
import canonicalize from 'canonicalize';
import { catchError, debounceTime, filter, of, switchMap } from 'rxjs';
import { Api, type WireProblem } from '../../api/api';
import { selectPrinter } from '../../state/devices';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Choice } from '../../ui/choice';
import { CountInput } from '../../ui/count-input';
import { FigureInput } from '../../ui/figure-input';
import { Mark } from '../../ui/mark';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Waiting } from '../../ui/waiting';
import { supplyChoices } from '../make/supply-choices';
import { PackNav } from '../pack/pack-nav';
import { FIRST_DESIGN, PAPERS } from './papers';
import { LabelStage } from './label-stage';
import { SheetView } from './sheet-view';

/** Labels of the jars of a run: designed on the sheet itself, filled in by the ledger, printed and counted. */
@Component({
  selector: 'ct-labels',
  imports: [
    CdkDrag,
    CdkDragHandle,
    CdkDropList,
    Choice,
    CountInput,
    FigureInput,
    FormField,
    LabelStage,
    Mark,
    PackNav,
    RecordButton,
    Refusal,
    Select,
    SheetView,
    TextField,
    Tick,
    TypedBeforeNote,
    Waiting,
  ],
  templateUrl: './labels.html',
  styleUrl: './labels.less',
})
export class Labels {
  readonly code = input.required<string>();
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  private readonly api = inject(Api);
  protected readonly printer = inject(Store).selectSignal(selectPrinter);
  protected readonly read = shown<LabelsReply>(computed(() => `/api/runs/${encodeURIComponent(this.code())}/labels`));

  protected readonly chosen = signal<string | null>(null);
  /** The design in hand: the one chosen, else the one kept last, else what a house begins with. */
  protected readonly kept = computed(() => {
    const all = this.read.data()?.designs ?? [];
    return all.find(({ designId }) => designId === this.chosen()) ?? all[0] ?? null;
  });
  protected readonly form = recordingForm('label.design', {
    fields: { name: '', design: null as LabelDesign | null, forFormula: null as boolean | null },
    recorded: () => {
      this.form.values.design.set(null);
      this.form.values.forFormula.set(null);
    },
  });
  protected readonly design = computed(
    (): LabelDesign =>
      this.form.values.design() ??
      withEveryField(this.kept()?.design ?? { ...FIRST_DESIGN, producer: this.house.house()?.name ?? '' }),
  );
  protected readonly name = computed(() => this.form.values.name() || this.kept()?.name || 'Jars');
  protected readonly changed = computed(
    () =>
      this.kept() === null ||
      (this.form.values.forFormula() ?? this.kept()!.formulaId !== null) !== (this.kept()!.formulaId !== null) ||
      (this.form.values.design() !== null && !same(this.design(), withEveryField(this.kept()!.design))),
  );
  protected readonly paperKey = computed(
    () => PAPERS.find(({ paper }) => same(paper, this.design().paper))?.key ?? 'own',
  );
  protected readonly papers = [...PAPERS.map(({ key, words }) => [key, words] as const), ['own', 'own sizes'] as const];
  protected readonly ownPaper = signal(false);
  protected readonly symbols = [
    ['none', 'none'] as const,
    ...SYMBOL_KINDS.map((key) => [key, SYMBOL_WORDS[key]] as const),
  ];
  protected readonly fieldWords = LABEL_FIELD_WORDS;

  protected readonly out = recordingForm('label.jars', {
    fields: { reason: '', labelLotId: '', first: null as number | null, last: null as number | null },
    about: this.code,
    recorded: () => {
      const v = this.out.values;
      v.reason.set('');
      [v.first, v.last].forEach((field) => field.set(null));
    },
  });
  /** As typed; else from the first jar without a label. */
  protected readonly first = computed(() => this.out.values.first() ?? this.read.data()?.next ?? 1);
  /** Up to where the labels say the same. */
  protected readonly part = computed(() =>
    (this.read.data()?.parts ?? []).find(({ first, last }) => first <= this.first() && last >= this.first()),
  );
  protected readonly last = computed(
    () => this.out.values.last() ?? this.part()?.last ?? this.read.data()?.run.last ?? 1,
  );
  protected readonly skip = signal(0);
  protected readonly count = computed(() => Math.max(0, this.last() - this.first() + 1));
  protected readonly onRoll = computed(() => labelsPerPage(this.design().paper) === 1);
  /** Some of them came out already. */
  protected readonly again = computed(() =>
    (this.read.data()?.prints ?? []).some((one) => one.first <= this.last() && one.last >= this.first()),
  );

  private readonly asked = computed(() => ({ code: this.code(), design: this.design(), serial: this.first() }));
  protected readonly preview = toSignal(
    toObservable(this.asked).pipe(
      filter(() => this.read.data() !== undefined),
      debounceTime(120),
      switchMap(({ code, design, serial }) =>
        this.api.lookAtLabel(code, design, Math.max(1, serial)).pipe(catchError(() => of(null))),
      ),
    ),
    { initialValue: null },
  );
  protected readonly problems = computed(() => this.preview()?.problems ?? []);
  protected readonly problemsOf = (field: string): string =>
    this.problems()
      .filter((one) => one.field === field)
      .map(({ words }) => words.replace(/^[^:]*: /, ''))
      .join('; ');
  protected readonly elsewhere = computed(() =>
    this.problems().filter(({ field }) => !this.design().fields.some(({ key, on }) => key === field && on)),
  );

  protected readonly tally = recordingForm('label.tally', {
    fields: { used: null as number | null, spoiled: null as number | null, back: null as number | null, reason: '' },
    about: this.code,
    recorded: () => {
      const v = this.tally.values;
      [v.used, v.spoiled, v.back].forEach((field) => field.set(null));
      v.reason.set('');
    },
  });
  protected readonly counted = computed(() => {
    const v = this.tally.values;
    return (v.used() ?? 0) + (v.spoiled() ?? 0) + (v.back() ?? 0);
  });

  /** Blank labels of the stores, by their lots. */
  protected readonly blanks = supplyChoices(signal('/api/supplies?kind=packaging'));
  protected readonly placeFigures = [
    ['xMm', 'From the left'],
    ['yMm', 'From the top'],
    ['widthMm', 'Wide'],
  ] as const;

  protected readonly stateWords = { ready: 'ready', jammed: 'jammed', empty: 'its roll is empty' } as const;
  protected readonly designNames = computed(() =>
    (this.read.data()?.designs ?? []).map(({ designId, name }) => [designId, name] as const),
  );
  protected readonly untils = [
    ['bestBefore', 'best before'],
    ['useBy', 'use by'],
  ] as const;
  protected readonly paperFigures: readonly (readonly [keyof LabelDesign['paper'], string, string])[] = [
    ['pageWidthMm', 'Page, wide', 'mm'],
    ['pageHeightMm', 'Page, high', 'mm'],
    ['columns', 'Across', ''],
    ['rows', 'Down', ''],
    ['widthMm', 'Label, wide', 'mm'],
    ['heightMm', 'Label, high', 'mm'],
    ['leftMm', 'From the left', 'mm'],
    ['topMm', 'From the top', 'mm'],
    ['gapXMm', 'Between, across', 'mm'],
    ['gapYMm', 'Between, down', 'mm'],
  ];
  protected readonly roundDays = (days: number): number => Math.max(1, Math.round(days));
  protected readonly printNeeds = computed(() => [
    this.changed() && 'the design, kept',
    this.problems().length > 0 && this.problems()[0]!.words.toLowerCase(),
    this.count() === 0 && 'jars',
    this.again() && !this.out.values.reason().trim() && 'why again',
    this.printing() && 'a moment',
  ]);
  /** Beside that a printer that is ready. */
  protected readonly printerNeeds = computed(() => [
    ...this.printNeeds(),
    this.printer()?.printer?.state !== 'ready' && !this.printing() && 'the printer, ready',
  ]);
  protected readonly isOpen = (need: string | false): boolean => need !== false;
  protected readonly openWords = computed(() => this.printNeeds().filter(this.isOpen).join(', '));

  protected readonly printing = signal(false);
  protected readonly said = signal<string | null>(null);

  constructor() {
    // Another design in hand is looked at as it is kept.
    effect(() => {
      this.chosen();
      untracked(() => this.form.values.design.set(null));
    });
  }

  protected change(part: Partial<LabelDesign>): void {
    // What is kept is frozen, and a form marks what it holds: it gets its own.
    this.form.values.design.set(structuredClone({ ...this.design(), ...part }));
  }

  protected usePaper(key: string): void {
    const paper = PAPERS.find((one) => one.key === key)?.paper;
    this.ownPaper.set(!paper);
    if (paper) this.change({ paper });
    this.skip.set(0);
  }

  protected changePaper(key: keyof LabelDesign['paper'], figure: number | null): void {
    if (figure !== null && figure >= 0) {
      const whole = key === 'columns' || key === 'rows' ? Math.max(1, Math.round(figure)) : figure;
      this.change({ paper: { ...this.design().paper, [key]: whole } });
    }
  }

  protected useSymbol(kind: string): void {
    this.change({
      symbol: kind === 'none' ? null : { kind: kind as SymbolKind, mm: this.design().symbol?.mm ?? 15 },
    });
  }

  /** Null: back in line with the others. */
  protected placeField(key: LabelField, place: LabelPlace | null): void {
    this.change({ fields: this.design().fields.map((one) => (one.key === key ? { ...one, place } : one)) });
  }

  protected movePlace(key: LabelField, place: LabelPlace, edge: keyof LabelPlace, figure: number | null): void {
    if (figure === null) return;
    const moved: LabelPlace = { xMm: place.xMm, yMm: place.yMm, widthMm: place.widthMm };
    this.placeField(key, { ...moved, [edge]: edge === 'widthMm' ? Math.max(2, figure) : figure });
  }

  protected placeSymbol(place: { xMm: number; yMm: number }): void {
    const { symbol } = this.design();
    if (symbol) this.change({ symbol: { ...symbol, place } });
  }

  protected changeField(key: LabelField, part: { on?: boolean; points?: number | null }): void {
    this.change({
      fields: this.design().fields.map((one) =>
        one.key === key ? { ...one, on: part.on ?? one.on, points: part.points ?? one.points } : one,
      ),
    });
  }

  protected dropped(event: CdkDragDrop<unknown>): void {
    this.move(event.previousIndex, event.currentIndex);
  }

  protected moveByKey(event: KeyboardEvent, index: number): void {
    const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0;
    if (by === 0) return;
    event.preventDefault();
    this.move(index, index + by);
  }

  private move(from: number, to: number): void {
    const fields = [...this.design().fields];
    if (to < 0 || to >= fields.length) return;
    moveItemInArray(fields, from, to);
    this.change({ fields });
  }

  protected keep(): void {
    const kept = this.kept();
    const forFormula = this.form.values.forFormula() ?? (kept !== null && kept.formulaId !== null);
    // A design for one formula is one of its own: the one for all jars stays as it is.
    const own = kept !== null && (kept.formulaId !== null) === forFormula ? kept : null;
    const designId = own?.designId ?? newId();
    this.form.record(
      this.form.entry('label.design', {
        designId,
        name: this.name(),
        formulaId: forFormula ? (this.read.data()?.run.formulaId ?? null) : null,
        design: structuredClone({ ...this.design(), fields: [...this.design().fields] }),
      }),
    );
  }

  protected readonly sheets = computed(() => {
    const of = this.kept();
    return of
      ? `/api/runs/${encodeURIComponent(this.code())}/labels.pdf?designId=${of.designId}&first=${this.first()}&last=${this.last()}&skip=${this.skip()}`
      : null;
  });

  /** Noted when the sheets are taken: they are out then, and counted. */
  protected marked(first: number, last: number, printer: string | null): void {
    const run = this.read.data()?.run;
    const of = this.kept();
    if (!run || !of || last < first) return;
    this.out.record(
      this.out.entry('label.jars', {
        runLotId: run.lotId,
        designId: of.designId,
        first,
        last,
        printer,
        reason: this.out.values.reason().trim() || null,
        labelLotId: this.out.values.labelLotId() || null,
      }),
    );
  }

  /** One after the other; where it jams, what came out until then is noted, and nothing else. */
  protected print(): void {
    const printer = this.printer();
    const of = this.kept();
    if (!printer || !of || this.printing()) return;
    const [first, last] = [this.first(), this.last()];
    this.printing.set(true);
    const next = (serial: number): void => {
      this.said.set(`Jar ${serial} of ${last} …`);
      this.api.printJar(printer.id, { code: this.code(), designId: of.designId, serial }).subscribe({
        next: () => (serial < last ? next(serial + 1) : this.ended(first, last, printer.name, null)),
        error: (problem: WireProblem) => this.ended(first, serial - 1, printer.name, problem.detail),
      });
    };
    next(first);
  }

  private ended(first: number, last: number, printer: string, problem: string | null): void {
    this.printing.set(false);
    this.said.set(
      problem === null
        ? null
        : `${problem} ${last < first ? 'None came out.' : `Jars ${first} to ${last} came out and are noted; go on from ${last + 1}.`}`,
    );
    this.marked(first, last, printer);
  }

  protected countLabels(): void {
    const run = this.read.data()?.run;
    const v = this.tally.values;
    if (!run) return;
    this.tally.record(
      this.tally.entry('label.tally', {
        runLotId: run.lotId,
        used: v.used() ?? 0,
        spoiled: v.spoiled() ?? 0,
        back: v.back() ?? 0,
        reason: v.reason().trim() || null,
      }),
    );
  }
}

/** A design kept before there was a field has it too, switched off. */
const withEveryField = (design: LabelDesign): LabelDesign => ({
  ...design,
  fields: [
    ...design.fields,
    ...LABEL_FIELDS.filter((key) => !design.fields.some((one) => one.key === key)).map((key) => ({
      key,
      on: false,
      points: 8,
    })),
  ],
});

/** Whatever the order of their keys: the database has one of its own. */
const same = (a: unknown, b: unknown): boolean => canonicalize(a) === canonicalize(b);

import { OwnersOnly } from '../../../ui/owners-only';
import { WindowsEditor } from './windows-editor';
import { moveItemInArray } from '@angular/cdk/drag-drop';
import { Choices } from '../../../ui/choices';
import { RecordButton } from '../../../ui/record-button';
import {
  ChangeDetectorRef,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import {
  type Form,
  FORM_KEYS,
  formatPercent,
  FORMS,
  HOUSE_RULES,
  NATIONALITIES,
  type Nationality,
  OUTSIDE_SCOPE,
  outsideScope,
  rollUpAllergens,
  SALT_BANDS,
  saltBand,
  type SaltBasis,
  scaleFormula,
  STATION_WORDS,
  STEP_PLACES,
} from '@clear-tally/core';
import type { FormulaReply, FormulasReply } from '@clear-tally/contract';
import { draftInHand } from '../../../state/draft';
import { houseNation, injectHouse } from '../../../state/house';
import { recordingForm } from '../../../state/form';
import { injectRights } from '../../../state/person';
import { shown } from '../../../state/shown';
import { Refusal } from '../../../ui/refusal';
import { SaltRuler } from '../../../ui/salt-ruler';
import { TextField } from '../../../ui/text-field';
import { Waiting } from '../../../ui/waiting';
import {
  type NOT_SAID,
  unsaid,
  usualFigures,
  type Draft,
  emptyStep,
  newDraft,
  newKey,
  packedAs,
  STYLE_DEFAULTS,
  STYLE_WORDS,
  type Style,
  USUAL_HEAVY,
} from '../draft/draft';
import { draftFromFormula } from '../draft/draftFrom';
import { readDraft, saidAt, type Said, stableIds } from '../draft/readDraft';
import { LinesEditor } from './lines-editor';
import { PlanEditor } from './plan-editor';
import { Tick } from '../../../ui/tick';
import { Select } from '../../../ui/select';
import { AreaField } from '../../../ui/area-field';

/** Fields of the fold of jars, yields and work. */
const IN_FOLD = /^(?:trim|ferment|finish|pack|solids|usualDays|coolest|warmest|labour\w*|jars?\b.*)$/;

/** Writes a formula: new, a new version, or a copy. Everything stays as typed; holes are shown, not filled. */
const FIGURE_WORDS: Readonly<Record<keyof typeof NOT_SAID, string>> = {
  trim: 'trim yield',
  ferment: 'ferment yield',
  pack: 'pack yield',
  solids: 'solids in a jar',
  usualDays: 'days',
};

@Component({
  selector: 'ct-editor',
  imports: [
    OwnersOnly,
    WindowsEditor,
    Choices,
    LinesEditor,
    PlanEditor,
    Refusal,
    RouterLink,
    SaltRuler,
    TextField,
    Waiting,
    Tick,
    Select,
    AreaField,
    RecordButton,
  ],
  templateUrl: './editor.html',
  styleUrl: './editor.less',
  host: { '(keydown)': 'keyed($event)' },
})
export class Editor {
  /** Of an existing formula; none for a new one. */
  readonly formulaId = input<string>();
  readonly copy = input<string>();
  /** From the quick tools: a salt to begin with. */
  readonly salt = input<string>();
  readonly basis = input<string>();
  readonly water = input<string>();
  private readonly router = inject(Router);
  private readonly page = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly rendering = inject(ChangeDetectorRef);
  private readonly house = injectHouse();
  private readonly ids = stableIds();

  protected readonly rights = injectRights();
  protected readonly key = computed(
    () => `formula:${this.formulaId() ?? (this.copy() ? `copy:${this.copy()}` : 'new')}`,
  );
  protected readonly hand = draftInHand<Draft>(this.key);
  protected readonly draft = this.hand.draft;
  private readonly source = computed(() => this.formulaId() ?? this.copy() ?? null);
  protected readonly read = shown<FormulaReply>(
    computed(() => (this.source() ? `/api/formulas/${this.source()}` : null)),
  );
  private readonly book = shown<FormulasReply>(signal('/api/formulas'));

  protected readonly reading = computed(() => {
    const draft = this.draft();
    return draft && readDraft(draft, this.house.house()?.materials ?? [], this.ids, this.house.house()?.decimalMark);
  });
  /** Somebody saved a newer version while this one was written. */
  protected readonly overtaken = computed(() => {
    const formula = this.read.data();
    const draft = this.draft();
    return draft && formula && this.formulaId() && formula.version > draft.base ? formula.version : null;
  });
  protected readonly materials = computed(() =>
    (this.house.house()?.materials ?? [])
      .filter(({ kind }) => kind !== 'packaging')
      .map(({ name, kind }) => ({ name, kind })),
  );
  protected readonly outside = computed(() => {
    const draft = this.draft();
    const known = new Map(
      (this.house.house()?.materials ?? []).map((one) => [one.name.toLowerCase(), one.details.group]),
    );
    return (
      draft &&
      outsideScope({
        makes: draft.makes,
        groups: draft.produce.map((part) => known.get(part.material.trim().toLowerCase())),
      })
    );
  });
  protected readonly wps = computed(() => {
    const scalable = this.reading()?.scalable;
    if (!scalable || scalable.saltFraction === null || scalable.saltBasis === null || scalable.waterPerProduce === null)
      return null;
    return scaleFormula({
      formula: scalable,
      target: { from: 'trimmed', trimmedGrams: scalable.referenceGrams ?? 1000 },
    }).waterPhaseSalt;
  });
  protected readonly band = computed(() =>
    this.wps() === null ? null : SALT_BANDS.find(({ band }) => band === saltBand(this.wps()!))!,
  );
  protected readonly allergens = computed(() => {
    const names = new Set(
      [...(this.draft()?.produce ?? []), ...(this.draft()?.lines ?? [])].map((line) =>
        line.material.trim().toLowerCase(),
      ),
    );
    return rollUpAllergens(
      (this.house.house()?.materials ?? [])
        .filter((one) => names.has(one.name.toLowerCase()))
        .map((one) => ({ name: one.name, allergens: one.allergens, mayContain: one.details.mayContain })),
    );
  });
  protected readonly save = recordingForm('formula.save', () => {
    const id = this.draft()?.formulaId;
    this.hand.close();
    void this.router.navigate(['/formulas', id]);
  });

  protected readonly cuts = [['leaf', 'cut leaf'] as const, ['quarters', 'quarters'] as const];
  protected readonly styles = Object.entries(STYLE_WORDS) as [Style, string][];
  protected readonly stepPlaces = STEP_PLACES.map((key) => ({
    key,
    words: key === 'later' ? 'later, at finishing' : STATION_WORDS[key].toLowerCase(),
  }));
  protected readonly forms = FORM_KEYS.map((key) => ({ key, words: FORMS[key].words }));
  protected readonly bases: readonly [SaltBasis | null, string][] = [
    ['ofVegetable', 'the vegetable'],
    ['ofWater', 'the water'],
    ['ofSolution', 'the brine'],
    ['ofEverything', 'everything'],
    [null, 'it does not say'],
  ];
  protected readonly nations: readonly [Nationality | null, string][] = [
    ...NATIONALITIES.map(
      (key) =>
        [key, { us: 'US', metric: 'metric', imperial: 'imperial', australian: 'Australian' }[key]] as [
          Nationality,
          string,
        ],
    ),
    [null, 'not known'],
  ];
  protected readonly outsides = Object.entries(OUTSIDE_SCOPE);
  protected readonly houseRules = HOUSE_RULES.filter((rule) => rule.byFormula);
  protected readonly percent = formatPercent;

  constructor() {
    // A draft that waited here goes on; otherwise the formula is opened, or a new one begun.
    effect(() => {
      if (this.draft()) return;
      const book = this.book.data();
      const formula = this.read.data();
      if (!book || !this.house.house() || (this.source() && !formula)) return;
      const number = Math.max(0, ...book.formulas.map((one) => one.number)) + 1;
      untracked(() =>
        this.hand.open(
          formula
            ? draftFromFormula(formula, this.copy() ? { number } : undefined)
            : newDraft(number, { nationality: houseNation(this.house.house()?.rules), ...this.begun() }),
        ),
      );
    });
  }

  /** A name nobody typed yet is no fault of it; one that was taken away is. */
  protected readonly named = signal(false);

  protected said(field: string): Said {
    const reading = this.reading();
    return reading ? saidAt(reading, field) : { say: null, problem: null };
  }

  protected edit(field: string, change: Partial<Draft>): void {
    this.hand.edit(field, change);
    this.save.edited();
  }

  /** Figures nobody has said, with what tables give for them: "trim yield (usually 80 %)". */
  protected readonly notSaid = computed(() => {
    const draft = this.draft();
    if (!draft) return [];
    const usual = usualFigures(draft.form);
    return unsaid(draft).map((key) => `${FIGURE_WORDS[key]} (${usual[key]}${key === 'usualDays' ? '' : ' %'})`);
  });

  /** What is missing in the fold and no usual value answers opens it; it stays open while that is typed. */
  protected readonly isAskedInside = linkedSignal<boolean, boolean>({
    source: () => {
      const [draft, reading] = [this.draft(), this.reading()];
      if (!draft || !reading) return false;
      const usual: readonly string[] = unsaid(draft);
      return Object.entries(reading.fields).some(
        ([field, { problem }]) => problem !== null && !usual.includes(field) && IN_FOLD.test(field),
      );
    },
    computation: (asks, before) => asks || (before?.value ?? false),
  });

  protected takeUsual(): void {
    const draft = this.draft()!;
    const usual = usualFigures(draft.form);
    const taken = unsaid(draft);
    const says = `Usual values, not weighed here yet: ${taken.map((key) => FIGURE_WORDS[key]).join(', ')}.`;
    this.edit('usual', {
      ...Object.fromEntries(taken.map((key) => [key, usual[key]])),
      note: [draft.note.trim(), says].filter(Boolean).join(' ').slice(0, 1000),
    });
  }

  protected chooseStyle(style: Style): void {
    const brings = STYLE_DEFAULTS[style];
    this.edit('style', { style, ...brings, ...(brings.form ? packedAs(this.draft()!, brings.form) : {}) });
  }

  protected editProduce(key: string, change: object): void {
    this.edit(`produce.${key}.${Object.keys(change)[0]}`, {
      produce: this.draft()!.produce.map((row) => (row.key === key ? { ...row, ...change } : row)),
    });
  }

  protected addProduce(): void {
    this.edit('produce+', { produce: [...this.draft()!.produce, { key: newKey(), material: '', amount: '' }] });
  }

  protected dropProduce(key: string): void {
    this.edit('produce-', { produce: this.draft()!.produce.filter((row) => row.key !== key) });
  }

  protected heavyOn(on: boolean): void {
    this.edit('heavy', { heavy: on ? USUAL_HEAVY : null });
  }

  protected editHeavy(change: object): void {
    this.edit(`heavy.${Object.keys(change)[0]}`, { heavy: { ...this.draft()!.heavy!, ...change } });
  }

  protected editJar(index: number, change: object): void {
    this.edit(`jar.${index}.${Object.keys(change)[0]}`, {
      jars: this.draft()!.jars.map((jar, at) => (at === index ? { ...jar, ...change } : jar)),
    });
  }

  protected addJar(): void {
    this.edit('jar+', {
      jars: [...this.draft()!.jars, { sizeMl: '', fillGrams: '', perCase: '', packagingCost: '', price: '' }],
    });
  }

  protected editStep(key: string, change: object): void {
    this.edit(`step.${key}.${Object.keys(change)[0]}`, {
      steps: this.draft()!.steps.map((step) => (step.key === key ? { ...step, ...change } : step)),
    });
  }

  protected addStep(): void {
    const step = emptyStep();
    this.edit('step+', { steps: [...this.draft()!.steps, step] });
    this.focusLater(`[data-step='${step.key}'] input`);
  }

  protected dropStep(key: string): void {
    this.edit('step-', { steps: this.draft()!.steps.filter((step) => step.key !== key) });
  }

  protected moveStep(event: KeyboardEvent, index: number, key: string): void {
    const to = event.key === 'ArrowUp' ? index - 1 : event.key === 'ArrowDown' ? index + 1 : null;
    if (to === null) return;
    event.preventDefault();
    const steps = [...this.draft()!.steps];
    if (to < 0 || to >= steps.length) return;
    moveItemInArray(steps, index, to);
    this.edit('step move', { steps });
    this.focusLater(`[data-step='${key}'] .handle`);
  }

  protected chooseRule(rule: string, option: string): void {
    const { [rule]: _, ...rest } = this.draft()!.rules;
    this.edit(`rule.${rule}`, { rules: option ? { ...rest, [rule]: option } : rest });
  }

  protected chooseForm(form: string): void {
    this.edit('form', packedAs(this.draft()!, form as Form));
  }

  protected keep(): void {
    const reading = this.reading();
    if (!reading?.body || !this.rights.isOwner()) return;
    const body = this.outside() ? { ...reading.body, checks: [] } : reading.body;
    this.save.record(
      ...reading.newMaterials.map((material) => this.save.entry('material.add', material)),
      this.save.entry('formula.save', body),
    );
  }

  protected throwAway(): void {
    this.hand.close();
    void this.router.navigate(this.formulaId() ? ['/formulas', this.formulaId()] : ['/formulas']);
  }

  /** The newest version is looked at first; what was typed stays until it is thrown away. */
  protected rebase(): void {
    this.edit('rebase', { base: this.overtaken()! });
  }

  protected keyed(event: KeyboardEvent): void {
    if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
    const key = event.key.toLowerCase();
    if (key === 'z' || key === 'y') {
      event.preventDefault();
      // Fast fingers: a field shows its old value again only when the page has seen the new one.
      this.rendering.detectChanges();
      if (key === 'y' || event.shiftKey) this.hand.redo();
      else this.hand.undo();
    }
    if (key === 's') {
      event.preventDefault();
      this.keep();
    }
  }

  protected newNames(added: readonly { name: string }[]): string {
    return added.map(({ name }) => name).join(', ');
  }

  private begun(): Partial<Draft> {
    return {
      ...(this.salt() ? { salt: this.salt()! } : {}),
      ...(this.basis() ? { saltBasis: this.basis() as SaltBasis } : {}),
      ...(this.water() ? { water: this.water()! } : {}),
    };
  }

  private focusLater(selector: string): void {
    setTimeout(() => this.page.nativeElement.querySelector<HTMLElement>(selector)?.focus());
  }
}

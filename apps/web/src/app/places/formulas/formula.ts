import { Component, computed, inject, input, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Tabs } from '../../ui/tabs';
import { Choices } from '../../ui/choices';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Router, RouterLink } from '@angular/router';
import {
  BASIS_WORDS,
  checkWords,
  donenessWords,
  windowConditionWords,
  windowDaysWords,
  formatGrams,
  formatPercent,
  mlPerTrimmedGram,
  rulesInForce,
  HOUSE_RULES,
  saltBand,
  saltOtherwise,
  SALT_BANDS,
  scaleFormula,
  scaleTooCoarse,
  splitGrams,
  tasteReference,
  usableMl,
  wholeCases,
  wholeHeads,
  type JarOrder,
  type ScalableFormula,
  type ScaledLine,
  type ScaleTarget,
  type Working,
  isFillable,
} from '@clear-tally/core';
import type { FormulaReply } from '@clear-tally/contract';
import { fitted } from '../../fitting/fitting';
import { VesselFit } from '../../fitting/vessel-fit';
import { injectHouse } from '../../state/house';
import { newId, recordingForm } from '../../state/form';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { CautionsAt } from '../../ui/cautions-at';
import { CountInput } from '../../ui/count-input';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { SaltRuler } from '../../ui/salt-ruler';
import { Waiting } from '../../ui/waiting';
import { WorkingShower } from '../../ui/working-shower';
import { AsWritten } from './as-written';
import { LabelCost } from './bench/label-cost';
import { type ChosenYields, YieldsChoice } from './bench/yields-choice';
import { Tick } from '../../ui/tick';
import { TextField } from '../../ui/text-field';
import { Select } from '../../ui/select';
import { EquipmentNeeded } from './equipment-needed';

const FROM = { jars: 'Jars', trimmed: 'Trimmed', bought: 'Bought', vessels: 'Vessels', stock: 'Stock' } as const;
type From = keyof typeof FROM;

/** A formula and its scaling bench: from jars, masses, vessels or a stock; each figure opens its working. */
@Component({
  selector: 'ct-formula',
  imports: [
    AsWritten,
    EquipmentNeeded,
    Tabs,
    Choices,
    CautionsAt,
    CountInput,
    FigureInput,
    LabelCost,
    QuantityInput,
    Refusal,
    RouterLink,
    SaltRuler,
    VesselFit,
    Waiting,
    WorkingShower,
    YieldsChoice,
    Tick,
    TextField,
    Select,
    FormField,
    RecordButton,
    TypedBeforeNote,
  ],
  templateUrl: './formula.html',
  styleUrl: './formula.less',
})
export class Formula {
  readonly formulaId = input.required<string>();
  /** An earlier version, by its number. */
  readonly version = input<string>();
  private readonly router = inject(Router);
  private readonly house = injectHouse();
  protected readonly read = shown<FormulaReply>(
    computed(() => `/api/formulas/${this.formulaId()}${this.version() ? `?version=${this.version()}` : ''}`),
  );
  protected readonly formula = this.read.data;
  protected readonly rights = injectRights();
  protected readonly theHouse = this.house.house;

  protected readonly froms = Object.entries(FROM) as [From, string][];
  protected readonly from = signal<From>('jars');
  protected readonly counts = signal<Readonly<Record<number, number | null>>>({});

  protected readonly start = recordingForm('batch.start', {
    fields: { mass: null as number | null, leaf: null as number | null, weakReason: '', stockOf: '', byCase: false },
    recorded: () => void this.router.navigate(['/make', this.startedId]),
  });
  protected readonly byCase = this.start.values.byCase;
  protected readonly mass = this.start.values.mass;
  protected readonly stockOf = this.start.values.stockOf;
  protected readonly stockOptions = computed(() => {
    const f = this.formula();
    return [
      ...(f?.produce ?? []).map(({ materialId, name }) => ({ id: materialId, label: `${name}, as bought` })),
      ...(f?.lines ?? [])
        .filter(({ amount }) => amount !== null)
        .map(({ materialId, name }) => ({ id: materialId, label: name })),
    ];
  });
  protected readonly taken = signal<readonly string[]>([]);
  protected readonly variant = signal<string | null>(null);
  protected readonly leaf = this.start.values.leaf;
  protected readonly chosenYields = signal<ChosenYields | null>(null);
  protected readonly leaves = [
    ['why', 'Why'],
    ['vessels', 'Vessels'],
    ['label', 'Label, cost'],
    ['plan', 'Plan'],
  ] as const;
  protected readonly tab = signal<'why' | 'vessels' | 'label' | 'plan'>('why');
  protected readonly opened = signal<string>('salt');
  protected readonly weakReason = this.start.values.weakReason;
  protected readonly exporting = signal(false);
  protected readonly retire = recordingForm('formula.retire', {
    fields: { retireReason: null as string | null },
    recorded: () => this.retireReason.set(null),
  });
  protected readonly retireReason = this.retire.values.retireReason;
  private startedId = '';

  protected readonly chosenVariant = computed(() => this.variant() ?? this.formula()?.variants[0] ?? null);
  private readonly yields = computed(
    (): ChosenYields | null =>
      this.chosenYields() ?? (this.formula() ? { values: this.formula()!.yields, sources: {} } : null),
  );
  private readonly scalable = computed((): ScalableFormula | null => {
    const formula = this.formula();
    return formula && { ...formula, yields: this.yields()!.values };
  });
  protected readonly freeVessels = computed(() => (this.house.house()?.vessels ?? []).filter(isFillable));
  private readonly cases = computed(() => {
    const formula = this.formula();
    const jars = (formula?.jarSizes ?? []).flatMap(
      ({ sizeMl, fillGrams, perCase = 1 }): (JarOrder & { perCase: number })[] => {
        const count = this.counts()[sizeMl];
        return count ? [{ sizeMl, fillGrams, count, perCase }] : [];
      },
    );
    return this.byCase() ? wholeCases(jars) : { jars: jars.map(({ perCase: _, ...jar }) => jar), surplus: [] };
  });
  protected readonly surplus = computed(() =>
    this.cases()
      .surplus.map(({ sizeMl, count }) => `${count} of ${sizeMl} mL`)
      .join(', '),
  );
  protected readonly target = computed((): ScaleTarget | null => {
    const mass = this.mass();
    switch (this.from()) {
      case 'jars':
        return this.cases().jars.length > 0 ? { from: 'jars', jars: this.cases().jars } : null;
      case 'trimmed':
        return mass ? { from: 'trimmed', trimmedGrams: mass } : null;
      case 'bought':
        return mass ? { from: 'bought', boughtGrams: mass } : null;
      case 'stock':
        return mass && this.stockOf() ? { from: 'stock', materialId: this.stockOf(), grams: mass } : null;
      case 'vessels': {
        const vessels = this.freeVessels().filter((vessel) => this.taken().includes(vessel.id));
        return vessels.length > 0 ? { from: 'vessels', vessels } : null;
      }
    }
  });
  protected readonly scaled = computed(() => {
    const formula = this.scalable();
    const target = this.target();
    if (!formula || !target) return null;
    return scaleFormula({
      formula,
      target,
      variant: this.chosenVariant(),
      vesselCount: this.vesselCount(),
      measuredLeafSalt: this.leaf(),
      yieldSources: this.yields()!.sources,
    });
  });
  /** Vessels as fitted count for what goes in per vessel, once they are chosen. */
  private readonly vesselCount = computed(() =>
    this.from() === 'vessels' ? undefined : this.taken().length || undefined,
  );
  private readonly step = computed(() => this.house.house()?.settings.scaleStepGrams ?? 1);
  protected readonly lines = computed(() => {
    const known = new Map((this.house.house()?.materials ?? []).map((one) => [one.id, one]));
    return (this.scaled()?.lines ?? []).map((line) => {
      const price = (
        line.role === 'salt' ? known.get(this.formula()!.saltMaterialId ?? '') : known.get(line.materialId ?? '')
      )?.details.costPerKg;
      const step = (line.grams ?? 0) < 10 ? undefined : this.step();
      return {
        ...line,
        ...(line.grams === null
          ? { value: line.working.answer, unit: '' }
          : splitGrams(line.grams, { stepGrams: step })),
        counted: this.countedOn(line),
        cost: price && line.grams !== null ? ((price * line.grams) / 1000).toFixed(2) : '–',
        marked:
          line.role === 'ingredient' || line.role === 'produce'
            ? (known.get(line.materialId ?? '')?.allergens.length ?? 0) > 0
            : false,
        pieceWords: line.pieces === null ? '' : `${line.pieces} ${line.pieceName ?? 'pieces'}`,
      };
    });
  });
  protected readonly working = computed((): Working | null => {
    const scaled = this.scaled();
    if (!scaled) return null;
    if (this.opened() === 'bought') return scaled.workings.bought;
    if (this.opened() === 'trimmed') return scaled.workings.trimmed;
    if (this.opened() === 'wps') return scaled.workings.waterPhaseSalt;
    return scaled.lines.find((line) => line.key === this.opened())?.working ?? scaled.workings.salt;
  });
  protected readonly openedName = computed(
    () =>
      ({ bought: 'to buy', trimmed: 'trimmed', wps: 'in the water phase' })[this.opened()] ??
      this.scaled()?.lines.find((line) => line.key === this.opened())?.name ??
      '',
  );
  protected readonly settled = computed(
    () =>
      this.formula()?.saltBasis !== null &&
      this.formula()?.saltFraction !== null &&
      this.formula()?.waterPerProduce !== null,
  );
  protected readonly wps = computed(() => (this.settled() ? (this.scaled()?.waterPhaseSalt ?? null) : null));
  protected readonly band = computed(() =>
    this.wps() === null ? null : SALT_BANDS.find(({ band }) => band === saltBand(this.wps()!))!,
  );
  protected readonly otherwise = computed(() => {
    const scaled = this.scaled();
    if (!scaled || !this.settled()) return '';
    const { produceGrams: vegetableGrams, waterGrams, saltGrams } = scaled;
    return saltOtherwise({ vegetableGrams, waterGrams, saltGrams }).join(' · ');
  });
  protected readonly coarse = computed(() => {
    const grams = this.scaled()?.saltGrams ?? 0;
    return grams > 0 && scaleTooCoarse({ doseGrams: grams, stepGrams: this.step() }).tooCoarse
      ? `This dose is ${formatGrams(grams)} on a scale of ${this.step()} g: ${formatPercent(this.step() / grams, 1)} of it. Use the fine scale, or weigh for several vessels at once.`
      : null;
  });
  protected readonly yieldsJars = computed(() => {
    const formula = this.formula();
    const scaled = this.scaled();
    if (!formula || !scaled || this.from() === 'jars') return '';
    const size = formula.jarSizes[0]!;
    return `about ${Math.floor(scaled.chain.filledGrams / size.fillGrams)} jars of ${size.sizeMl} mL`;
  });
  protected readonly heads = computed(() => {
    const formula = this.formula();
    const scaled = this.scaled();
    if (!formula || !scaled) return [];
    return formula.produce
      .filter((part) => part.pieceGrams)
      .map((part) => {
        const whole = wholeHeads({
          boughtGrams: scaled.chain.boughtGrams * part.share,
          pieceGrams: part.pieceGrams!,
          trimYield: this.yields()!.values.trim,
        });
        return `${whole.heads} whole ${part.name.toLowerCase()}, ${formatGrams(whole.boughtGrams)}: ${formatGrams(whole.surplusTrimmedGrams)} more than needed once trimmed`;
      });
  });
  protected readonly jarsMade = computed(() => {
    const formula = this.formula();
    const scaled = this.scaled();
    if (!formula || !scaled) return [];
    return this.from() === 'jars'
      ? this.cases().jars
      : [
          {
            sizeMl: formula.jarSizes[0]!.sizeMl,
            count: Math.floor(scaled.chain.filledGrams / formula.jarSizes[0]!.fillGrams),
          },
        ];
  });
  protected readonly batchMl = computed(() => {
    const scaled = this.scaled();
    return scaled ? scaled.produceGrams * mlPerTrimmedGram(this.scalable()!) : null;
  });
  protected readonly fit = fitted(
    computed(() => {
      const batchMl = this.batchMl();
      return batchMl && this.tab() === 'vessels' && this.from() !== 'vessels'
        ? { batchMl, vessels: this.freeVessels() }
        : null;
    }),
  );
  protected readonly densityOfFilling = computed(() =>
    this.batchMl()
      ? (this.scaled()!.produceGrams + this.scaled()!.waterGrams + this.scaled()!.saltGrams) / this.batchMl()!
      : 1,
  );
  protected readonly plan = computed(() => {
    const formula = this.formula();
    if (!formula) return null;
    const force = rulesInForce(this.house.house()?.rules ?? {}, formula.rules);
    return {
      checks: formula.checks.map(checkWords),
      done: formula.done ? donenessWords(formula.done) : [],
      windows: (formula.windows ?? []).map((window) => ({
        of: windowConditionWords(window),
        says: windowDaysWords(window),
      })),
      rules: Object.keys(formula.rules).map((key) => {
        const rule = HOUSE_RULES.find((one) => one.key === key);
        const chosen = rule?.options.find((one) => one.key === force[key]);
        return { question: rule?.question ?? key, words: chosen?.words ?? '', asks: chosen?.asks ?? null };
      }),
    };
  });
  protected readonly references = [0.015, 0.025]
    .map((strength) => ({ strength: formatPercent(strength, 1), ...tasteReference(strength) }))
    .map(
      ({ strength, saltGrams, waterGrams }) => `${strength}: ${saltGrams.toFixed(1)} g salt in ${waterGrams} g water`,
    );
  protected readonly aim = computed(() => {
    switch (this.from()) {
      case 'vessels':
        return `vessels ${this.freeVessels()
          .filter((vessel) => this.taken().includes(vessel.id))
          .map(({ tag }) => tag)
          .join(', ')}`;
      case 'bought':
        return `${formatGrams(this.mass() ?? 0)} bought`;
      case 'stock':
        return `a stock of ${formatGrams(this.mass() ?? 0)}`;
      default:
        return null;
    }
  });
  /** What a paper about this batch is asked with. */
  protected readonly paper = computed(() => {
    const target = this.target();
    const scaled = this.scaled();
    if (!target || !scaled) return '';
    const query = new URLSearchParams(
      target.from === 'jars' && Object.keys(this.yields()!.sources).length === 0
        ? { jars: target.jars.map((jar) => `${jar.sizeMl}x${jar.count}`).join(',') }
        : { trimmed: scaled.produceGrams.toFixed(3) },
    );
    query.set('version', String(this.formula()!.version));
    if (this.chosenVariant()) query.set('variant', this.chosenVariant()!);
    if (this.leaf()) query.set('leaf', String(this.leaf()));
    if (this.taken().length > 0) query.set('vessels', String(this.taken().length));
    if (this.aim()) query.set('aim', this.aim()!);
    return `?${query.toString()}`;
  });
  protected readonly grams = formatGrams;
  protected readonly percent = formatPercent;
  protected readonly litres = (ml: number): string => `${(ml / 1000).toFixed(1)} L`;
  protected readonly roomOf = usableMl;

  protected setCount(sizeMl: number, count: number | null): void {
    this.counts.update((counts) => ({ ...counts, [sizeMl]: count }));
    this.start.edited();
  }

  protected choose(from: From): void {
    this.from.set(from);
    this.mass.set(null);
    if (from === 'vessels') this.taken.set([]);
  }

  protected toggleVessel(id: string): void {
    this.taken.update((taken) => (taken.includes(id) ? taken.filter((one) => one !== id) : [...taken, id]));
  }

  protected open(key: string): void {
    this.opened.set(key);
    this.tab.set('why');
  }

  protected begin(): void {
    const formula = this.formula();
    const target = this.target();
    const scaled = this.scaled();
    if (!formula || !target || !scaled) return;
    this.startedId = newId();
    const vessels = this.freeVessels()
      .filter((vessel) => this.taken().includes(vessel.id))
      .map(({ tag }) => tag)
      .join(', ');
    const typed = Object.keys(this.yields()!.sources).length > 0;
    const plan =
      target.from === 'jars' && !typed
        ? { from: 'jars' as const, jars: target.jars.map((jar) => ({ ...jar })) }
        : {
            from: 'trimmed' as const,
            trimmedGrams: scaled.produceGrams,
            ...(this.aim() || vessels ? { aim: this.aim() ?? `into ${vessels}` } : {}),
          };
    this.start.record(
      this.start.entry('batch.start', {
        batchId: this.startedId,
        formulaId: formula.formulaId,
        version: formula.version,
        plan,
        ...(this.weakReason().trim() ? { weakSaltReason: this.weakReason().trim() } : {}),
        ...(this.chosenVariant() ? { variant: this.chosenVariant()! } : {}),
        ...(this.leaf() ? { measuredLeafSalt: this.leaf()! } : {}),
      }),
    );
  }

  protected retireNow(retired: boolean): void {
    this.retire.record(
      this.retire.entry('formula.retire', {
        formulaId: this.formulaId(),
        retired,
        reason: this.retireReason()?.trim() || null,
      }),
    );
  }

  private countedOn(line: ScaledLine): string {
    const formula = this.formula()!;
    if (line.key === 'paste-salt') return `to ${formatPercent(formula.heavy!.wanted, 1)} in the end`;
    if (line.role === 'salt')
      return formula.saltFraction === null || formula.saltBasis === null
        ? 'not settled'
        : `${formatPercent(formula.saltFraction, 1)} ${BASIS_WORDS[formula.saltBasis]}`;
    if (line.role === 'water')
      return formula.waterPerProduce === null
        ? 'open'
        : `${Math.round(formula.waterPerProduce * 1000).toLocaleString('en')} g per kg of produce`;
    return line.working.sources[0]?.what ?? '';
  }
}

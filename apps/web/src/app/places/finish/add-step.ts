import { Component, computed, input, signal, viewChild } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import {
  aceticPercent,
  blenderLoads,
  brineBackStops,
  type FinishPart,
  formatGrams,
  formatPercent,
  isWeak,
  mixing,
  saltAtScale,
  saltFigure,
  shareOf,
  THICKENER,
  together,
} from '@clear-tally/core';
import type { FinishReply, SuppliesReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { keptChoice } from '../../state/kept-choice';
import { injectScale } from '../../state/scale';
import { shown } from '../../state/shown';
import { untilChosen } from '../../state/until-chosen';
import { Choices } from '../../ui/choices';
import { Beam } from '../../ui/beam';
import { Choice, type Option } from '../../ui/choice';
import { FigureInput } from '../../ui/figure-input';
import { Mark } from '../../ui/mark';
import { QuantityInput } from '../../ui/quantity-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { standingWords, Weighing } from '../../ui/weighing';
import { ScaleBar } from '../../ui/scale-bar';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';
import { keepingWords } from '../stores/keeping-words';
import { mass } from './mass';

/** What each station puts in, and the share the trade begins with. */
const AT: Readonly<Record<string, { as: FinishPart; share: number | null; tolerance: number }>> = {
  pour: { as: 'brine', share: null, tolerance: 0.05 },
  blend: { as: 'brine', share: 0.35, tolerance: 0.05 },
  vinegar: { as: 'vinegar', share: 0.04, tolerance: 0.05 },
  thicken: { as: 'thickener', share: 0.0015, tolerance: 0.05 },
  season: { as: 'spice', share: null, tolerance: 0.05 },
  syrup: { as: 'sweet', share: null, tolerance: 0.05 },
};
const USUAL: Readonly<Record<string, 'brine' | 'vinegar' | 'thickener'>> = {
  blend: 'brine',
  vinegar: 'vinegar',
  thicken: 'thickener',
};
const SHARE_OF: Readonly<Record<string, string>> = {
  blend: 'Brine back, of the pieces',
  vinegar: 'Vinegar, of all of it',
  thicken: 'Thickener, of all of it',
};

/** Something goes in: what it comes to stands there before it is poured. */
@Component({
  selector: 'ct-add-step',
  imports: [
    Choices,
    Beam,
    Choice,
    FigureInput,
    FormField,
    Mark,
    QuantityInput,
    RecordButton,
    Refusal,
    ScaleBar,
    Weighing,
    TextField,
    TypedBeforeNote,
  ],
  templateUrl: './add-step.html',
  styleUrl: './add-step.less',
})
export class AddStep {
  readonly finish = input.required<FinishReply>();
  readonly station = input.required<string>();
  protected readonly scale = injectScale('it');
  private readonly supplies = shown<SuppliesReply>(signal('/api/supplies'));
  protected readonly mass = mass;
  protected readonly percent = formatPercent;
  private readonly field = viewChild(QuantityInput);
  private readonly usual = computed(() => AT[this.station()] ?? AT['season']!);

  protected readonly form = recordingForm('finish.add', {
    fields: {
      typed: null as number | null,
      sweet: false,
      strength: null as number | null,
      pastReason: '',
      jug: null as number | null,
    },
    about: computed(() => `${this.finish().lotId} ${this.station()}`),
    recorded: () => {
      this.field()?.clear();
      this.form.values.pastReason.set('');
      this.scale.taken();
    },
  });

  protected readonly as = computed((): FinishPart =>
    this.station() === 'season' && this.form.values.sweet() ? 'sweet' : this.usual().as,
  );

  /** Its own brine and those made ready for it; or what the stores hold, what stands for it first. */
  protected readonly options = computed((): Option[] => {
    const f = this.finish();
    if (this.usual().as === 'brine')
      return [
        ...f.brines.map((one) => ({
          id: one.lotId,
          label: `${one.code} ${one.boiled ? 'own brine, boiled' : 'fresh brine'}`,
          detail: `${formatGrams(one.onHandGrams)} ready, ${percentOf(one.contents)}`,
        })),
        ...f.sources
          .filter(({ closed, onHandGrams }) => !closed && onHandGrams > 0)
          .map((one) => ({
            id: one.lotId,
            label: `${one.code} its own brine, as it is`,
            detail: `${formatGrams(one.onHandGrams)} stands there, ${percentOf(one.contents)}`,
          })),
      ];
    const wanted = this.usual().as;
    const kindOf = (standsFor: string | null): boolean =>
      wanted === 'spice' ? standsFor !== 'thickener' && standsFor !== 'vinegar' : standsFor === wanted;
    return (this.supplies.data()?.lots ?? [])
      .filter(({ unit }) => unit !== 'piece')
      .map((lot) => ({ lot, first: kindOf(lot.standsFor) }))
      .sort((a, b) => Number(b.first) - Number(a.first))
      .map(({ lot }) => ({
        id: lot.lotId,
        label: `${lot.code} ${lot.materialName}`,
        disabled: lot.hold !== null,
        detail: [
          lot.hold ? `on hold: ${lot.hold}` : null,
          keepingWords(lot),
          lot.onHandGrams === null ? null : `${formatGrams(lot.onHandGrams)} left`,
          lot.supplierName,
        ]
          .filter(Boolean)
          .join(' · '),
      }));
  });
  protected readonly lotId = keptChoice(this.options, (offered) => {
    const wanted = this.usual().as;
    if (wanted === 'brine') return offered.find(({ disabled }) => !disabled)?.id ?? null;
    const stands = (this.supplies.data()?.lots ?? []).find(
      ({ standsFor, hold }) => standsFor === wanted && hold === null,
    );
    return stands?.lotId ?? null;
  });

  /** What the share is of: pieces, pieces and brine, all of it so far. */
  private readonly baseGrams = computed(() => {
    const of = (...kinds: readonly string[]): number =>
      this.finish()
        .parts.filter(({ as }) => kinds.includes(as))
        .reduce((sum, { grams }) => sum + grams, 0);
    return this.station() === 'blend'
      ? of('product')
      : this.station() === 'vinegar'
        ? of('product', 'brine')
        : of('product', 'brine', 'vinegar');
  });
  protected readonly shareWords = computed(() => SHARE_OF[this.station()] ?? null);
  private readonly range = computed(() => {
    const key = USUAL[this.station()];
    return key ? this.finish().usual[key] : null;
  });
  /** As this house last did it; else as the trade begins. */
  protected readonly share = untilChosen<number | null>(
    () => this.range()?.to ?? this.usual().share,
    () => `${this.finish().lotId} ${this.station()}`,
  );
  protected readonly rangeWords = computed(() => {
    const used = this.range();
    const own = used
      ? `This house: ${span(used.from, used.to)} in ${used.lots} ${used.lots === 1 ? 'finish' : 'finishes'}.`
      : 'None of this house yet.';
    return this.station() === 'thicken' ? `${own} The trade: ${span(THICKENER.from, THICKENER.to)}.` : own;
  });
  protected readonly wanted = computed(() => {
    const share = this.share();
    return this.shareWords() && share !== null && share > 0 ? this.baseGrams() * share : null;
  });
  protected readonly inGrams = computed(() =>
    this.finish()
      .parts.filter(({ as }) => as === this.as())
      .reduce((sum, { grams }) => sum + grams, 0),
  );
  protected readonly typed = this.form.values.typed;
  protected readonly toRecord = computed(() => this.scale.orReady(this.form.values.typed()));
  private readonly grams = computed(() => this.scale.orLive(this.form.values.typed()) ?? 0);

  /** Quarters of the brine: after each one somebody may stop. */
  protected readonly stops = computed(() => {
    const wanted = this.wanted();
    return this.station() === 'blend' && wanted !== null
      ? brineBackStops(wanted).map((grams) => ({ grams, reached: this.inGrams() >= grams * 0.97 }))
      : [];
  });
  /** What is weighed next: the next quarter, or all that is wanted. */
  protected readonly next = computed(() => {
    const wanted = this.wanted();
    if (wanted === null) return null;
    const stop = this.stops().find(({ reached }) => !reached);
    const upTo = this.stops().length > 0 ? (stop?.grams ?? null) : wanted;
    return upTo === null || upTo <= this.inGrams() ? null : upTo;
  });
  protected readonly at = computed(() => {
    const next = this.next();
    return next === null
      ? null
      : saltAtScale({
          saltGrams: this.inGrams() + this.grams(),
          targetGrams: next,
          tolerance: this.usual().tolerance,
        });
  });
  protected readonly loads = computed(() => {
    const jug = this.form.values.jug();
    const all = this.finish().onHandGrams + this.grams();
    return this.station() === 'blend' && jug !== null && jug > 0 ? blenderLoads(all, jug) : null;
  });

  private readonly strengthOf = computed(() => {
    const f = this.finish();
    const id = this.lotId();
    const own = f.sources.find(({ lotId }) => lotId === id);
    if (own)
      return {
        contents: { ...own.contents, grams: own.contents.waterGrams + own.contents.saltGrams, vegetableGrams: 0 },
        sour: true,
      };
    const ready = f.brines.find(({ lotId }) => lotId === id);
    // A boiled brine is as sour as it was: acid stays in the pot.
    return ready ? { contents: ready.contents, sour: ready.boiled } : null;
  });
  /** Before it is poured: salt, acid and pH of both, once they are even. */
  protected readonly says = computed(() => {
    const [of, strength, grams] = [this.finish().contents, this.strengthOf(), this.grams()];
    if (this.usual().as !== 'brine' || !strength || grams <= 0 || of.waterGrams + of.saltGrams <= 0) return null;
    const added = shareOf(strength.contents, grams);
    const both = saltFigure(together(of, added));
    return {
      ...mixing({ product: of, added, sour: strength.sour, ph: this.finish().sourcePh }),
      before: saltFigure(of).waterPhase,
      weak: isWeak(both),
    };
  });
  protected readonly acetic = computed(() => {
    const strength = this.form.values.strength();
    return this.station() === 'vinegar' && strength !== null && this.grams() > 0
      ? aceticPercent(this.inGrams() + this.grams(), strength, this.finish().onHandGrams + this.grams())
      : null;
  });
  protected readonly means = computed(() => {
    const at = this.at();
    return at ? standingWords(at, formatGrams(this.next()!)) : null;
  });
  protected readonly unit = computed(() => (this.usual().as === 'brine' ? ('kg' as const) : ('g' as const)));
  /** A brine or a vinegar poured by volume is understood; a solid is not. */
  protected readonly gramsPerMl = computed(() =>
    this.usual().as === 'brine' || this.usual().as === 'vinegar' ? 1.02 : undefined,
  );
  protected readonly name = computed(() => {
    const label = this.options().find(({ id }) => id === this.lotId())?.label ?? '';
    return label.replace(/^\S+\s/, '');
  });

  protected record(): void {
    const [fromLotId, grams] = [this.lotId(), this.toRecord()];
    if (!fromLotId || !grams) return;
    const strength = this.form.values.strength();
    this.form.record(
      this.form.entry('finish.add', {
        finishLotId: this.finish().lotId,
        fromLotId,
        grams,
        as: this.as(),
        ...this.scale.which.used(),
        ...(this.station() === 'vinegar' && strength !== null ? { strengthPercent: strength } : {}),
        ...(this.form.values.pastReason().trim() ? { pastReason: this.form.values.pastReason().trim() } : {}),
      }),
    );
  }
}

const span = (from: number, to: number): string =>
  from === to ? formatPercent(from, 2) : `${formatPercent(from, 2)} to ${formatPercent(to, 2)}`;

function percentOf(contents: FinishReply['contents']): string {
  const phase = contents.waterGrams + contents.saltGrams;
  return contents.known && phase > 0 ? `${formatPercent(contents.saltGrams / phase)} salt` : 'salt not known';
}

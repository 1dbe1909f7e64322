import { Component, computed, input, signal, viewChildren } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { RouterLink } from '@angular/router';
import {
  brineForVessel,
  decideFill,
  effectsOf,
  formatGrams,
  FORMS,
  houseBandSays,
  isWeak,
  leastMl,
  saltFigure,
  shareOf,
  splitDose,
  together,
  usableMl,
  isFillable,
} from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { newId, recordingForm } from '../../state/form';
import { Choice } from '../../ui/choice';
import { CountInput } from '../../ui/count-input';
import { QuantityInput } from '../../ui/quantity-input';
import { Refusal } from '../../ui/refusal';
import { injectScale } from '../../state/scale';
import { Weighing } from '../../ui/weighing';
import { ScaleBar } from '../../ui/scale-bar';
import { BrineLeft } from './brine-left';
import { injectRights } from '../../state/person';
import { SaltRuler } from '../../ui/salt-ruler';
import { bandWords, saltWords } from '../../ui/salt-words';
import { TextField } from '../../ui/text-field';
import { VesselDrawing } from '../../ui/vessel-drawing';
import { Tick } from '../../ui/tick';

/** What a vessel filled to the brim holds: a finger stays for the lock. */
const BRIM = 0.97;

/** One or several vessels, each followed on its own from here on. */
@Component({
  selector: 'ct-fill-step',
  imports: [
    BrineLeft,
    Choice,
    CountInput,
    QuantityInput,
    Refusal,
    RouterLink,
    SaltRuler,
    ScaleBar,
    TextField,
    VesselDrawing,
    Tick,
    FormField,
    RecordButton,
    TypedBeforeNote,
    Weighing,
  ],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <ct-typed-before [typed]="form.typed" />
      <ct-scale-bar [scale]="scale" />
      <p class="held">
        In the bowls: <b class="figure">{{ mass(batch().inBowlsGrams) }}</b>
        @if (batch().brine; as brine) {
          · brine made: <b class="figure">{{ mass(brine.onHandGrams) }}</b> left of {{ brine.code }}
        }
      </p>
      <div class="two">
        <div class="stack">
          <ct-choice label="Into vessel" [options]="vessels()" [formField]="form.fields.vesselId" />
          <ct-weighing
            what="the filled vessel, tared,"
            unit="kg"
            [scale]="scale"
            [grams]="scale.orLive(grams())"
            [words]="mass(total()) + (form.values.brine() ? ' with its brine' : '')"
          />
          <div class="row">
            <ct-quantity
              label="From the bowls"
              unit="kg"
              what="what is filled"
              [planned]="batch().inBowlsGrams"
              [live]="scale.live()"
              [formField]="form.fields.grams"
              [refusal]="form.problemAt('grams')"
            />
            @if (batch().brine) {
              <ct-quantity
                label="Brine poured"
                unit="kg"
                what="brine"
                [planned]="batch().brine!.onHandGrams"
                [gramsPerMl]="1.02"
                [formField]="form.fields.brine"
                [refusal]="form.problemAt('brine')"
              />
            }
            <ct-tick [formField]="form.fields.cleaned">The vessel is clean: washed and rinsed now</ct-tick>
          </div>
          @if (salt(); as figure) {
            <div class="stack lid" [class.grave]="weak()" [class.watch]="!weak() && figure.band !== 'usual'">
              <p>
                <b>{{ vessel()?.tag ?? 'The vessel' }} would stand at {{ saltIn(figure) }}.</b>
                {{ figure.band === 'usual' ? '' : bandIn(figure.band!) + '.' }}
                @if (houseBand(); as own) {
                  @if (own.state !== 'in') {
                    {{ own.words }}.
                  }
                }
              </p>
              <ct-salt-ruler
                [now]="figure.waterPhase"
                [past]="batch().formula.pastWaterPhaseSalt"
                subject="this vessel"
              />
              @if (weak()) {
                @if (rights.isOwner()) {
                  <ct-text label="Why it is filled so, for the record" [formField]="form.fields.reason" />
                } @else {
                  <p>Pour more of the brine, or ask a reviewer: it is filled so only with their written reason.</p>
                }
              }
            </div>
          }
          @if (tooFull()) {
            <div class="stack lid grave">
              <p><b>Over the brim:</b> {{ fitSays() }}</p>
              @if (mayBeOver()) {
                <ct-text label="Why it goes in all the same" [formField]="form.fields.overReason" />
              }
            </div>
          }
          <div>
            <button
              class="go"
              [ctRecord]="form"
              [needs]="[
                tooFull() && !fit()?.ok && 'room: it is too full',
                !vesselId() && 'which vessel',
                !toRecord() && 'how much',
                waits() && 'the steps before it',
                weak() &&
                  (!rights.isOwner() ? 'a reviewer, who may thin it so' : !reason().trim() && 'why it is so weak'),
              ]"
            >
              Fill {{ vessel()?.tag }} with {{ mass(total()) }}
            </button>
          </div>
          @if (said(); as words) {
            <p class="note" role="status">
              <b>{{ words }}</b>
              {{ leftGrams() > 0 ? mass(leftGrams()) + ' are left in the bowls.' : 'The bowls are empty.' }}
            </p>
          }
          @if (batch().closedAt === null && leftGrams() > 0) {
            <div class="row split">
              <ct-count label="Split it over" [value]="over()" (valueChange)="over.set($event)" />
              @for (part of parts(); track $index) {
                <button type="button" (click)="grams.set(part)">{{ mass(part) }}</button>
              }
            </div>
          }
          @if (waits()) {
            <p class="soft">Tick what was looked at above; then it can be filled.</p>
          }
          @if (wanted(); as words) {
            <p class="note">{{ words }}</p>
          }
          <ct-refusal [message]="form.problemAt('grams', 'brine') ? null : form.problem()" />
        </div>
        @if (vessel(); as v) {
          <figure>
            <ct-vessel-drawing
              [scale]="56"
              [vessel]="{
                shape: v.shape,
                closure: v.closure,
                brimMl: v.brimMl,
                fill: fillShown(),
                hold: false,
                formulaNumber: batch().formula.number,
              }"
            />
            <figcaption>
              <b>{{ percent() }} % full</b><br /><span [class.mustard]="window() !== 'in'">{{ windowWords() }}</span
              ><br /><span class="soft small">{{
                v.cleanedAt
                  ? (v.usedSince ? 'used since it was cleaned ' : 'last cleaned ') +
                    house.dates().moment(v.cleanedAt) +
                    (v.cleanedWith ? ', ' + v.cleanedWith : '')
                  : 'no cleaning recorded'
              }}</span>
            </figcaption>
          </figure>
        }
      </div>
    </form>
    @if (batch().fills.length > 0) {
      <div class="rule stack" style="margin-top: 22px">
        <h2>Filled so far</h2>
        @for (fill of batch().fills; track fill.lotId) {
          <p>
            <a [routerLink]="['/lots', fill.code]" class="figure">{{ fill.code }}</a> · {{ mass(fill.grams) }} ·
            {{ (fill.fillFraction * 100).toFixed(0) }} % full · {{ saltIn(fill.salt) }}
          </p>
        }
        @if (leftGrams() > 0) {
          <form class="row" (submit)="$event.preventDefault(); empty()">
            <p class="soft">{{ mass(leftGrams()) }} are left in the bowls.</p>
            <button [ctRecord]="loss">Nothing more to fill: record {{ mass(leftGrams()) }} as residue</button>
          </form>
          <ct-refusal [message]="loss.problem()" />
        }
        <ct-brine-left [batch]="batch()" />
      </div>
    }
  `,
  styles:
    '.two { display: grid; grid-template-columns: minmax(0, 1fr) 260px; gap: 26px; } figure { display: grid; justify-items: center; align-content: end; gap: 10px; text-align: center; } .tick { display: flex; gap: 12px; align-items: center; min-height: 48px; margin-top: 26px; max-width: 250px; color: var(--ink); } .tick input { width: 26px; height: 26px; accent-color: var(--brine); } .lid { gap: 6px; }',
})
export class FillStep {
  readonly batch = input.required<MakeReply>();
  /** Its questions are not answered yet. */
  readonly waits = input(false);
  protected readonly scale = injectScale('what is filled');
  protected readonly house = injectHouse();
  private readonly fields = viewChildren(QuantityInput);
  protected readonly form = recordingForm('vessel.fill', {
    fields: {
      grams: null as number | null,
      brine: null as number | null,
      reason: '',
      overReason: '',
      vesselId: null as string | null,
      cleaned: false,
    },
    about: computed(() => this.batch().batchId),
    recorded: (recorded) => {
      const facts = recorded.find(({ kind }) => kind === 'vessel.fill')?.facts;
      this.said.set(`${String(facts?.['code'] ?? this.vessel()?.tag ?? '')} is filled and in the book.`);
      this.fields().forEach((field) => field.clear());
      this.vesselId.set(null);
      this.cleaned.set(false);
      this.reason.set('');
      this.overReason.set('');
      this.brine.set(null);
      this.scale.taken();
    },
  });
  protected readonly vesselId = this.form.values.vesselId;
  protected readonly grams = this.form.values.grams;
  protected readonly brine = this.form.values.brine;
  protected readonly cleaned = this.form.values.cleaned;
  protected readonly reason = this.form.values.reason;
  protected readonly rights = injectRights();
  protected readonly said = signal<string | null>(null);
  protected readonly loss = recordingForm('loss.record');

  protected readonly vessels = computed(() => {
    const rooms = new Map(this.house.house()?.rooms.map((room) => [room.id, room.name]));
    return (this.house.house()?.vessels ?? [])
      .map((vessel) => ({
        id: vessel.id,
        label: `${vessel.tag} ${vessel.shape} ${vessel.brimMl / 1000} L`,
        disabled: !isFillable(vessel),
        detail: `${rooms.get(vessel.roomId) ?? ''} · ${!vessel.inUse ? (vessel.details.out === 'gone' ? 'gone' : 'under repair') : vessel.details.material === 'rusts' ? 'of a metal that rusts' : vessel.takenBy ? `holds ${vessel.takenBy}` : `free, takes ${formatGrams(leastMl(vessel))} to ${formatGrams(usableMl(vessel))}`}`,
      }))
      .sort((a, b) => Number(a.disabled) - Number(b.disabled));
  });
  protected readonly vessel = computed(
    () => this.house.house()?.vessels.find((vessel) => vessel.id === this.vesselId()) ?? null,
  );
  protected readonly toRecord = computed(() => this.scale.orReady(this.grams()));
  protected readonly total = computed(() => (this.scale.orLive(this.grams()) ?? 0) + (this.brine() ?? 0));
  /** How full it would stand, its weight counted in; and what keeps it from being filled so. */
  protected readonly fit = computed(() => {
    const vessel = this.vessel();
    return vessel && this.total() > 0
      ? decideFill({
          vessel: { ...vessel, takenBy: null, inUse: true, maxFill: this.maxFill() },
          grams: this.total(),
          overReason: this.overReason(),
        })
      : null;
  });
  protected readonly overReason = this.form.values.overReason;
  protected readonly fillShown = computed(() => Math.min(1.05, this.fill()));
  private readonly bare = computed(() => {
    const vessel = this.vessel();
    return vessel && this.total() > 0
      ? decideFill({ vessel: { ...vessel, takenBy: null, inUse: true, maxFill: this.maxFill() }, grams: this.total() })
      : null;
  });
  /** What stands against it, without a reason. */
  protected readonly fitSays = computed(() => {
    const bare = this.bare();
    return bare && !bare.ok ? bare.refusal.message : '';
  });
  protected readonly mayBeOver = computed(() => {
    const bare = this.bare();
    return bare !== null && !bare.ok && bare.refusal.facts?.['asks'] === 'overReason';
  });
  private readonly fill = computed(() => {
    const vessel = this.vessel();
    return vessel ? (this.total() + vessel.weightVolumeMl) / vessel.brimMl : 0;
  });
  protected readonly tooFull = computed(() => {
    const vessel = this.vessel();
    return vessel !== null && this.fill() > 1;
  });
  protected readonly percent = computed(() => (this.fill() * 100).toFixed(0));
  protected readonly window = computed(() => {
    const vessel = this.vessel();
    if (!vessel || this.total() === 0) return 'in';
    return this.fill() < vessel.minFill ? 'under' : this.fill() > this.maxFill() ? 'over' : 'in';
  });
  protected readonly windowWords = computed(() => {
    const vessel = this.vessel()!;
    const ends = `fill window ${(vessel.minFill * 100).toFixed(0)} to ${(this.maxFill() * 100).toFixed(0)} %${this.effects().toTheBrim ? ', to the brim: a tray under it, its level after a day' : ''}`;
    return { in: ends, under: `${ends}: too much air stays in`, over: `${ends}: it will run over` }[this.window()];
  });
  private readonly effects = computed(() => effectsOf(this.batch().rules));
  /** Under an airlock some houses fill to the brim. */
  protected readonly maxFill = computed(() =>
    this.effects().toTheBrim ? Math.max(BRIM, this.vessel()?.maxFill ?? 0) : (this.vessel()?.maxFill ?? 1),
  );
  /** The salt of the vessel as it would stand: what comes out of the bowls and what is poured, nothing of a plan. */
  protected readonly salt = computed(() => {
    const { bowls, brine } = this.batch();
    const grams = this.scale.orLive(this.grams());
    if (!grams || bowls.grams <= 0) return null;
    const poured = brine && this.brine() ? shareOf(brine.contents, this.brine()!) : null;
    const figure = saltFigure(poured ? together(shareOf(bowls, grams), poured) : shareOf(bowls, grams));
    return figure.waterPhase === null ? null : figure;
  });
  protected readonly weak = computed(() => this.salt() !== null && isWeak(this.salt()!));
  protected readonly houseBand = computed(() =>
    this.salt()
      ? houseBandSays({ figure: this.salt()!, form: this.batch().form, bands: this.house.house()?.settings.saltBands })
      : null,
  );
  protected readonly saltIn = saltWords;
  protected readonly bandIn = bandWords;
  /** Even parts of what is in the bowls, in whole grams, that add up. */
  protected readonly over = signal<number | null>(null);
  protected readonly parts = computed(() =>
    this.over() && this.over()! > 1 && this.over()! <= 12
      ? splitDose({
          doseGrams: Math.round(this.leftGrams()),
          shares: Array.from({ length: this.over()! }, () => 1),
          stepGrams: 1,
        })
      : [],
  );
  /** What this vessel takes: brine for the room its solids leave, in the strength that was made. Source: handbook 2.6, worked case W3. */
  protected readonly wanted = computed(() => {
    const [vessel, grams, brine] = [this.vessel(), this.scale.orLive(this.grams()), this.batch().brine];
    if (!vessel || !grams || !brine || brine.waterGrams === 0) return null;
    const named = this.batch().formula.produce.map((part) => ({
      share: part.share,
      details: this.house.house()?.materials.find((material) => material.id === part.materialId)?.details,
    }));
    const gramsPerMl = named.reduce(
      (sum, part) => sum + part.share * (part.details?.gramsPerMl ?? FORMS[this.batch().formula.form].gramsPerMl),
      0,
    );
    const need = brineForVessel({
      room: { ...vessel, maxFill: this.maxFill() },
      solids: [{ grams, gramsPerMl }],
      strength: brine.saltGrams / (brine.saltGrams + brine.waterGrams),
      mostPacking: FORMS[this.batch().formula.form].mostPacking,
    });
    return need.ok
      ? `${vessel.tag} takes about ${formatGrams(need.value.brineGrams)} of brine beside this, up to ${(this.maxFill() * 100).toFixed(0)} %.`
      : need.refusal.message;
  });
  protected readonly leftGrams = computed(() => Math.max(0, this.batch().inBowlsGrams));
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected record(): void {
    const grams = this.toRecord();
    if (!this.vesselId() || !grams) return;
    const brine =
      this.batch().brine && this.brine() ? { brineLotId: this.batch().brine!.lotId, grams: this.brine()! } : null;
    this.said.set(null);
    const fill = this.form.entry('vessel.fill', {
      fillLotId: newId(),
      batchId: this.batch().batchId,
      vesselId: this.vesselId()!,
      grams,
      brine,
      ...this.scale.used(this.grams()),
      ...(this.weak() && this.reason().trim() ? { weakSaltReason: this.reason().trim() } : {}),
      ...(this.tooFull() && this.overReason().trim() ? { overReason: this.overReason().trim() } : {}),
    });
    // Both or neither: a cleaning without its fill would be a false line.
    if (this.cleaned())
      this.form.record(
        this.form.entry('vessel.clean', {
          vesselId: this.vesselId()!,
          agent: 'washed and rinsed at filling',
          rinsed: true,
        }),
        fill,
      );
    else this.form.record(fill);
  }

  protected empty(): void {
    this.loss.record(
      this.loss.entry('loss.record', {
        lotId: this.batch().batchId,
        sink: 'residue',
        grams: this.leftGrams(),
        note: 'stayed in bowls and on hands',
      }),
    );
  }
}

import { Component, computed, input, linkedSignal, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Choices } from '../../ui/choices';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { effectsOf, isWeak } from '@clear-tally/core';
import type { BodyOf, MakeReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { CountInput } from '../../ui/count-input';
import { Refusal } from '../../ui/refusal';
import { injectRights } from '../../state/person';
import { saltWords } from '../../ui/salt-words';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';

type Closure = BodyOf<'vessel.close'>['closure'];
const CLOSURE_WORDS: Record<Closure, string> = {
  airlock: 'airlock, filled',
  valve: 'valve lid',
  loose: 'loose lid',
  cloth: 'cloth',
  sealed: 'sealed, burped',
  vacuum: 'vacuum bag',
};

const WEIGHT_WORDS = { weight: 'glass weights', bag: 'brine bag', leaf: 'cover leaf' } as const;

/** Each filled vessel closed: what keeps it down, counted in so that it is counted out; headspace; lid; tray; and its room. */
@Component({
  selector: 'ct-close-step',
  imports: [Choices, CountInput, Refusal, TextField, Tick, FormField, RecordButton, TypedBeforeNote],
  template: `
    <div class="stack">
      @if (batch().fills.length === 0) {
        <p class="note">Nothing is filled yet.</p>
      } @else {
        <ct-choices label="Vessel" [options]="vessels()" [value]="now()?.lotId ?? null" (picked)="chosen.set($event)" />
      }
      @if (now(); as fill) {
        <p>
          <b class="figure">{{ fill.code }}</b> · {{ fill.room }} · {{ saltIn(fill.salt)
          }}{{ fill.closure ? ' · closed: ' + words[fill.closure] : '' }}
        </p>
        <form class="stack" (submit)="$event.preventDefault(); record()">
          <ct-typed-before [typed]="form.typed" />
          <div>
            <ct-choices
              shown
              label="Closure"
              [options]="closures"
              [words]="words"
              [value]="closure()"
              (picked)="closure.set($event)"
            />
          </div>
          @if (closure() === 'sealed') {
            <p class="watch">
              A sealed vessel is burped by its plan, eyes protected. Never sealed without a way out for the gas.
            </p>
          }
          <div class="row">
            <ct-text
              style="width: 230px"
              label="What keeps it down"
              [value]="what()"
              (valueChange)="what.set($event)"
            /><ct-count label="How many in" [formField]="form.fields.count" />
            <ct-count label="Headspace, mm" [formField]="form.fields.headspace" />
            <ct-tick [formField]="form.fields.tray">A tray stands under it</ct-tick>
          </div>
          @if (stopped()) {
            <div class="grave stack">
              <p>
                <b>{{ fill.vesselTag }} stands at {{ saltIn(fill.salt) }}.</b> It is closed so only with a reviewer’s
                written reason.
              </p>
              @if (rights.isOwner()) {
                <ct-text label="Why it is closed so, for the record" [formField]="form.fields.reason" />
              }
            </div>
          }
          <div class="row">
            <button
              class="go"
              [ctRecord]="form"
              [needs]="[
                stopped() && (!rights.isOwner() ? 'a reviewer' : !reason().trim() && 'the reason'),
                (count() ?? 0) > 0 && !what().trim() && 'what was put in',
              ]"
            >
              Close {{ fill.vesselTag }}
            </button>
          </div>
          <ct-refusal [message]="form.problem()" />
        </form>
        <div class="row">
          <span class="label" style="padding-top: 14px">Move {{ fill.vesselTag }} to</span>
          @for (room of rooms(); track room.id) {
            <button
              type="button"
              [ctRecord]="moving"
              [needs]="[room.id === here() && 'it stands here']"
              (click)="move(room.id)"
            >
              {{ room.name }}
            </button>
          }
        </div>
        <ct-refusal [message]="moving.problem()" />
      }
    </div>
  `,
  styles:
    '.tick { display: flex; gap: 10px; align-items: center; padding-top: 34px; color: var(--ink); } .tick input { width: 26px; height: 26px; accent-color: var(--brine); }',
})
export class CloseStep {
  readonly batch = input.required<MakeReply>();
  private readonly house = injectHouse();
  protected readonly words = CLOSURE_WORDS;
  protected readonly closures = Object.keys(CLOSURE_WORDS) as Closure[];
  protected readonly chosen = signal<string | null>(null);
  protected readonly vessels = computed(() =>
    this.batch().fills.map(({ lotId, vesselTag, closure }) => [lotId, closure ? `${vesselTag} ✓` : vesselTag] as const),
  );
  protected readonly now = computed(
    () =>
      this.batch().fills.find((fill) => fill.lotId === this.chosen()) ??
      this.batch().fills.find((fill) => fill.closure === null) ??
      this.batch().fills[0] ??
      null,
  );
  /** As the vessel is usually closed, until somebody says otherwise of this one. */
  protected readonly closure = linkedSignal<string | null, Closure>({
    source: computed(() => this.now()?.vesselTag ?? null),
    computation: (tag) => this.usual(tag),
  });
  protected readonly rights = injectRights();
  protected readonly form = recordingForm('vessel.close', {
    fields: { count: null as number | null, headspace: null as number | null, reason: '', tray: true },
    about: computed(() => this.batch().batchId),
    recorded: () => {
      this.chosen.set(null);
      this.headspace.set(null);
      this.reason.set('');
    },
  });
  protected readonly reason = this.form.values.reason;
  protected readonly saltIn = saltWords;
  /** Weak, and nobody has said why. */
  protected readonly stopped = computed(
    () => this.now() !== null && isWeak(this.now()!.salt) && !this.now()!.weakAccepted,
  );
  protected readonly what = linkedSignal<string>(() => WEIGHT_WORDS[effectsOf(this.batch().rules).weight]);
  protected readonly count = this.form.values.count;
  protected readonly headspace = this.form.values.headspace;
  protected readonly tray = this.form.values.tray;
  protected readonly rooms = computed(() => this.house.house()?.rooms ?? []);
  protected readonly here = computed(
    () => this.house.house()?.vessels.find(({ tag }) => tag === this.now()?.vesselTag)?.roomId ?? null,
  );
  protected readonly moving = recordingForm('vessel.move');

  protected record(): void {
    const fill = this.now();
    if (!fill) return;
    const weightItems =
      (this.count() ?? 0) > 0 ? [{ what: this.what().trim(), count: this.count()!, grams: null }] : [];
    this.form.record(
      this.form.entry('vessel.close', {
        lotId: fill.lotId,
        closure: this.closure(),
        headspaceMm: this.headspace(),
        weightItems,
        tray: this.tray(),
        ...(this.stopped() && this.reason().trim() ? { weakSaltReason: this.reason().trim() } : {}),
      }),
    );
  }

  /** The house's way of closing; the vessel's own where that is one of the ways, or where a bag is a bag. */
  private usual(tag: string | null): Closure {
    const own = this.house.house()?.vessels.find((vessel) => vessel.tag === tag)?.closure ?? 'airlock';
    const { closures } = effectsOf(this.batch().rules);
    return own === 'vacuum' || closures.includes(own) ? own : closures[0]!;
  }

  protected move(roomId: string): void {
    if (this.now()) this.moving.record(this.moving.entry('vessel.move', { lotId: this.now()!.lotId, roomId }));
  }
}

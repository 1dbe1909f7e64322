import { decideSanitiser, leavesResidue } from '@clear-tally/core';
import { Component, computed, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RouterLink } from '@angular/router';
import type { EquipmentReply, HouseReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Select } from '../../ui/select';
import { CountInput } from '../../ui/count-input';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import { TypedBeforeNote } from '../../ui/typed-before';

type Vessel = HouseReply['vessels'][number];

/** Why a vessel stands on the list. */
const whyDue = ({ cleanedAt, usedSince }: Vessel): string | null =>
  cleanedAt === null ? 'no cleaning is recorded' : usedSince ? 'something stood in it since' : null;

/** What is to be cleaned and why: several vessels, tools and rooms with one press, what with, how strong, how long, rinsed or not. */
@Component({
  selector: 'ct-cleaning',
  imports: [CountInput, FormField, RecordButton, Refusal, RouterLink, Select, TextField, Tick, TypedBeforeNote],
  template: `
    <div class="page with-side">
      <div class="main stack">
        <h1>Cleaning</h1>
        <p class="soft">
          Empty vessels, what is due first. Every cleaning so far is on
          <a routerLink="/records">Records</a>, as a sheet.
        </p>
        @if (due().length > 0) {
          <div class="head">
            <h2>To be cleaned: {{ due().length }}</h2>
            @if (rights.mayRecord()) {
              <button type="button" (click)="chooseAll()">
                {{ chosen().size === due().length ? 'None of them' : 'All of them' }}
              </button>
            }
          </div>
        } @else {
          <p class="note">Nothing is due: every empty vessel was cleaned since something stood in it.</p>
        }
        <ul>
          @for (vessel of vessels(); track vessel.id) {
            <li [class.clean]="!why(vessel)">
              <ct-tick
                [value]="chosen().has(vessel.id)"
                [disabled]="!rights.mayRecord()"
                (valueChange)="toggle(vessel.id)"
                ><span
                  ><b>{{ vessel.tag }}</b
                  >&ngsp;<span class="soft">{{ vessel.shape }}, {{ vessel.brimMl / 1000 }} L, {{ roomOf(vessel) }}</span
                  ><br /><span class="small" [class.mustard]="why(vessel)">{{ says(vessel) }}</span></span
                ></ct-tick
              >
            </li>
          } @empty {
            <li class="soft">No vessel is empty.</li>
          }
        </ul>
        @if (busy() > 0) {
          <p class="soft small">{{ busy() }} more are full, or out of use.</p>
        }
        <h2>Tools and rooms</h2>
        <ul>
          @for (one of others(); track one.id) {
            <li>
              <ct-tick [value]="chosen().has(one.id)" [disabled]="!rights.mayRecord()" (valueChange)="toggle(one.id)"
                ><span
                  ><b>{{ one.name }}</b
                  ><br /><span class="small" [class.mustard]="!one.cleaned">{{
                    one.cleaned
                      ? 'cleaned ' + house.dates().moment(one.cleaned.at) + ': ' + one.cleaned.with
                      : 'no cleaning is recorded'
                  }}</span></span
                ></ct-tick
              >
            </li>
          }
        </ul>
        <p class="soft small">Tools are added on <a routerLink="/equipment">Equipment</a>.</p>
      </div>
      @if (rights.mayRecord()) {
        <form class="side stack" aria-label="How they were cleaned" (submit)="$event.preventDefault(); record()">
          <h2>How they were cleaned</h2>
          <ct-typed-before [typed]="form.typed" />
          @if (mixes().length > 0) {
            <ct-select
              label="Sanitiser"
              empty="none that was mixed"
              [options]="mixes()"
              [value]="form.values.mixId()"
              (valueChange)="useMix($event)"
            />
          }
          <ct-text label="With" [formField]="form.fields.agent" />
          <ct-text
            label="How strong"
            placeholder="20 mL to 10 L, as its sheet says"
            [formField]="form.fields.dilution"
          />
          <ct-count label="Contact, minutes" [formField]="form.fields.minutes" />
          <ct-tick [formField]="form.fields.rinsed">Rinsed with clean water after</ct-tick>
          @if (asksRinse()) {
            <p class="watch">
              {{ form.values.agent() }} may leave something behind that stops a ferment. Rinse, or say that its sheet
              asks for none.
            </p>
            <ct-tick [formField]="form.fields.noRinse">Its sheet asks for no rinse at this strength</ct-tick>
          }
          @if (minutes() !== null && minutes()! > 0) {
            <p>
              <button type="button" [disabled]="timer.saving()" (click)="wait()">
                Start {{ minutes() }} min of contact now
              </button>
            </p>
          }
          <ct-refusal [message]="form.problem() ?? timer.problem()" />
          <div>
            <button
              class="go"
              [ctRecord]="form"
              [needs]="[
                chosen().size === 0 && 'what was cleaned',
                !form.values.agent().trim() && 'with what',
                asksRinse() && !form.values.noRinse() && 'the rinse',
              ]"
            >
              {{ words() }}
            </button>
          </div>
          <p class="soft small">
            Hot water cleans; it makes nothing free of germs. What rusts or is cracked is put under repair on
            <a routerLink="/vessels">Rooms, vessels</a>.
          </p>
        </form>
      }
    </div>
  `,
  styles: `
    .head {
      display: flex;
      flex-wrap: wrap;
      gap: 14px;
      align-items: center;
      justify-content: space-between;
    }
    ul {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(290px, 1fr));
      gap: 0 22px;
    }
    li {
      border-bottom: 1px solid var(--hair);
      padding: 6px 0;
    }
    @media print {
      form {
        display: none;
      }
    }
  `,
})
export class Cleaning {
  protected readonly rights = injectRights();
  protected readonly house = injectHouse();
  private readonly equipment = shown<EquipmentReply>(signal('/api/equipment'));
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  private readonly all = computed(() => this.house.house()?.vessels ?? []);
  private readonly free = computed(() => this.all().filter(({ inUse, takenBy }) => inUse && takenBy === null));
  protected readonly due = computed(() => this.free().filter((vessel) => whyDue(vessel) !== null));
  /** What is due first; clean ones can be cleaned again. */
  protected readonly vessels = computed(() => [
    ...this.due(),
    ...this.free().filter((vessel) => whyDue(vessel) === null),
  ]);
  protected readonly busy = computed(() => this.all().length - this.free().length);
  protected readonly timer = recordingForm('timer');
  protected readonly form = recordingForm('cleaning', {
    fields: {
      agent: 'hot soapy water',
      dilution: '',
      minutes: null as number | null,
      rinsed: true,
      noRinse: false,
      mixId: '',
    },
    recorded: () => {
      this.chosen.set(new Set());
      this.equipment.again();
    },
  });
  protected readonly minutes = this.form.values.minutes;
  protected readonly asksRinse = computed(() => !this.form.values.rinsed() && leavesResidue(this.form.values.agent()));
  /** Tools and rooms, the ones nobody cleaned yet first. */
  protected readonly others = computed(() => {
    const { equipment = [], rooms = [] } = this.equipment.data() ?? {};
    const tools = equipment.filter(
      ({ inUse, kind }) => inUse && (kind === 'tool' || kind === 'scale' || kind === 'parts'),
    );
    return [
      ...tools.map(({ id, tag, name, cleaned }) => ({
        id,
        what: 'equipment' as const,
        name: `${tag}, ${name}`,
        cleaned,
      })),
      ...rooms.map(({ id, name, cleaned }) => ({ id, what: 'room' as const, name, cleaned })),
    ].sort((a, b) => Number(a.cleaned !== null) - Number(b.cleaned !== null));
  });
  /** Batches of sanitiser that may still be used. */
  protected readonly mixes = computed(() => {
    const all = this.equipment.data();
    return (all?.mixes ?? [])
      .filter((mix) => decideSanitiser({ ...mix, ...this.ends(mix, all!.now) }).ok)
      .map(({ id, code, agent, dilution }) => [id, `${code}: ${agent}, ${dilution}`] as const);
  });
  private ends = (
    { goodUntil }: { goodUntil: string },
    now: string,
  ): { goodUntil: number; at: number; until: string } => ({
    goodUntil: Date.parse(goodUntil),
    at: Date.parse(now),
    until: goodUntil,
  });
  private readonly tags = computed(() => [
    ...this.vessels()
      .filter(({ id }) => this.chosen().has(id))
      .map(({ tag }) => tag),
    ...this.others()
      .filter(({ id }) => this.chosen().has(id))
      .map(({ name }) => name.split(',')[0]!),
  ]);
  protected readonly words = computed(() => {
    const tags = this.tags();
    return tags.length === 0
      ? 'Record the cleaning'
      : tags.length > 4
        ? `Record ${tags.length} things as cleaned`
        : `Record ${tags.join(', ')} as cleaned`;
  });

  protected readonly why = whyDue;

  protected says(vessel: Vessel): string {
    const last = vessel.cleanedAt
      ? `cleaned ${this.house.dates().moment(vessel.cleanedAt)}${vessel.cleanedWith ? `: ${vessel.cleanedWith}` : ''}`
      : null;
    return [whyDue(vessel), last].filter(Boolean).join('; ');
  }

  protected roomOf({ roomId }: Vessel): string {
    return (this.house.house()?.rooms ?? []).find(({ id }) => id === roomId)?.name ?? '';
  }

  protected toggle(id: string): void {
    this.form.edited();
    this.chosen.update((ids) => new Set(ids.has(id) ? [...ids].filter((one) => one !== id) : [...ids, id]));
  }

  /** What it is and how strong is written on its batch. */
  protected useMix(mixId: string): void {
    const v = this.form.values;
    v.mixId.set(mixId);
    const mix = this.equipment.data()?.mixes.find(({ id }) => id === mixId);
    if (!mix) return;
    v.agent.set(mix.agent);
    v.dilution.set(mix.dilution);
  }

  protected chooseAll(): void {
    this.chosen.set(this.chosen().size === this.due().length ? new Set() : new Set(this.due().map(({ id }) => id)));
  }

  /** It rings on whatever page is open when the contact time is over. */
  protected wait(): void {
    const words = `Contact time${this.tags().length > 0 ? `, ${this.tags().slice(0, 6).join(', ')}` : ''}`;
    this.timer.record(
      this.timer.entry('timer.start', {
        timerId: newId(),
        batchId: null,
        step: null,
        words: words.slice(0, 80),
        minutes: this.minutes()!,
      }),
    );
  }

  protected record(): void {
    const { agent, dilution, minutes, rinsed, noRinse, mixId } = this.form.values;
    const how = {
      agent: agent().trim(),
      rinsed: rinsed(),
      noRinse: noRinse(),
      ...(dilution().trim() ? { dilution: dilution().trim() } : {}),
      ...(minutes() !== null ? { contactMinutes: minutes()! } : {}),
      ...(mixId() ? { mixId: mixId() } : {}),
    };
    const chosen = ({ id }: { id: string }): boolean => this.chosen().has(id);
    this.form.record(
      ...this.vessels()
        .filter(chosen)
        .map(({ id: vesselId }) => this.form.entry('vessel.clean', { vesselId, ...how })),
      ...this.others()
        .filter(chosen)
        .map(({ id, what }) =>
          this.form.entry('equipment.clean', {
            what: what === 'room' ? { what, roomId: id } : { what, equipmentId: id },
            ...how,
          }),
        ),
    );
  }
}

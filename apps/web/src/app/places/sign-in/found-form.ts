import { Component, computed, inject, input, signal } from '@angular/core';
import { Api, type WireProblem } from '../../api/api';
import { MASS_UNIT_WORDS, MASS_UNITS, type MassUnit } from '@clear-tally/core';
import { Choice } from '../../ui/choice';
import { Refusal } from '../../ui/refusal';
import { SecretField } from '../../ui/secret-field';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';

const ZONES: readonly string[] = Intl.supportedValuesOf('timeZone');

/** An empty ledger: found a house of one's own, or look around in the demo house first. */
@Component({
  selector: 'ct-found-form',
  imports: [Choice, Refusal, SecretField, Select, TextField],
  template: `
    <h1>Found your house</h1>
    <p class="soft">
      Nothing is here yet. A name and an owner are enough to begin; rooms, vessels, people, what you buy and your
      formulas follow, one after the other, whenever you like.
    </p>
    <form class="stack" (submit)="$event.preventDefault(); found()">
      <div class="pair">
        <ct-text label="Name of the house" [(value)]="name" />
        <ct-text
          label="Two letters at the head of batch codes"
          placeholder="NY"
          [value]="site()"
          (valueChange)="site.set($event.toUpperCase())"
        />
      </div>
      <div class="pair">
        <ct-choice label="Time zone" [options]="zones" [value]="zone()" (valueChange)="zone.set($event ?? 'UTC')" />
        <ct-select label="Decimal mark" [options]="marks" [value]="mark()" (valueChange)="mark.set($event)" />
      </div>
      <ct-select
        label="Masses at the bench are typed in"
        [options]="units"
        [value]="unit()"
        (valueChange)="unit.set($event)"
      />
      <div class="pair">
        <ct-text label="Your name" [(value)]="person" />
        <ct-text
          label="Your initials"
          [value]="initials() || usualInitials()"
          (valueChange)="initials.set($event.toUpperCase())"
        />
      </div>
      <div class="pair">
        <ct-secret label="Your PIN" [figures]="true" [(value)]="pin" />
        <ct-secret label="Once more" [figures]="true" [(value)]="again" />
      </div>
      <div class="row">
        <button class="go" [disabled]="missing() !== null || busy()">
          {{ busy() ? 'Founding …' : 'Found ' + (name().trim() || 'the house') }}
          @if (missing(); as words) {
            <small>missing: {{ words }}</small>
          }
        </button>
        @if (demo()) {
          <button type="button" class="plain" [disabled]="busy()" (click)="look()">
            Look around in the demo house first
          </button>
        }
      </div>
      <ct-refusal [message]="problem()" />
    </form>
  `,
  styles: `
    h1 + p {
      margin: 6px 0 16px;
    }
    .pair {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
      gap: 14px 18px;
      align-items: end;
    }
    .go {
      flex-direction: column;
    }
    small {
      font: 400 15px/1.2 var(--text);
    }
    @media (max-width: 620px) {
      .pair {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class FoundForm {
  /** The demo house is a press away. */
  readonly demo = input(false);
  private readonly api = inject(Api);
  protected readonly name = signal('');
  protected readonly site = signal('');
  protected readonly zone = signal(Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC');
  protected readonly mark = signal<'point' | 'comma'>((1.5).toLocaleString().includes(',') ? 'comma' : 'point');
  protected readonly person = signal('');
  protected readonly initials = signal('');
  protected readonly pin = signal('');
  protected readonly again = signal('');
  protected readonly busy = signal(false);
  protected readonly problem = signal<string | null>(null);
  protected readonly zones = [...new Set([this.zone(), ...ZONES])].map((zone) => ({ id: zone, label: zone }));
  protected readonly marks = [
    ['point', '1.5'],
    ['comma', '1,5'],
  ] as const;
  /** One unit at every bench, said in its fields: nothing is a thousand times off. */
  protected readonly unit = signal<MassUnit>('g');
  protected readonly units = MASS_UNITS.map((unit) => [unit, MASS_UNIT_WORDS[unit]] as const);
  protected readonly usualInitials = computed(() =>
    this.person()
      .trim()
      .split(/\s+/)
      .map((word) => word.charAt(0).toUpperCase())
      .join('')
      .slice(0, 3),
  );
  protected readonly missing = computed(() => {
    const open = [
      !this.name().trim() && 'the name of the house',
      !/^[A-Z]{2}$/.test(this.site()) && 'two capital letters',
      !this.person().trim() && 'your name',
      this.pin().length < 4 && 'a PIN of four figures or more',
      this.pin().length >= 4 && this.pin() !== this.again() && 'the same PIN once more',
    ].filter((one) => one !== false);
    return open.length === 0 ? null : open.join(', ');
  });

  protected found(): void {
    if (this.missing() !== null || this.busy()) return;
    this.busy.set(true);
    this.problem.set(null);
    this.api
      .found({
        house: {
          name: this.name().trim(),
          site: this.site(),
          timeZone: this.zone(),
          decimalMark: this.mark(),
        },
        owner: {
          name: this.person().trim(),
          initials: this.initials().trim() || this.usualInitials(),
          pin: this.pin(),
        },
        massUnit: this.unit(),
      })
      .subscribe({
        next: () => location.assign('/founding'),
        error: (refusal: WireProblem) => {
          this.problem.set(refusal.detail);
          this.busy.set(false);
        },
      });
  }

  protected look(): void {
    this.busy.set(true);
    this.api.goOver().subscribe({
      next: () => whenOpen(),
      error: (refusal: WireProblem) => {
        this.problem.set(refusal.detail);
        this.busy.set(false);
      },
    });
  }
}

/** The other house takes its moment to open; the page comes again with it. */
export function whenOpen(): void {
  const ask = async (): Promise<void> => {
    const answered = await fetch('/api/sign-in').then(
      ({ ok }) => ok,
      () => false,
    );
    if (answered) location.assign('/sign-in');
    else setTimeout(() => void ask(), 700);
  };
  setTimeout(() => void ask(), 1500);
}

import { Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { dayProblem } from '@clear-tally/core';
import type { PeopleReply } from '@clear-tally/contract';
import { Api, type WireProblem } from '../../api/api';
import { newId, recordingForm } from '../../state/form';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { DayField } from '../../ui/day-field';
import { SecretField } from '../../ui/secret-field';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';

type Person = PeopleReply['people'][number];
type Role = Person['role'];

/** A person comes into the house, with a first PIN; or is called otherwise, or may do more or less from now on. */
@Component({
  selector: 'ct-person-form',
  imports: [DayField, FormField, RecordButton, Refusal, SecretField, Select, TextField, TypedBeforeNote],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); keep()">
      <h2>{{ person() ? 'Change ' + person()!.name : 'Somebody new' }}</h2>
      <ct-typed-before [typed]="form.typed" />
      <div class="row">
        <ct-text label="Name" [formField]="form.fields.name" />
        <ct-text
          label="Initials, for the book"
          [value]="form.values.initials() || usual()"
          (valueChange)="form.values.initials.set($event.toUpperCase())"
        />
        <ct-select
          label="May"
          [options]="roles"
          [value]="form.values.role()"
          (valueChange)="form.values.role.set($event)"
        />
        @if (form.values.role() === 'inspector') {
          <ct-day
            label="Until the end of, if it ends"
            [value]="form.values.lastDay()"
            (valueChange)="form.values.lastDay.set($event || '')"
          />
        }
        @if (!person()) {
          <ct-secret label="A first PIN" [figures]="true" [(value)]="pin" />
        }
      </div>
      <div class="row">
        <button class="go" [ctRecord]="form" [needs]="needs()">
          {{ person() ? 'Keep it so' : 'Add ' + (form.values.name().trim() || 'them') }}
        </button>
        @if (person()) {
          <button type="button" (click)="done.emit()">Not now</button>
        } @else {
          <span class="soft small">They change the PIN when they have signed in.</span>
        }
      </div>
      <ct-refusal [message]="form.problem() ?? problem()" />
    </form>
  `,
})
export class PersonForm {
  /** Who is changed; null: somebody new. */
  readonly person = input<Person | null>(null);
  readonly done = output();
  private readonly api = inject(Api);
  protected readonly roles: readonly (readonly [Role, string])[] = [
    ['maker', 'make and record'],
    ['owner', 'do everything, judge and release'],
    ['inspector', 'look, and record nothing'],
  ];
  private personId = newId();
  protected readonly pin = signal('');
  protected readonly problem = signal<string | null>(null);
  protected readonly form = recordingForm('person', {
    fields: { name: '', initials: '', role: 'maker' as Role, lastDay: '' },
    about: computed(() => this.person()?.id ?? 'new'),
    recorded: () => this.given(),
  });
  protected readonly usual = computed(() =>
    this.form.values
      .name()
      .trim()
      .split(/\s+/)
      .map((word) => word.charAt(0).toUpperCase())
      .join('')
      .slice(0, 3),
  );
  protected readonly needs = computed(() => [
    !this.form.values.name().trim() && 'a name',
    this.form.values.role() === 'inspector' &&
      this.form.values.lastDay() !== '' &&
      dayProblem(this.form.values.lastDay()) !== null &&
      'its last day',
    !this.person() && this.pin().length < 4 && 'a PIN of four figures or more',
  ]);

  constructor() {
    effect(() => {
      const of = this.person();
      untracked(() => {
        if (!of) return;
        const v = this.form.values;
        v.name.set(of.name);
        v.initials.set(of.initials);
        v.role.set(of.role);
        v.lastDay.set(of.lastDay ?? '');
      });
    });
  }

  protected keep(): void {
    const v = this.form.values;
    if (!v.name().trim()) return;
    const of = this.person();
    const body = {
      personId: of?.id ?? this.personId,
      name: v.name().trim(),
      initials: v.initials().trim() || this.usual(),
      role: v.role(),
      ...(v.role() === 'inspector' ? { lastDay: v.lastDay() || null } : {}),
    };
    this.problem.set(null);
    this.form.record(this.form.entry(of ? 'person.change' : 'person.add', body));
  }

  /** Who is new gets the PIN that was typed; a PIN that is no good leaves them there without one, and says so. */
  private given(): void {
    const [id, pin] = [this.personId, this.pin()];
    const fresh = this.person() === null;
    this.personId = newId();
    this.pin.set('');
    const v = this.form.values;
    v.name.set('');
    v.initials.set('');
    v.lastDay.set('');
    if (!fresh) return this.done.emit();
    this.api.givePin(id, pin).subscribe({
      next: () => this.done.emit(),
      error: (refusal: WireProblem) => {
        this.problem.set(`They are in the house, and have no PIN yet: ${refusal.detail}`);
        this.done.emit();
      },
    });
  }
}

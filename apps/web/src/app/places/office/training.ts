import { Component, computed, input, output } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import type { PeopleReply } from '@clear-tally/contract';
import { dayProblem, TASK_WORDS, TRAINED_TASKS, type TrainedTask, trainingOn } from '@clear-tally/core';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { DayField } from '../../ui/day-field';
import { calendarDay } from '../../ui/dates';
import { Mark } from '../../ui/mark';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';

/** What one person was taught: by whom, when, until when; and a new line of it. */
@Component({
  selector: 'ct-training',
  imports: [DayField, FormField, Mark, RecordButton, Refusal, Select, TextField, TypedBeforeNote],
  template: `
    <ul [attr.aria-label]="'What ' + person().name + ' was taught'">
      @for (one of person().trainings; track one.id) {
        <li>
          <ct-mark [kind]="isOver(one.until) ? 'watch' : 'met'"
            ><b>{{ taskWords[one.task] }}</b></ct-mark
          >
          <span
            >{{ calendarDay(one.on) }}, by {{ one.taughtBy
            }}{{ one.until ? (isOver(one.until) ? ', ended ' : ', until ') + calendarDay(one.until) : '' }}</span
          >
          @if (one.words) {
            <span class="soft">{{ one.words }}</span>
          }
        </li>
      } @empty {
        <li class="soft">Nothing is on record yet.</li>
      }
    </ul>
    @if (lacks().length > 0) {
      <p class="watch">
        This house asks for a training in {{ lacks().join(', ') }}, and {{ person().name }} has none that counts today.
      </p>
    }
    <form class="stack" (submit)="$event.preventDefault(); keep()">
      <ct-typed-before [typed]="form.typed" />
      <div class="row">
        <ct-select
          label="Taught in"
          [options]="tasks"
          [value]="form.values.task()"
          (valueChange)="form.values.task.set($event)"
        />
        <ct-text label="By" placeholder="Odile Marr" [formField]="form.fields.taughtBy" />
        <ct-day label="On" [latest]="today()" [value]="on()" (valueChange)="form.values.on.set($event)" />
        <ct-day
          label="Until the end of, if it ends"
          [value]="form.values.until()"
          (valueChange)="form.values.until.set($event)"
        />
        <ct-text label="What was shown" placeholder="by the sheet of March" [formField]="form.fields.words" />
      </div>
      <div>
        <button [ctRecord]="form" [needs]="needs()">Write it down</button>
      </div>
      <ct-refusal [message]="form.problem()" />
    </form>
  `,
  styles: 'li { display: flex; flex-wrap: wrap; gap: 4px 18px; padding: 6px 0; border-bottom: 1px solid var(--hair); }',
})
export class TrainingOf {
  readonly person = input.required<PeopleReply['people'][number]>();
  readonly done = output();
  private readonly house = injectHouse();
  protected readonly taskWords = TASK_WORDS;
  protected readonly calendarDay = calendarDay;
  protected readonly tasks = TRAINED_TASKS.map((task) => [task, TASK_WORDS[task]] as const);
  protected readonly form = recordingForm('person.train', {
    fields: { task: 'salting' as TrainedTask, taughtBy: '', on: '', until: '', words: '' },
    about: computed(() => this.person().id),
    recorded: () => {
      const { on, until, words } = this.form.values;
      [on, until, words].forEach((field) => field.set(''));
      this.done.emit();
    },
  });
  protected readonly today = computed(() => this.house.dates().today());
  /** Today, unless another day is said. */
  protected readonly on = computed(() => this.form.values.on() || this.today());
  /** What the house asks for and this person has not, in words. */
  protected readonly lacks = computed(() =>
    (this.house.house()?.settings.trainedTasks ?? [])
      .filter((task) => trainingOn(this.person().trainings, task, this.today()).state !== 'trained')
      .map((task) => `“${TASK_WORDS[task]}”`),
  );
  protected readonly needs = computed(() => {
    const { taughtBy, until } = this.form.values;
    return [
      !taughtBy().trim() && 'who taught it',
      dayProblem(this.on(), this.today()) !== null && 'the day it was given',
      until() !== '' && (dayProblem(until()) !== null || until() < this.on()) && 'a last day after that',
    ];
  });

  protected readonly isOver = (until: string | null): boolean => until !== null && until < this.today();

  protected keep(): void {
    if (this.needs().some(Boolean)) return;
    const { task, taughtBy, until, words } = this.form.values;
    this.form.record(
      this.form.entry('person.train', {
        trainingId: newId(),
        personId: this.person().id,
        task: task(),
        words: words().trim() || null,
        taughtBy: taughtBy().trim(),
        on: this.on(),
        until: until() || null,
      }),
    );
  }
}

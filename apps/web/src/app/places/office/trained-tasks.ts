import { Component, computed, input, linkedSignal } from '@angular/core';
import type { PeopleReply } from '@clear-tally/contract';
import { TASK_WORDS, TRAINED_TASKS, type TrainedTask, trainingOn } from '@clear-tally/core';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Tick } from '../../ui/tick';

/** What this house asks a training for. Who has none could not go on: that is said before it is kept. */
@Component({
  selector: 'ct-trained-tasks',
  imports: [RecordButton, Refusal, Tick],
  template: `
    <section class="rule stack">
      <h2>What asks for a training</h2>
      <p class="soft small">
        Whoever has none on record for it cannot record it here; somebody who has takes the tablet. Nothing is asked
        where nothing is ticked.
      </p>
      <div class="tasks">
        @for (task of tasks; track task) {
          <ct-tick [value]="chosen().has(task)" (valueChange)="toggle(task)"
            ><span
              >{{ words[task] }}
              @if (chosen().has(task) && without(task); as names) {
                <br /><span class="small mustard">not yet: {{ names }}</span>
              }
            </span></ct-tick
          >
        }
      </div>
      <div>
        <button type="button" [ctRecord]="form" [needs]="[!changed() && 'a change']" (click)="keep()">
          Keep it so
        </button>
      </div>
      <ct-refusal [message]="form.problem()" />
    </section>
  `,
  styles: '.tasks { display: grid; grid-template-columns: repeat(auto-fill, minmax(290px, 1fr)); gap: 0 22px; }',
})
export class TrainedTasks {
  readonly people = input.required<PeopleReply['people']>();
  private readonly house = injectHouse();
  protected readonly tasks = TRAINED_TASKS;
  protected readonly words = TASK_WORDS;
  protected readonly form = recordingForm('trained tasks');
  private readonly kept = computed(() => this.house.house()?.settings.trainedTasks ?? []);
  protected readonly chosen = linkedSignal<ReadonlySet<TrainedTask>>(() => new Set(this.kept()));
  protected readonly changed = computed(
    () => this.chosen().size !== this.kept().length || this.kept().some((task) => !this.chosen().has(task)),
  );

  /** Who works here and has no training in it that counts today. */
  protected without(task: TrainedTask): string {
    const today = this.house.dates().today();
    return this.people()
      .filter(({ leftAt, role }) => leftAt === null && role !== 'inspector')
      .filter(({ trainings }) => trainingOn(trainings, task, today).state !== 'trained')
      .map(({ name }) => name)
      .join(', ');
  }

  protected toggle(task: TrainedTask): void {
    this.form.edited();
    this.chosen.update((all) => new Set(all.has(task) ? [...all].filter((one) => one !== task) : [...all, task]));
  }

  protected keep(): void {
    this.form.record(
      this.form.entry('house.set', { trainedTasks: TRAINED_TASKS.filter((task) => this.chosen().has(task)) }),
    );
  }
}

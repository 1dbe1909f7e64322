import { Component, computed, input, output, signal, viewChildren } from '@angular/core';
import { formatGrams } from '@clear-tally/core';
import type { MakeReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { Choice } from '../../ui/choice';
import { QuantityInput } from '../../ui/quantity-input';
import { Receive } from '../../ui/receive';
import { Refusal } from '../../ui/refusal';
import { supplyChoices } from './supply-choices';
import { WeighedList } from './weighed-list';

/** Produce is weighed after trimming: the salt follows this weight. */
@Component({
  selector: 'ct-produce-step',
  imports: [Choice, QuantityInput, Receive, Refusal, WeighedList],
  template: `
    <form class="stack" (submit)="$event.preventDefault(); record()">
      <h1>Weigh trimmed produce</h1>
      <p class="soft">After coring and trimming: the salt follows this weight, never the bought one.</p>
      <ul class="row wanted">
        @for (line of wanted(); track line.key) { <li><span class="soft small">{{ line.name }}</span><b class="figure">{{ line.weighed }} of {{ line.planned }}</b></li> }
      </ul>
      <ct-choice label="From lot" [options]="options()" [(chosen)]="lotId" nothing="No lot of this formula’s produce is in the house" (edited)="form.edited()" />
      <div class="row">
        <ct-quantity label="Trimmed, on the scale" unit="kg" what="the trimmed produce" [(grams)]="trimmed" [refusal]="form.problemAt('trimmedGrams')" (edited)="form.edited()" />
        <ct-quantity label="Trimmed off" unit="kg" what="the trimmings" [zero]="true" [(grams)]="waste" [refusal]="form.problemAt('trimWasteGrams')" (edited)="form.edited()" />
        <button class="go" [disabled]="!lotId() || !trimmed() || form.saving()">Record {{ trimmed() ? mass(trimmed()!) : '' }} trimmed</button>
        @if (batch().produce.length > 0) { <button type="button" (click)="done.emit()">All weighed: go on</button> }
      </div>
      <ct-refusal [message]="general()" />
    </form>
    <div class="stack" style="margin-top: 22px">
      <ct-weighed-list [rows]="batch().produce" />
      <ct-receive [kinds]="['produce']" (received)="lotId.set($event)" />
    </div>
  `,
  styles: '.wanted li { display: grid; min-width: 200px; } .wanted b { font-size: 22px; }',
})
export class ProduceStep {
  readonly batch = input.required<MakeReply>();
  readonly done = output();
  private readonly fields = viewChildren(QuantityInput);

  protected readonly lotId = signal<string | null>(null);
  protected readonly trimmed = signal<number | null>(null);
  protected readonly waste = signal<number | null>(null);
  protected readonly form = recordingForm('produce.weigh', () => {
    this.fields().forEach((field) => field.clear());
    this.lotId.set(null);
  });
  private readonly supplies = supplyChoices(signal('/api/supplies?kind=produce'));
  protected readonly options = computed(() => {
    const names = this.batch().formula.produce.map((part) => part.name);
    return this.supplies.options().filter((option) => names.some((name) => option.label.endsWith(` ${name}`)));
  });
  protected readonly wanted = computed(() => this.batch().planned.lines.filter((line) => line.role === 'produce').map((line) => ({
    ...line, planned: formatGrams(line.grams ?? 0),
    weighed: formatGrams(this.batch().produce.filter((row) => line.name.startsWith(`${row.materialName},`)).reduce((sum, row) => sum + row.grams, 0)),
  })));
  protected readonly general = computed(() => (this.form.problemAt('trimmedGrams', 'trimWasteGrams') ? null : this.form.problem()));
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected record(): void {
    if (!this.lotId() || !this.trimmed()) return;
    this.form.record(this.form.entry('produce.weigh', { batchId: this.batch().batchId, supplyLotId: this.lotId()!, trimmedGrams: this.trimmed()!, trimWasteGrams: this.waste() ?? 0 }));
  }
}

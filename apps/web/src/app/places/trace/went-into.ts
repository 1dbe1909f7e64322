import { Component, computed, input, linkedSignal, output, signal } from '@angular/core';
import { RecordButton } from '../../ui/record-button';
import { RouterLink } from '@angular/router';
import { formatGrams } from '@clear-tally/core';
import type { TraceNode, TraceReply } from '@clear-tally/contract';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { Mark } from '../../ui/mark';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import { untilChosen } from '../../state/until-chosen';

const KINDS: Readonly<Record<string, string>> = {
  batch: 'Batch',
  fill: 'Vessel',
  preparation: 'Preparation',
  run: 'Packing run',
};

/** Everything a lot went into, alive or packed, also where no jar exists yet; what is chosen is held with one press. */
@Component({
  selector: 'ct-went-into',
  imports: [Mark, Refusal, RouterLink, TextField, Tick, RecordButton],
  template: `
    <h2>What it went into: {{ rows().length + foldedMany() }}</h2>
    <table class="book">
      <thead>
        <tr>
          <th></th>
          <th>Lot</th>
          <th>What</th>
          <th>Since</th>
          <th class="right">Of it inside</th>
          <th class="right">Stands there</th>
          <th>State</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.lotId) {
          <tr>
            <td>
              @if (mayHold() && able(row)) {
                <ct-tick [value]="chosen().has(row.lotId)" (valueChange)="toggle(row.lotId)"
                  ><span class="visually-hidden">Hold {{ row.code }}</span></ct-tick
                >
              }
            </td>
            <td>
              <a class="figure" [routerLink]="['/lots', row.code]">{{ row.code }}</a>
            </td>
            <td>
              {{ kind(row) }}<br /><span class="soft small">{{ row.name }}</span>
            </td>
            <td class="figure small">{{ house.dates().day(row.at) }}</td>
            <td class="right figure">{{ mass(row.grams) }}</td>
            <td class="right figure">{{ stands(row) }}</td>
            <td>
              @if (row.hold) {
                <ct-mark kind="hold">{{ row.hold }}</ct-mark>
              } @else {
                <span class="soft">{{ state(row) }}</span>
              }
            </td>
          </tr>
        }
      </tbody>
    </table>
    @if (foldedMany() > 0 && mayHold() && reply().mayHold > 0) {
      <ct-tick class="all" [(value)]="all"
        >All {{ reply().mayHold }} that stand somewhere or are in jars, with the {{ foldedMany() }} lots that are
        folded</ct-tick
      >
    }
    @if (mayHold() && (many() > 0 || all())) {
      <form class="stack grave" (submit)="$event.preventDefault(); hold()">
        <ct-text
          [label]="'Why ' + subject().code + ' and what is chosen is held'"
          [value]="reason()"
          (valueChange)="reason.set($event); form.edited()"
        />
        <div>
          <button class="stern" [ctRecord]="form" [needs]="[!reason().trim() && 'the reason']">
            Hold {{ subject().code }} and {{ all() ? 'all ' + reply().mayHold + ' it went into' : many() + ' chosen' }}
          </button>
        </div>
        <ct-refusal [message]="form.problem()" />
      </form>
    }
    @if (said(); as words) {
      <p class="note" role="status">{{ words }}</p>
    }
  `,
  styles:
    ':host { display: grid; gap: 12px; } label.all { display: flex; gap: 12px; align-items: center; font-weight: 600; } input[type=checkbox] { width: 26px; height: 26px; accent-color: var(--beet); }',
})
export class WentInto {
  readonly reply = input.required<TraceReply>();
  readonly held = output();
  protected readonly house = injectHouse();
  private readonly rights = injectRights();
  protected readonly mayHold = computed(() => this.rights.mayRecord());
  protected readonly subject = computed(() => this.reply().subject);
  protected readonly rows = computed(() =>
    this.reply()
      .nodes.filter((node) => node.forward && node.kind !== 'supply' && node.folded === null)
      .sort((a, b) => a.column - b.column || a.at.localeCompare(b.at)),
  );
  /** Of a lot that is held all of it is proposed; of another nothing. */
  protected readonly chosen = linkedSignal<string, ReadonlySet<string>>({
    source: () => this.subject().lotId,
    computation: () =>
      new Set(
        this.subjectHold()
          ? this.rows()
              .filter((row) => this.able(row))
              .map(({ lotId }) => lotId)
          : [],
      ),
  });
  protected readonly foldedMany = computed(() =>
    this.reply().nodes.reduce(
      (sum, node) => sum + (node.forward && !node.carriedOver && node.kind !== 'supply' ? (node.folded ?? 0) : 0),
      0,
    ),
  );
  /** Of a large way one cannot tick each: all of it, or what is ticked. Of a lot that is held all is proposed. */
  protected readonly all = linkedSignal<string, boolean>({
    source: () => this.subject().lotId,
    computation: () => this.foldedMany() > 0 && this.subjectHold() !== null,
  });
  private readonly subjectHold = computed(
    () => this.reply().nodes.find(({ lotId }) => lotId === this.subject().lotId)?.hold ?? null,
  );
  protected readonly reason = untilChosen(
    () => this.subjectHold() ?? '',
    () => this.subject().lotId,
  );
  protected readonly many = computed(
    () => this.rows().filter((row) => this.able(row) && this.chosen().has(row.lotId)).length,
  );
  protected readonly said = signal<string | null>(null);
  protected readonly form = recordingForm('hold.place', ([recorded]) => {
    this.said.set(`Held: ${String(recorded?.facts['held'] ?? '')} lots. A reviewer ends it, in writing.`);
    this.chosen.set(new Set());
    this.held.emit();
  });
  protected readonly mass = (grams: number): string => formatGrams(grams);

  /** What stands somewhere, or went into jars, and is not held. */
  protected able(row: TraceNode): boolean {
    return row.hold === null && !row.carriedOver && (row.kind === 'run' || !row.closed);
  }

  protected kind(row: TraceNode): string {
    return row.kind === 'fill' ? `Vessel ${row.detail ?? ''}` : (KINDS[row.kind] ?? row.kind);
  }

  protected stands(row: TraceNode): string {
    if (row.jars !== null) return `${row.jars} jars`;
    return row.closed || row.onHandGrams === null ? '' : this.mass(Math.max(0, row.onHandGrams));
  }

  protected state(row: TraceNode): string {
    if (row.carriedOver) return 'only by a vessel nobody cleaned';
    return row.kind === 'run' ? 'packed' : row.closed ? (row.kind === 'fill' ? 'emptied' : 'used up') : 'live';
  }

  protected toggle(lotId: string): void {
    const chosen = new Set(this.chosen());
    if (!chosen.delete(lotId)) chosen.add(lotId);
    this.chosen.set(chosen);
  }

  protected hold(): void {
    const also = this.rows()
      .filter((row) => this.able(row) && this.chosen().has(row.lotId))
      .map(({ lotId }) => lotId);
    const reason = this.reason().trim();
    if (this.all() && reason)
      this.form.record(this.form.entry('hold.place', { lotId: this.subject().lotId, reason, downstream: true }));
    else if (also.length > 0 && reason)
      this.form.record(this.form.entry('hold.place', { lotId: this.subject().lotId, reason, also }));
  }
}

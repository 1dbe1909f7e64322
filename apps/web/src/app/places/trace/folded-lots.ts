import { Component, computed, input, linkedSignal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatGrams } from '@clear-tally/core';
import type { FoldedReply, TraceReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Choices } from '../../ui/choices';
import { Waiting } from '../../ui/waiting';

const KINDS: Readonly<Record<string, string>> = {
  supply: 'Supplies',
  batch: 'Batches',
  preparation: 'Preparations',
  fill: 'Vessels',
  run: 'Packing runs',
};

/** What a large way folds together, as lists of their own, asked for page by page: nothing of it is out of reach. */
@Component({
  selector: 'ct-folded-lots',
  imports: [Choices, RouterLink, Waiting],
  template: `
    <h2>Folded on this way</h2>
    <p class="soft small">
      {{ reply().lots }} lots are on it. The picture keeps the held, the live and the heaviest apart; the others are
      listed here.
    </p>
    <ct-choices label="Which list" [options]="lists()" [value]="of()" (picked)="choose($event)" />
    <ct-waiting [loading]="of() !== null && read.loading()" [problem]="read.problem()" (again)="read.again()" />
    @if (read.data(); as list) {
      <table class="book">
        @if (of() === 'jars') {
          <tbody>
            @for (range of list.jars; track range.first) {
              <tr>
                <td>
                  <a class="figure" [routerLink]="['/lots', range.run]">{{ range.run }}</a>
                </td>
                <td class="figure small">{{ range.first.slice(-7) }} to {{ range.last.slice(-7) }}</td>
                <td class="figure">{{ house.dates().day(range.packedAt) }}</td>
                <td class="right figure">{{ range.count }} × {{ range.sizeMl }} mL</td>
              </tr>
            }
          </tbody>
        } @else {
          <tbody>
            @for (node of list.nodes; track node.lotId) {
              <tr>
                <td>
                  <a class="figure" [routerLink]="['/lots', node.code]">{{ node.code }}</a>
                </td>
                <td>
                  {{ node.name }}
                  @if (node.detail) {
                    <span class="soft"> in {{ node.detail }}</span>
                  }
                </td>
                <td class="figure small">{{ house.dates().day(node.at) }}</td>
                <td class="right figure">{{ mass(node.grams) }}</td>
                <td>{{ node.hold ?? (node.jars ? node.jars + ' jars' : node.closed ? 'emptied' : 'live') }}</td>
              </tr>
            }
          </tbody>
        }
      </table>
      @if (list.many > list.page) {
        <p class="row">
          <button type="button" [disabled]="page() === 0" (click)="page.set(page() - 1)">The ones before</button
          ><span class="figure">{{ page() * list.page + 1 }} to {{ last(list) }} of {{ list.many }}</span
          ><button type="button" [disabled]="last(list) >= list.many" (click)="page.set(page() + 1)">
            The next ones
          </button>
        </p>
      }
    }
  `,
  styles: ':host { display: grid; gap: 12px; }',
})
export class FoldedLots {
  readonly reply = input.required<TraceReply>();
  readonly code = input.required<string>();
  readonly carryOver = input(false);
  /** Wanted from the picture. */
  readonly wanted = input<string | null>(null);
  protected readonly house = injectHouse();
  protected readonly folds = computed(() =>
    this.reply()
      .nodes.filter((node) => node.folded !== null)
      .sort((a, b) => a.column - b.column),
  );
  protected readonly of = linkedSignal<string | null>(() => this.wanted());
  protected readonly page = linkedSignal({ source: () => this.of(), computation: () => 0 });
  protected readonly read = shown<FoldedReply>(
    computed(() =>
      this.of()
        ? `/api/trace/${encodeURIComponent(this.code())}/folded?of=${this.of()}&page=${this.page()}${this.carryOver() ? '&carryOver=yes' : ''}`
        : null,
    ),
  );
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly kind = (kind: string): string => KINDS[kind] ?? kind;
  protected readonly last = (list: FoldedReply): number => Math.min(list.many, (this.page() + 1) * list.page);

  protected readonly lists = computed(() => [
    ...this.folds().map(({ lotId, kind, folded }) => ({ key: lotId, words: this.kind(kind), figure: folded })),
    ...(this.reply().ranges > this.reply().jars.length
      ? [{ key: 'jars', words: 'Jars, by run', figure: this.reply().ranges }]
      : []),
  ]);

  protected choose(of: string): void {
    this.of.set(of);
  }
}

import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatGrams } from '@clear-tally/core';
import type { LotsReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Waiting } from '../../ui/waiting';
import { TextField } from '../../ui/text-field';

const KINDS = [
  ['fill', 'Vessels'],
  ['batch', 'Batches'],
  ['run', 'Packing runs'],
  ['supply', 'Supplies'],
] as const;

/** The book's index. */
@Component({
  selector: 'ct-lots',
  imports: [RouterLink, Waiting, TextField],
  template: `
    <div class="page">
      <div class="main stack">
        <div class="row head">
          <h1>Lots</h1>
          <div class="choices" role="group" aria-label="Kind of lot">
            @for (kind of kinds; track kind[0]) {
              <button type="button" [attr.aria-pressed]="chosen() === kind[0]" (click)="choose(kind[0])">
                {{ kind[1] }}
              </button>
            }
          </div>
          <ct-text
            class="find"
            label="Find by code, name or supplier’s lot"
            [value]="search()"
            (valueChange)="find($event)"
            placeholder="find by code or name"
            [bare]="true"
          />
          <a class="button" routerLink="/lots/before-the-ledger">Enter a lot from before the ledger</a>
        </div>
        @if (read.data(); as reply) {
          <table class="book">
            <thead>
              <tr>
                <th>Code</th>
                <th>What</th>
                <th>Since</th>
                <th class="right">{{ chosen() === 'run' ? 'Jars' : 'On hand' }}</th>
                <th class="right">Last pH</th>
                <th>State</th>
              </tr>
            </thead>
            <tbody>
              @for (lot of reply.lots; track lot.lotId) {
                <tr>
                  <td>
                    <a class="figure code" [routerLink]="['/lots', lot.code]">{{ lot.code }}</a>
                  </td>
                  <td>
                    {{ lot.name }}
                    @if (lot.vesselTag) {
                      <span class="soft"> in {{ lot.vesselTag }}</span>
                    }
                  </td>
                  <td class="figure">{{ house.dates().moment(lot.at) }}</td>
                  <td class="right figure">
                    {{ lot.jars !== null ? lot.jars : lot.onHandGrams === null ? 'tap' : mass(lot.onHandGrams) }}
                  </td>
                  <td class="right">
                    <span class="figure">{{ lot.lastPh === null ? '' : lot.lastPh.toFixed(2) }}</span>
                    @if (lot.lastPh !== null && !lot.phCounts) {
                      <br /><span class="soft small">does not count</span>
                    }
                  </td>
                  <td [class.beet]="lot.state === 'on hold'" [class.soft]="lot.state !== 'on hold'">{{ lot.state }}</td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="6" class="soft">
                    {{ search() ? 'Nothing in the book fits these letters.' : 'Nothing here yet.' }}
                  </td>
                </tr>
              }
            </tbody>
          </table>
          <div class="row">
            @if (before() !== null) {
              <button type="button" (click)="before.set(null)">To the newest</button>
            }
            @if (reply.next; as next) {
              <button type="button" (click)="before.set(next)">Older lots</button>
            }
          </div>
        }
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
      </div>
    </div>
  `,
  styles:
    '.head { align-items: center; } .head > .choices { margin-top: 0 !important; } .find { flex: 1; min-width: 180px; } .code { font-weight: 700; display: inline-block; padding: 6px 0; }',
})
export class Lots {
  protected readonly house = injectHouse();
  protected readonly kinds = KINDS;
  protected readonly chosen = signal<(typeof KINDS)[number][0]>('fill');
  protected readonly search = signal('');
  protected readonly before = signal<string | null>(null);
  private readonly url = computed(() => {
    const query = new URLSearchParams({
      kind: this.chosen(),
      ...(this.search().trim() ? { search: this.search().trim() } : {}),
      ...(this.before() ? { before: this.before()! } : {}),
    });
    return `/api/lots?${query.toString()}`;
  });
  protected readonly read = shown<LotsReply>(this.url);
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected choose(kind: (typeof KINDS)[number][0]): void {
    this.chosen.set(kind);
    this.before.set(null);
  }

  protected find(text: string): void {
    this.search.set(text);
    this.before.set(null);
  }
}

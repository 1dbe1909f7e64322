import { Component, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { BookLine } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { Unbroken } from '../../ui/unbroken';
import { CorrectForm } from './correct-form';

/** A tablet's clock may be a little off, and a line takes its time. */
const LATE_MS = 10 * 60_000;

/** Entered later than it happened: both times are shown. */
export const isLate = ({ at, recordedAt }: BookLine): boolean => Date.parse(recordedAt) - Date.parse(at) > LATE_MS;

/** The lines of a book: time, what, figure, words, initials; a corrected figure struck through beside the right one. */
@Component({
  selector: 'ct-book',
  imports: [CorrectForm, RouterLink, Unbroken],
  template: `
    <table class="book">
      <thead>
        <tr>
          <th>When</th>
          <th>What</th>
          <th class="right">Figure</th>
          <th>Words</th>
          <th>By</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        @for (line of lines(); track line.entryId) {
          <tr [class.here]="correcting() === line.entryId" [class.out]="line.struckOut">
            <td class="figure">
              {{ house.dates().moment(line.at) }}
              @if (isLate(line)) {
                <br /><small class="soft">entered {{ house.dates().moment(line.recordedAt) }}</small>
              }
            </td>
            <td>
              @if (withLot() && line.lotCode) {
                <b class="figure">{{ line.lotCode }} </b>
              }
              <ct-unbroken [words]="line.what" />
            </td>
            <td class="right figure">
              @for (struck of line.struck; track $index) {
                <del>{{ struck }}</del>
              }
              {{ line.figure }}
            </td>
            <td class="soft"><ct-unbroken [words]="line.words ?? ''" /></td>
            <td class="figure">{{ line.by }}</td>
            <td class="right">
              @if (mayCorrect() && line.correctable) {
                @if (isFigure(line)) {
                  <button
                    type="button"
                    class="plain"
                    [attr.aria-label]="'Correct ' + line.what + ' ' + line.figure"
                    (click)="correcting.set(correcting() === line.entryId ? null : line.entryId)"
                  >
                    Correct
                  </button>
                } @else {
                  <a
                    [routerLink]="['/correct', line.entryId]"
                    [attr.aria-label]="'Correct ' + line.what + ' ' + (line.figure ?? '')"
                    >Correct</a
                  >
                }
              }
            </td>
          </tr>
          @if (correcting() === line.entryId) {
            <tr class="here">
              <td colspan="6"><ct-correct-form [line]="line" (done)="correcting.set(null)" /></td>
            </tr>
          }
        } @empty {
          <tr>
            <td colspan="6" class="soft">No line yet.</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles:
    'a { font-weight: 700; } button.plain { padding-inline: 0; } del { color: var(--beet); margin-right: 8px; } .out td { color: var(--soft); } .out td:nth-child(2), .out td:nth-child(3) { text-decoration: line-through; text-decoration-color: var(--beet); }',
})
export class Book {
  protected readonly isLate = isLate;
  readonly lines = input.required<readonly BookLine[]>();
  readonly mayCorrect = input(false);
  /** Lines of many lots: each says whose it is. */
  readonly withLot = input(false);
  protected readonly house = injectHouse();
  /** One figure is put right at its line; anything else in the entry's own form. */
  protected readonly isFigure = ({ kind, struckOut }: BookLine): boolean =>
    !struckOut && ['salt.weigh', 'ph.read', 'temperature.read'].includes(kind);
  protected readonly correcting = signal<string | null>(null);
}

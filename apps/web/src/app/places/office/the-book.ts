import { Component, computed, signal } from '@angular/core';
import type { JournalReply } from '@clear-tally/contract';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Waiting } from '../../ui/waiting';
import { Book } from '../lots/book';
import { OfficeNav } from './office-nav';

/** Everything that was recorded, whatever it is of: here a line is found that stands in no lot's book. */
@Component({
  selector: 'ct-the-book',
  imports: [Book, OfficeNav, Waiting],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-office-nav />
        <h1>Everything recorded</h1>
        <p class="soft">
          The newest first. Whatever was typed wrong is put right at its line; the wrong one stays beside it.
        </p>
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
        @if (read.data(); as all) {
          <ct-book [lines]="all.lines" [mayCorrect]="rights.mayRecord()" [withLot]="true" />
          <div class="row">
            @if (before() !== null) {
              <button type="button" (click)="before.set(null)">The newest</button>
            }
            @if (all.next; as next) {
              <button type="button" (click)="before.set(next)">Older</button>
            }
          </div>
        }
      </div>
    </div>
  `,
})
export class TheBook {
  protected readonly rights = injectRights();
  protected readonly before = signal<string | null>(null);
  protected readonly read = shown<JournalReply>(
    computed(() => (this.before() === null ? '/api/journal' : `/api/journal?before=${this.before()}`)),
  );
}

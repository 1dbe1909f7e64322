import { Component, computed, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { RunHeatReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';
import { Waiting } from '../../ui/waiting';
import { HeatChart } from './heat-chart';
import { LoadForm } from './load-form';
import { SealsForm } from './seals-form';

const STANDS_WORDS = { met: 'meets its process', notMet: 'does not meet it', missing: 'lacks something' } as const;

/** The heat of a run: load by load against its process, point by point, and how its jars stand by it. */
@Component({
  selector: 'ct-run-heat',
  imports: [HeatChart, LoadForm, Mark, RouterLink, SealsForm, Waiting],
  template: `
    @if (read.data(); as r) {
      @if (r.processes.length > 0 || r.loads.length > 0) {
        <section class="stack rule">
          <h2>Heat</h2>
          @for (load of r.loads; track load.loadId) {
            <details [open]="load.stands !== 'met' && !load.anew">
              <summary>
                <span>Jars {{ load.first }} to {{ load.last }}: {{ load.process }}</span>
                @if (load.anew) {
                  <span class="soft">heated anew since</span>
                } @else {
                  <span [class.beet]="load.stands === 'notMet'" [class.mustard]="load.stands === 'missing'">{{
                    standsWords[load.stands]
                  }}</span>
                }
              </summary>
              <div class="stack">
                <p class="soft">
                  {{ house.dates().moment(load.startedAt) }} by {{ load.by }}{{ load.note ? ': ' + load.note : '' }}
                  @if (load.lethality) {
                    · {{ load.lethality }}
                  }
                </p>
                <ol [attr.aria-label]="'Jars ' + load.first + ' to ' + load.last + ', point by point'">
                  @for (row of load.rows; track row.key) {
                    <li [class.open]="row.state !== 'met'">
                      <ct-mark [kind]="row.state === 'met' ? 'met' : row.state === 'missing' ? 'due' : 'hold'"
                        ><span class="visually-hidden">{{
                          row.state === 'notMet' ? 'not met' : row.state
                        }}</span></ct-mark
                      >
                      <b>{{ row.words }}</b>
                      <span>{{ row.now }}</span>
                    </li>
                  }
                </ol>
                @if (load.points.length > 1) {
                  <ct-heat-chart [points]="load.points" [processC]="load.processC" />
                }
                @if (rights.mayRecord() && !load.seals && !load.anew) {
                  <ct-seals-form [loadId]="load.loadId" [first]="load.first" [last]="load.last" />
                }
              </div>
            </details>
          }
          @if (r.jars.length > 0) {
            <p>
              @for (one of r.jars; track one.first) {
                <span [class.beet]="one.held"
                  ><b class="figure">{{ one.first === one.last ? one.first : one.first + '–' + one.last }}</b>
                  {{ one.words }}{{ $last ? '.' : ';' }}
                </span>
              }
            </p>
          }
          @if (rights.mayRecord() && r.processes.length > 0) {
            @if (opened() || (r.loads.length === 0 && storage() === 'ambient')) {
              <ct-load-form
                [runLotId]="runLotId()"
                [code]="code()"
                [packedAt]="packedAt()"
                [jars]="jars()"
                [next]="next() ?? 1"
                [anew]="next() === null"
                [processes]="r.processes"
                (done)="opened.set(false)"
              />
            } @else {
              <p><button type="button" (click)="opened.set(true)">Write down a load …</button></p>
            }
          }
        </section>
      } @else if (storage() === 'ambient') {
        <section class="stack rule">
          <h2>Heat</h2>
          <p>No process is on file for it. <a routerLink="/heat">Processes on file</a></p>
        </section>
      }
    } @else {
      <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
    }
  `,
  styles: `
    summary {
      display: flex;
      flex-wrap: wrap;
      justify-content: space-between;
      gap: 4px 18px;
      min-height: 48px;
      padding: 10px 0;
      border-bottom: 1px solid var(--hair);
      font-weight: 700;
      cursor: pointer;
    }
    summary span:first-child::before {
      content: '+ ';
      font-family: var(--mono, monospace);
    }
    details[open] summary span:first-child::before {
      content: '− ';
    }
    li {
      display: grid;
      grid-template-columns: 26px minmax(170px, 5fr) minmax(0, 6fr);
      gap: 4px 14px;
      padding: 5px 0;
      border-bottom: 1px solid var(--hair);
    }
    .open {
      background: var(--mustard-wash);
      margin-inline: -8px;
      padding-inline: 8px;
    }
    @media (max-width: 700px) {
      li {
        grid-template-columns: 26px minmax(0, 1fr);
      }
      li > :nth-child(3) {
        grid-column: 2;
      }
    }
  `,
})
export class RunHeat {
  readonly code = input.required<string>();
  readonly runLotId = input.required<string>();
  readonly packedAt = input.required<string>();
  readonly jars = input.required<number>();
  readonly storage = input.required<'cold' | 'cellar' | 'ambient' | null>();
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly standsWords = STANDS_WORDS;
  protected readonly opened = signal(false);
  protected readonly read = shown<RunHeatReply>(computed(() => `/api/runs/${encodeURIComponent(this.code())}/heat`));
  /** The first jar that no load names yet; null: each stands in one. */
  protected readonly next = computed(() => {
    const last = Math.max(0, ...(this.read.data()?.loads ?? []).map((load) => load.last));
    return last < this.jars() ? last + 1 : null;
  });
}

import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { ABOVE_THE_LIMIT, ACID_BY, acidByRow, DEGREE_HOURS, LATE_CHECKLIST } from '@clear-tally/core';
import type { FloorReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { FigureInput } from '../../ui/figure-input';
import { Mark } from '../../ui/mark';
import { GuideNav } from './guide-nav';

/** Above the limit, what now: the steps, the vessels it is about, and when acid has to be there. */
@Component({
  selector: 'ct-above-limit',
  imports: [FigureInput, GuideNav, Mark, RouterLink],
  template: `
    <div class="page with-side">
      <div class="main stack">
        <ct-guide-nav />
        <h1>Above the limit, what now?</h1>
        <ol class="steps">
          @for (step of steps; track step.title) {
            <li>
              <b>{{ step.title }}.</b> {{ step.words }}
            </li>
          }
        </ol>
        <h2>What to look for</h2>
        <ul class="look">
          @for (one of checklist; track one) {
            <li>{{ one }}</li>
          }
        </ul>
        <p class="watch">
          In doubt, ask the local food authority or a qualified process authority:
          <a routerLink="/guide/cautions">contacts of this house</a>.
        </p>
        <section class="rule stack">
          <h2>When must the acid be there?</h2>
          <div class="row">
            <ct-figure label="Mean temperature" kind="celsius" [least]="-5" [most]="60" [(value)]="celsius" /><ct-figure
              label="Hours since filling"
              [least]="0"
              [most]="2000"
              [(value)]="hours"
            />
          </div>
          @if (row(); as r) {
            <p>
              {{ r.words }}: <b class="figure">{{ r.hours }} h</b> to reach pH 4.6, blended{{
                r.shorter ? ', as this house shortens it' : ''
              }}. With a logger also <b class="figure">{{ degreeHours.toLocaleString('en') }}</b> degree-hours above 4
              °C: at this temperature after <b class="figure">{{ r.byDegrees }} h</b>.
            </p>
            @if (hours() !== null) {
              <p>
                <ct-mark [kind]="r.late === 'no' ? 'met' : r.late === 'logger' ? 'watch' : 'hold'">{{
                  r.says
                }}</ct-mark>
              </p>
            }
          }
        </section>
      </div>
      <aside class="side stack" aria-label="Vessels above the limit">
        <h2>Above {{ limit() }} now</h2>
        @for (vessel of above(); track vessel.lotId) {
          <p>
            <a [routerLink]="['/lots', vessel.code]"
              ><b>{{ vessel.vesselTag }}</b> {{ vessel.name }}</a
            ><br /><span class="figure">{{ vessel.trend.ph === null ? 'no pH' : vessel.trend.ph.toFixed(2) }}</span> ·
            day {{ vessel.day }}<br />
            <ct-mark
              [kind]="
                vessel.lateness.state === 'late' || vessel.lateness.state === 'throwOut'
                  ? 'hold'
                  : vessel.lateness.state === 'pending'
                    ? 'due'
                    : 'met'
              "
              ><span class="small">{{
                vessel.lateness.state === 'pending'
                  ? '4.6 until ' + house.dates().moment(iso(vessel.lateness.deadline))
                  : vessel.lateness.state === 'late'
                    ? 'past its deadline'
                    : vessel.lateness.state === 'throwOut'
                      ? 'to be thrown out'
                      : '4.6 was reached in time'
              }}</span></ct-mark
            >
          </p>
        } @empty {
          <p class="soft">
            {{ read.data() ? 'Every vessel that was read stands at the limit or under it.' : 'Reading …' }}
          </p>
        }
      </aside>
    </div>
  `,
  styles:
    '.steps { list-style: decimal; padding-left: 24px; display: grid; gap: 8px; } .look { list-style: square; padding-left: 24px; columns: 2; }',
})
export class AboveLimit {
  protected readonly house = injectHouse();
  protected readonly read = shown<FloorReply>(signal('/api/floor'));
  protected readonly steps = ABOVE_THE_LIMIT;
  protected readonly checklist = LATE_CHECKLIST;
  protected readonly degreeHours = DEGREE_HOURS;
  protected readonly celsius = signal<number | null>(null);
  protected readonly hours = signal<number | null>(null);
  protected readonly limit = computed(() => this.house.house()?.acidLimit ?? 4.2);
  protected readonly above = computed(() =>
    (this.read.data()?.vessels ?? []).filter(({ trend }) => trend.ph === null || trend.ph > this.limit()),
  );
  protected readonly row = computed(() => {
    const [celsius, hours] = [this.celsius(), this.hours()];
    if (celsius === null) return null;
    const row = acidByRow(celsius, this.house.house()?.settings.acidByHours);
    const byDegrees = celsius > 4 ? Math.round(DEGREE_HOURS / (celsius - 4)) : Infinity;
    const degrees = hours === null ? 0 : Math.round(Math.max(0, celsius - 4) * hours);
    const late = hours === null ? 'no' : hours >= row.hours ? 'yes' : degrees >= DEGREE_HOURS ? 'logger' : 'no';
    const says = {
      no: `In time: ${Math.max(0, Math.round(row.hours - (hours ?? 0)))} h are left.`,
      logger: `${degrees.toLocaleString('en')} degree-hours: where that was read, already late. By the table ${Math.round(row.hours - (hours ?? 0))} h are left.`,
      yes: 'Past the deadline: the vessel is held unless a blended sample stood at 4.6 or lower before.',
    }[late];
    return { ...row, shorter: row.hours < ACID_BY.find(({ key }) => key === row.key)!.hours, byDegrees, late, says };
  });
  protected readonly iso = (at: number): string => new Date(at).toISOString();
}

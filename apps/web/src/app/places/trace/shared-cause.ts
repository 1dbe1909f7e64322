import { Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { CauseReply } from '@clear-tally/contract';
import { calendarDay, CAUSE_SAYS, CAUSE_WORDS } from '@clear-tally/core';
import { Api, type WireProblem } from '../../api/api';
import { AreaField } from '../../ui/area-field';
import { Mark } from '../../ui/mark';
import { Refusal } from '../../ui/refusal';
import { DeskNav } from './desk-nav';

type Cause = CauseReply['causes'][number];

/** Two bad jars or more: what have they in common that the good ones have not? */
@Component({
  selector: 'ct-shared-cause',
  imports: [AreaField, DeskNav, Mark, Refusal, RouterLink],
  template: `
    <div class="page with-side">
      <div class="main stack">
        <ct-desk-nav />
        <h1>What do the bad jars share?</h1>
        @if (reply(); as r) {
          <p class="soft">
            {{ r.compared }} lots, vessels, rooms, people, days and meters of {{ badRuns() }} were compared with those
            of {{ r.good }} runs packed within {{ r.days }} days.
          </p>
          @if (badRuns() === 1) {
            <p class="watch">
              One run alone: its jars share everything, and counting cannot tell what did it. Name jars of other runs
              that are bad too.
            </p>
          }
          <ol class="causes" aria-label="What they share, the most telling first">
            @for (cause of r.causes; track $index) {
              <li [class.telling]="cause.says !== 'mayBeChance'">
                <div class="what">
                  @for (trait of cause.traits; track $index) {
                    <p>
                      <span class="soft">{{ kinds[trait.kind] }}</span>
                      @if (trait.code) {
                        <b>{{ trait.words }}</b>
                        <a class="figure" [routerLink]="['/trace', trait.code]">{{ trait.code }}</a>
                      } @else {
                        <b>{{ worded(trait) }}</b>
                      }
                    </p>
                  }
                </div>
                <div class="counts">
                  <p>
                    <b class="figure">{{ cause.badWith }} of {{ cause.bad }}</b> bad
                    <span class="bar" aria-hidden="true"
                      ><span class="bad" [style.width.%]="(cause.badWith / cause.bad) * 100"></span
                    ></span>
                  </p>
                  <p>
                    <b class="figure">{{ cause.goodWith }} of {{ cause.good }}</b> others
                    <span class="bar" aria-hidden="true"
                      ><span [style.width.%]="cause.good ? (cause.goodWith / cause.good) * 100 : 0"></span
                    ></span>
                  </p>
                </div>
                <ct-mark [kind]="cause.says === 'mayBeChance' ? 'later' : 'watch'"
                  ><b>{{ says[cause.says] }}</b
                  ><br /><span class="soft small">{{ oneIn(cause) }}</span></ct-mark
                >
              </li>
            } @empty {
              <li class="soft">They share nothing that is in the book.</li>
            }
          </ol>
        } @else {
          <p class="note">
            Name the jars that are bad, a code a line. What their runs have in common (lots, vessels, rooms, people,
            days, meters, lids, labels) is counted against the runs packed around them; what is rare among the good ones
            comes first.
          </p>
        }
      </div>
      <aside class="side stack" aria-label="The bad jars">
        <form class="stack" (submit)="$event.preventDefault(); look()">
          <ct-area label="Bad jars, a code a line" [rows]="7" placeholder="NY26-327-A-01-00147-K" [(value)]="typed" />
          <button class="go" [disabled]="codes().length === 0 || asking()">
            {{ codes().length < 2 ? 'Compare' : 'Compare ' + codes().length }}
          </button>
          <ct-refusal [message]="problem()" />
        </form>
        @if (reply(); as r) {
          <h2>Bad</h2>
          @for (jar of r.bad; track jar.code) {
            <p>
              <a class="figure" [routerLink]="['/trace', jar.code]">{{ jar.code }}</a><br /><span class="soft small">{{
                jar.name
              }}</span>
            </p>
          }
        }
        <h2>How far this goes</h2>
        <p class="small soft">
          A run counts once. "By chance alone" is an exact count of how often so many of the bad would have a thing if
          it had nothing to do with it. Of a hundred things compared about one looks one in a hundred by chance; what is
          shared need not be the cause, and what is not in the book is not compared.
        </p>
      </aside>
    </div>
  `,
  styleUrl: './shared-cause.less',
})
export class SharedCause {
  /** Codes to begin with, from a complaint or a list. */
  readonly bad = input<string>();
  private readonly api = inject(Api);
  protected readonly kinds = CAUSE_WORDS;
  protected readonly says = CAUSE_SAYS;
  protected readonly typed = signal('');
  protected readonly asking = signal(false);
  protected readonly reply = signal<CauseReply | null>(null);
  protected readonly problem = signal<string | null>(null);
  protected readonly codes = computed(() => [
    ...new Set(
      this.typed()
        .split(/[\n,;]+/)
        .map((code) => code.trim())
        .filter(Boolean),
    ),
  ]);
  protected readonly badRuns = computed(() => new Set((this.reply()?.bad ?? []).map(({ run }) => run)).size);

  constructor() {
    effect(() => {
      const given = this.bad();
      untracked(() => {
        if (!given) return;
        this.typed.set(given.split(',').join('\n'));
        this.look();
      });
    });
  }

  protected look(): void {
    if (this.codes().length === 0) return;
    this.asking.set(true);
    this.problem.set(null);
    this.api.sharedCause(this.codes()).subscribe({
      next: (reply) => {
        this.reply.set(reply);
        this.asking.set(false);
      },
      error: (refusal: WireProblem) => {
        this.problem.set(refusal.detail);
        this.asking.set(false);
      },
    });
  }

  protected worded(trait: Cause['traits'][number]): string {
    return trait.kind === 'filledOn' || trait.kind === 'packedOn' ? calendarDay(trait.words) : trait.words;
  }

  protected oneIn({ p }: Cause): string {
    if (p >= 0.5) return 'most would have it anyway';
    return `by chance alone one in ${Math.round(1 / p).toLocaleString('en-GB')}`;
  }
}

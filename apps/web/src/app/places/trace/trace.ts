import { Component, computed, effect, inject, input, linkedSignal, signal, viewChild } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { counted, formatGrams } from '@clear-tally/core';
import type { RecallAheadReply, TraceReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Waiting } from '../../ui/waiting';
import { Crate } from '../recall/crate';
import { Asked, rememberAsked } from './asked';
import { DeskNav } from './desk-nav';
import { FoldedLots } from './folded-lots';
import { momentsOf, spreadBy } from './spread';
import { WayDrawing } from './way';
import { WentInto } from './went-into';
import { CodeField } from '../../ui/code-field';
import { Slide } from '../../ui/slide';
import { Tick } from '../../ui/tick';

/** Which jars, from what, in a second. */
@Component({
  selector: 'ct-trace',
  imports: [Asked, Crate, DeskNav, FoldedLots, RouterLink, Slide, Tick, Waiting, WayDrawing, WentInto, CodeField],
  templateUrl: './trace.html',
  styles: `
    .ask {
      display: flex;
      gap: 12px;
      align-items: flex-end;
      max-width: 700px;
    }
    .ask div {
      flex: 1;
    }
    .ask input {
      font-size: 24px;
      text-transform: uppercase;
    }
    .head {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 22px;
      align-items: baseline;
    }
    .looking {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 6px 26px;
      align-items: center;
    }
    .near button {
      font-family: var(--figures);
    }
    .below {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 452px;
      gap: 26px;
    }
    @media (max-width: 1000px) {
      .below,
      .looking {
        grid-template-columns: minmax(0, 1fr);
      }
      .below > div {
        overflow-x: auto;
      }
    }
  `,
})
export class Trace {
  readonly code = input<string>();
  private readonly router = inject(Router);
  protected readonly house = injectHouse();
  private readonly box = viewChild(CodeField);
  protected readonly typed = signal('');
  protected readonly unfolded = linkedSignal<string | undefined, string | null>({
    source: () => this.code(),
    computation: () => null,
  });
  protected readonly folded = computed(
    () =>
      (this.reply()?.nodes ?? []).some((node) => node.folded !== null) ||
      (this.reply()?.ranges ?? 0) > (this.reply()?.jars.length ?? 0),
  );
  protected readonly read = shown<TraceReply>(
    computed(() =>
      this.code() ? `/api/trace/${encodeURIComponent(this.code()!)}${this.carryOver() ? '?carryOver=yes' : ''}` : null,
    ),
  );
  /** Vessels that nobody cleaned between two fillings are followed too, where they are asked about. */
  protected readonly carryOver = linkedSignal<string | undefined, boolean>({
    source: () => this.code(),
    computation: () => false,
  });
  protected readonly reply = computed(() => (this.read.problem() ? null : this.read.data()));
  protected readonly nearMatches = computed(
    () => (this.read.problem()?.facts?.['nearMatches'] as string[] | undefined) ?? [],
  );
  protected readonly wordsOfProblem = computed(() => {
    const problem = this.read.problem();
    // A wrong code has its own words and near matches beside the field.
    return problem && problem.code.startsWith('code.') ? problem.detail : null;
  });
  protected readonly faults = computed(() => (this.wordsOfProblem() ? null : this.read.problem()));
  protected readonly supplies = computed(() =>
    (this.reply()?.nodes ?? [])
      .filter((node) => node.kind === 'supply' && node.folded === null)
      .sort((a, b) => b.grams - a.grams),
  );
  protected readonly wentOn = computed(() =>
    (this.reply()?.nodes ?? []).some((node) => node.forward && node.kind !== 'supply'),
  );
  private readonly moments = computed(() => momentsOf(this.reply() ?? { nodes: [] }));
  /** Spreading goes step by step: each moment at which something of it came into another lot. */
  protected readonly lastMoment = computed(() => this.moments().length - 1);
  protected readonly at = linkedSignal(() => Math.max(0, this.lastMoment()));
  protected readonly spread = computed(() => {
    const by = this.moments()[this.at()];
    const reply = this.reply();
    return reply && by && this.at() < this.lastMoment() ? { by, ...spreadBy(reply, by) } : null;
  });
  protected readonly spreadWords = computed(() => {
    const [by, reply] = [this.moments()[this.at()], this.reply()];
    if (!by || !reply) return '';
    const { batches, vessels, runs, jars } = spreadBy(reply, by);
    const parts = [
      [batches, batches === 1 ? '1 batch' : `${batches} batches`],
      [vessels, counted(vessels, 'vessel')],
      [runs, counted(runs, 'packing run')],
      [jars, counted(jars, 'jar')],
    ] as const;
    const named = parts.filter(([many]) => many > 0).map(([, words]) => words);
    const when = this.at() < this.lastMoment() ? `By ${this.house.dates().moment(by)}` : 'To this day';
    return `${when} in ${named.join(', ') || 'other supplies and preparations'}`;
  });
  /** Where the jars of a lot are now, by place. */
  private readonly aheadRead = shown<RecallAheadReply>(
    computed(() => {
      const of = this.reply();
      return of && of.subject.kind !== 'jar' && of.jarCount > 0
        ? `/api/recall-ahead?code=${encodeURIComponent(this.code()!)}&scope=descendants`
        : null;
    }),
  );
  protected readonly ahead = computed(() => (this.aheadRead.problem() ? null : (this.aheadRead.data() ?? null)));
  protected readonly places = computed(() => this.ahead()?.places ?? []);
  protected readonly mass = (grams: number): string => formatGrams(grams);
  protected readonly counted = counted;

  constructor() {
    effect(() => {
      this.typed.set(this.code() ?? '');
      if (!this.code()) this.box()?.focus();
    });
    effect(() => {
      const of = this.reply()?.subject;
      if (of) rememberAsked({ code: of.code, title: of.title });
    });
  }

  protected go(code: string): void {
    if (code.trim()) void this.router.navigate(['/trace', code.trim()]);
  }
}

import { Component, computed, effect, inject, input, linkedSignal, signal, viewChild } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { formatGrams } from '@clear-tally/core';
import type { RecallAheadReply, TraceReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Waiting } from '../../ui/waiting';
import { Crate } from '../recall/crate';
import { Asked, rememberAsked } from './asked';
import { DeskNav } from './desk-nav';
import { FoldedLots } from './folded-lots';
import { WayDrawing } from './way';
import { WentInto } from './went-into';
import { CodeField } from '../../ui/code-field';

/** Which jars, from what, in a second. */
@Component({
  selector: 'ct-trace',
  imports: [Asked, Crate, DeskNav, FoldedLots, RouterLink, Waiting, WayDrawing, WentInto, CodeField],
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
    .near button {
      font-family: var(--figures);
    }
    .below {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 452px;
      gap: 26px;
    }
    @media (max-width: 1000px) {
      .below {
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
    computed(() => (this.code() ? `/api/trace/${encodeURIComponent(this.code()!)}` : null)),
  );
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

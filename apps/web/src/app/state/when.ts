import { computed, effect, inject, Injectable, InjectionToken, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import type { EntryKind } from '@clear-tally/contract';
import { sessionFeature } from './session';
import { remember, remembered } from './tablet';

/** Whoever forgets that a past moment is set records today's work under it: so long after the last entry it ends by itself. */
const ENDS_AFTER_MS = 20 * 60_000;
/** Entries of one typed minute keep their order; there is room for so many. */
const MOST_IN_A_MINUTE = 59_999;

/** What is said at the moment it is said: settings, signatures, holds, timers, labels. A past moment is nothing to them. */
const OF_NOW: ReadonlySet<string> = new Set<EntryKind>([
  'entry.correct',
  'formula.retire',
  'formula.save',
  'heat.process',
  'heat.processEnd',
  'heat.load',
  'hold.lift',
  'hold.place',
  'house.rule',
  'house.set',
  'label.design',
  'label.jars',
  'label.print',
  'label.tally',
  'complaint.close',
  'lot.open',
  'material.add',
  'material.change',
  'meter.add',
  'order.close',
  'order.take',
  'person.add',
  'person.change',
  'person.leave',
  'plan.change',
  'recall.answer',
  'recall.close',
  'recall.notice',
  'recall.open',
  'room.add',
  'room.change',
  'run.release',
  'run.withdraw',
  'salt.confirm',
  'supplier.add',
  'customer.add',
  'customer.change',
  'timer.start',
  'timer.stop',
  'vessel.add',
  'vessel.change',
]);

/** Forms called by what they do, not by what they record. */
const FORMS_OF_NOW: ReadonlySet<string> = new Set([
  'take back',
  'customer',
  'contacts',
  'founding.materials',
  'founding.formula',
  'vessel',
  'room.add',
  'hold',
  'lift',
  'plan',
  'limits',
  'meter',
  'person',
  'salt bands',
  'complaint.hold',
  'material',
  'timer',
]);

/** Whether a kind of entry, or a form, is about the moment it is said at. */
export const isOfNow = (name: string): boolean => OF_NOW.has(name) || FORMS_OF_NOW.has(name);

/** A page that says once, at its head, when it happened: its forms do not say it again. */
export const SAYS_WHEN = new InjectionToken<true>('says when');

const KEY = 'ct.when';
const inThisWindow = (): Storage => sessionStorage;

/** A past moment as it outlives a reload: whose it is, when it was last used, and how many entries it has. */
interface Kept {
  readonly at: number;
  readonly given: number;
  readonly by: string;
  readonly used: number;
}

/**
 * When it happened what is recorded here: now, or a past moment that somebody chose. It holds for the whole window, also
 * over a reload, so that a round of last evening is typed vessel by vessel, and is shown on every page until it is now again.
 */
@Injectable({ providedIn: 'root' })
export class When {
  private readonly chosen = signal<number | null>(null);
  private readonly person = inject(Store).selectSignal(sessionFeature.selectPerson);
  private given = 0;
  private ends: ReturnType<typeof setTimeout> | undefined;

  /** The past moment, or null: now. */
  readonly at = computed(() => this.chosen());

  constructor() {
    let before: string | undefined;
    const change = (now: string | undefined): void => {
      if (now === before) return;
      before = now;
      this.takeUp(now);
    };
    change(untracked(this.person)?.id);
    effect(() => {
      const now = this.person()?.id;
      untracked(() => change(now));
    });
  }

  choose(at: number | null): void {
    this.given = 0;
    this.chosen.set(at);
    this.endLater();
    this.keep();
  }

  /** The moment of the next entry. What is typed one after the other of one minute stays in that order. */
  next(): Date {
    const at = untracked(this.chosen);
    if (at === null) return new Date();
    this.endLater();
    this.given += 1;
    this.keep();
    return new Date(at + Math.min(this.given - 1, MOST_IN_A_MINUTE));
  }

  /** Another person begins with now; whoever was here a moment ago, before a reload or a lost session, goes on as of then. */
  private takeUp(by: string | undefined): void {
    const kept = remembered<Kept | null>(KEY, null, inThisWindow);
    // What is no moment, whoever wrote it there, is none.
    const left = kept && Number.isFinite(kept.at) ? kept.used + ENDS_AFTER_MS - Date.now() : 0;
    if (by === undefined) this.chosen.set(null);
    else if (kept?.by !== by || !(left > 0 && left <= ENDS_AFTER_MS)) this.choose(null);
    else {
      this.given = Number(kept.given) || 0;
      this.chosen.set(kept.at);
      this.endLater(left);
    }
  }

  private endLater(ms = ENDS_AFTER_MS): void {
    clearTimeout(this.ends);
    if (untracked(this.chosen) !== null) this.ends = setTimeout(() => this.choose(null), ms);
  }

  private keep(): void {
    const [at, by] = [untracked(this.chosen), untracked(this.person)?.id];
    const kept: Kept | null = at === null || !by ? null : { at, given: this.given, by, used: Date.now() };
    remember(KEY, kept, inThisWindow);
  }
}

import { computed, effect, inject, Injectable, InjectionToken, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import type { EntryKind } from '@clear-tally/contract';
import { sessionFeature } from './session';

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

/**
 * When it happened what is recorded here: now, or a past moment that somebody chose. It holds for the whole page, so that
 * a round of last evening is typed vessel by vessel, and is shown on every page until it is now again.
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
    // Another person at this tablet begins with now.
    let before = untracked(this.person)?.id;
    effect(() => {
      const now = this.person()?.id;
      if (now !== before) this.choose(null);
      before = now;
    });
  }

  choose(at: number | null): void {
    this.given = 0;
    this.chosen.set(at);
    this.endLater();
  }

  /** The moment of the next entry. What is typed one after the other of one minute stays in that order. */
  next(): Date {
    const at = untracked(this.chosen);
    if (at === null) return new Date();
    this.endLater();
    this.given += 1;
    return new Date(at + Math.min(this.given - 1, MOST_IN_A_MINUTE));
  }

  private endLater(): void {
    clearTimeout(this.ends);
    if (untracked(this.chosen) !== null) this.ends = setTimeout(() => this.choose(null), ENDS_AFTER_MS);
  }
}

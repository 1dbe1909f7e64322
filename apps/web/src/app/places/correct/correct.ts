import { Component, computed, effect, ElementRef, inject, input, signal, viewChild } from '@angular/core';
import { Choices } from '../../ui/choices';
import { RecordButton } from '../../ui/record-button';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Router, RouterLink } from '@angular/router';
import { firstValueFrom } from 'rxjs';
import type { BodyOf, CodeReply, CorrectionReply, EntryReply } from '@clear-tally/contract';
import { Api, type WireProblem } from '../../api/api';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { DayField } from '../../ui/day-field';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { Waiting } from '../../ui/waiting';
import { CorrectField } from './correct-field';
import { fieldsOf, type Path, valueAt, withOffered, withValue } from './fields';
import { localMoment, momentAt } from '../../ui/moment-at';
import { untilChosen } from '../../state/until-chosen';

/** Puts one entry right: its own form, filled with what was recorded; what that changes is said before anybody confirms. */
@Component({
  selector: 'ct-correct',
  imports: [Choices, CorrectField, DayField, Refusal, RouterLink, TextField, Waiting, RecordButton, TypedBeforeNote],
  templateUrl: './correct.html',
  styles: `
    .fields {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
      gap: 18px 22px;
      align-items: start;
    }
    .when {
      display: flex;
      gap: 14px;
    }
    .when ct-text {
      width: 110px;
    }
    del {
      color: var(--beet);
      margin-right: 10px;
    }
    td:first-child {
      white-space: nowrap;
    }
  `,
})
export class Correct {
  readonly entryId = input.required<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly read = shown<EntryReply>(computed(() => `/api/entries/${this.entryId()}`));
  protected readonly entry = this.read.data;
  protected readonly kindWords = computed(() => this.entry()?.what ?? '');
  protected readonly body = untilChosen(() => this.entry()?.body ?? {}, this.entryId);
  protected readonly codes = signal<Record<string, string>>({});
  protected readonly never = signal(false);
  protected readonly form = recordingForm('entry.correct', {
    fields: { reason: '' },
    about: this.entryId,
    recorded: ([recorded]) => {
      this.done.set((recorded?.facts ?? null) as CorrectionReply | null);
      this.read.again();
    },
  });
  protected readonly reason = this.form.values.reason;
  private readonly changes = viewChild<ElementRef<HTMLElement>>('changes');
  private readonly zone = computed(() => this.house.house()?.timeZone ?? 'UTC');
  private readonly recordedAt = computed(() =>
    localMoment(this.entry()?.happenedAt ?? new Date().toISOString(), this.zone()),
  );
  protected readonly day = untilChosen(() => this.recordedAt().day, this.entryId);
  protected readonly time = untilChosen(() => this.recordedAt().time, this.entryId);
  protected readonly happenedAt = computed(() => {
    const now = this.entry()?.happenedAt;
    const { day, time } = this.recordedAt();
    return this.day() === day && this.time() === time ? (now ?? null) : momentAt(this.day(), this.time(), this.zone());
  });
  protected readonly fields = computed(() =>
    this.entry() ? fieldsOf(this.entry()!.kind, this.body(), this.entry()!.names, this.entry()!.choices) : [],
  );
  protected readonly looked = signal<CorrectionReply | null>(null);
  protected readonly looking = signal(false);
  protected readonly refusal = signal<WireProblem | null>(null);
  protected readonly done = signal<CorrectionReply | null>(null);
  protected readonly mayCorrect = computed(
    () => this.rights.mayRecord() && (!this.entry()?.ownerOnly || this.rights.isOwner()),
  );
  protected readonly missing = computed(() =>
    this.happenedAt() === null
      ? 'The time reads like 14:05.'
      : this.reason().trim() === ''
        ? 'Write the reason: it stays in the book beside both.'
        : null,
  );
  protected readonly valueAt = valueAt;
  protected readonly keyOf = (path: Path): string => path.join('.');

  constructor() {
    // What is confirmed is read before: a long form must not leave it below the button.
    effect(() => this.changes()?.nativeElement.scrollIntoView({ block: 'start' }));
  }

  protected problemAt(path: Path): string | null {
    const problem = this.refusal();
    return problem?.field === `instead.body.${path.join('.')}` ? problem.detail : null;
  }
  /** A later entry that cannot have been with this one. */
  protected readonly stands = computed(() => {
    const facts = (this.refusal() ?? { facts: this.form.facts() }).facts as
      { entryId?: string; what?: string; when?: string } | null | undefined;
    return facts?.entryId && facts.entryId !== this.entryId()
      ? { entryId: facts.entryId, what: facts.what ?? '', when: facts.when ?? '' }
      : null;
  });
  /** What belongs to no field that is shown. */
  protected readonly problem = computed(() => {
    const problem = this.refusal();
    if (!problem) return this.form.problem();
    return this.fields().some(({ path }) => this.problemAt(path)) ? null : problem.detail;
  });

  protected change(path: Path, value: unknown): void {
    this.body.update((body) => withValue(body, path, value));
    this.body.update((body) => withOffered(body, this.fields()));
    this.typed();
  }

  protected typeCode(path: Path, code: string): void {
    this.codes.update((codes) => ({ ...codes, [this.keyOf(path)]: code }));
    this.typed();
  }

  /** What was looked at is of what was typed then. */
  protected typed(): void {
    this.looked.set(null);
    this.refusal.set(null);
    this.form.edited();
  }

  protected async look(): Promise<void> {
    if (this.missing() || this.looking()) return;
    this.looking.set(true);
    this.refusal.set(null);
    try {
      await this.findLots();
      this.looked.set(await firstValueFrom(this.api.lookAtCorrection(this.correction())));
    } catch (problem) {
      this.refusal.set(problem as WireProblem);
    } finally {
      this.looking.set(false);
    }
  }

  /** Codes typed for lots are looked up in the house. */
  private async findLots(): Promise<void> {
    for (const { path, type } of this.fields()) {
      const code = this.codes()[this.keyOf(path)];
      if (type !== 'lot' || code === undefined) continue;
      try {
        const found = (await firstValueFrom(
          this.api.read(`/api/codes/${encodeURIComponent(code.trim())}`),
        )) as CodeReply;
        this.body.update((body) => withValue(body, path, found.lotId));
      } catch (problem) {
        throw { ...(problem as WireProblem), field: `instead.body.${this.keyOf(path)}` };
      }
    }
  }

  private correction() {
    const { kind } = this.entry()!;
    const instead: BodyOf<'entry.correct'>['instead'] = this.never()
      ? null
      : { kind, happenedAt: this.happenedAt()!, body: this.body() };
    return this.form.entry('entry.correct', { corrects: this.entryId(), reason: this.reason().trim(), instead });
  }

  protected confirm(): void {
    this.form.record(this.correction());
  }

  protected back(): void {
    void (history.length > 1 ? history.back() : this.router.navigateByUrl('/the-book'));
  }
}

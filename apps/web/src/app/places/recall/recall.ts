import { Component, computed, effect, input, signal, untracked } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RouterLink } from '@angular/router';
import type { BodyOf, RecallReply } from '@clear-tally/contract';
import { type Answer, ANSWER_WORDS, ANSWERS, noticeWords, RECALL_SCOPE_WORDS } from '@clear-tally/core';
import { ticking } from '../../state/clock';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { clockWords } from '../../state/timers';
import { Events, type HappenedThen } from '../../ui/events';
import { AreaField } from '../../ui/area-field';
import { CountInput } from '../../ui/count-input';
import { Mark } from '../../ui/mark';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Waiting } from '../../ui/waiting';
import { DeskNav } from '../trace/desk-nav';
import { Crate, CrateFigures, Reached } from './crate';

type How = BodyOf<'recall.notice'>['how'];
const HOWS: Readonly<Record<string, string>> = { mail: 'mail', phone: 'telephone', paper: 'paper' };

/** A recall as a crate of jars: each is crossed when it is accounted for; what is left is the work that is left. */
@Component({
  selector: 'ct-recall',
  imports: [
    Events,
    AreaField,
    CountInput,
    Crate,
    CrateFigures,
    DeskNav,
    FormField,
    Mark,
    Reached,
    RecordButton,
    Refusal,
    RouterLink,
    Select,
    TextField,
    TypedBeforeNote,
    Waiting,
  ],
  templateUrl: './recall.html',
  styles: `
    .head {
      display: flex;
      gap: 20px;
      justify-content: space-between;
      align-items: baseline;
    }
    .clock {
      font-size: 38px;
      font-weight: 700;
      white-space: nowrap;
    }
    .answers {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
    }
  `,
})
export class Recall {
  readonly code = input.required<string>();
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  private readonly now = ticking();
  protected readonly read = shown<RecallReply>(computed(() => `/api/recalls/${encodeURIComponent(this.code())}`));
  protected readonly chosen = signal<string | null>(null);
  protected readonly place = computed(() => this.read.data()?.places.find(({ key }) => key === this.chosen()) ?? null);
  protected readonly scopeWords = RECALL_SCOPE_WORDS;
  protected readonly answerWords = ANSWER_WORDS;
  protected readonly answers = ANSWERS.map((key) => [key, ANSWER_WORDS[key]] as const);
  protected readonly hows = HOWS;
  protected readonly howOptions = Object.entries(HOWS) as [How, string][];
  protected readonly copied = signal(false);

  protected happened(of: RecallReply): HappenedThen[] {
    const moment = (at: string): string => this.house.dates().moment(at);
    const told = of.places.flatMap(({ notice }) => (notice ? [notice.at] : [])).sort();
    return [
      { what: 'Word came', when: moment(of.heardAt) },
      { what: 'List complete', when: `${moment(of.openedAt)}, ${of.by}` },
      ...(told.length > 0 ? [{ what: 'Customers told, last', when: moment(told.at(-1)!) }] : []),
      of.closed
        ? { what: 'Closed', when: `${moment(of.closed.at)}, ${of.closed.by}` }
        : { what: 'Closed', when: of.open > 0 ? `${of.open} jars still open` : 'not yet', open: true },
    ];
  }

  /** From the moment word came until it is closed. */
  protected readonly clock = computed(() => {
    const of = this.read.data();
    if (!of) return '';
    const end = of.closed ? Date.parse(of.closed.at) : this.now();
    return clockWords(Math.max(0, Math.round((end - Date.parse(of.heardAt)) / 1000)));
  });

  private readonly about = computed(() => `${this.code()} ${this.chosen() ?? ''}`);
  protected readonly notice = recordingForm('recall.notice', {
    fields: { words: '', how: 'mail' as How },
    about: this.about,
  });
  protected readonly answering = recordingForm('recall.answer', {
    fields: { count: null as number | null, note: '' },
    about: this.about,
    recorded: () => {
      const v = this.answering.values;
      v.count.set(null);
      v.note.set('');
    },
  });
  protected readonly closing = recordingForm('recall.close', {
    fields: { outcome: '', rest: '' },
    about: this.code,
  });

  /** What the notice would say by itself. */
  private readonly usual = computed(() => {
    const [of, place] = [this.read.data(), this.place()];
    if (!of || !place) return '';
    const names = [...new Set(place.stretches.map(({ name }) => name))];
    return noticeWords({
      house: this.house.house()?.name ?? '',
      drill: of.drill,
      customer: place.name,
      what: names.join(', '),
      reason: of.reason,
      jars: place.jars,
      codes: place.stretches.map(
        ({ name, count, sizeMl, first, last }) =>
          `${name}, ${count} × ${sizeMl} mL: ${count === 1 ? first : `${first} to ${last}`}`,
      ),
      contact: null,
    });
  });
  protected readonly words = computed(() => this.notice.values.words() || this.place()?.notice?.words || this.usual());
  protected readonly unsent = computed(() =>
    (this.read.data()?.places ?? []).filter(({ kind, notice }) => kind === 'customer' && !notice).map(({ key }) => key),
  );
  protected readonly mailTo = computed(() => {
    const address = /[^\s<>,;]+@[^\s<>,;]+/.exec(this.place()?.contact ?? '')?.[0];
    const subject = `${this.read.data()?.drill ? 'Drill: ' : ''}Recall ${this.code()}`;
    return address
      ? `mailto:${address}?subject=${encodeURIComponent(subject)}&body=${encodeURIComponent(this.words())}`
      : null;
  });

  constructor() {
    effect(() => {
      this.chosen();
      untracked(() => this.copied.set(false));
    });
  }

  protected async copy(): Promise<void> {
    await navigator.clipboard?.writeText(this.words()).catch(() => undefined);
    this.copied.set(true);
  }

  protected send(customerIds: string[]): void {
    const of = this.read.data();
    if (!of || customerIds.length === 0) return;
    const own = this.notice.values.words().trim();
    this.notice.record(
      this.notice.entry('recall.notice', {
        recallId: of.recallId,
        customerIds,
        how: this.place() ? this.notice.values.how() : 'mail',
        words: this.place() ? own || this.usual() : null,
      }),
    );
  }

  protected answer(answer: Answer): void {
    const [of, place] = [this.read.data(), this.place()];
    const { count, note } = this.answering.values;
    if (!of || !place) return;
    this.answering.record(
      this.answering.entry('recall.answer', {
        recallId: of.recallId,
        place: place.key,
        count: count() ?? place.unanswered,
        answer,
        note: note().trim() || null,
      }),
    );
  }

  protected close(): void {
    const of = this.read.data();
    const { outcome, rest } = this.closing.values;
    if (!of || !outcome().trim()) return;
    this.closing.record(
      this.closing.entry('recall.close', {
        recallId: of.recallId,
        outcome: outcome().trim(),
        restReason: rest().trim() || null,
      }),
    );
  }
}

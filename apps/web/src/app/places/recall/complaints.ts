import { Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RouterLink } from '@angular/router';
import type { ComplaintsReply, RunReply } from '@clear-tally/contract';
import {
  COMPLAINT_OUTCOME_WORDS,
  COMPLAINT_OUTCOMES,
  COMPLAINT_WORDS,
  complaintHolds,
  type ComplaintKind,
  type ComplaintOutcome,
  COMPLAINTS,
  readJarCode,
} from '@clear-tally/core';
import { Api, type WireProblem } from '../../api/api';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Sure } from '../../ui/sure';
import { AreaField } from '../../ui/area-field';
import { CodeField } from '../../ui/code-field';
import { Mark } from '../../ui/mark';
import { PhotoField } from '../../ui/photo-field';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Waiting } from '../../ui/waiting';
import { DeskNav } from '../trace/desk-nav';

type Row = ComplaintsReply['complaints'][number];

/** What was said of jars: on the code of the jar, with what it holds at once, and what came of it. */
@Component({
  selector: 'ct-complaints',
  imports: [
    Sure,
    AreaField,
    Cell,
    CodeField,
    DeskNav,
    FormField,
    Mark,
    PhotoField,
    RecordButton,
    Refusal,
    RouterLink,
    Select,
    Table,
    TextField,
    Tick,
    TypedBeforeNote,
    Waiting,
  ],
  templateUrl: './complaints.html',
  styles:
    '.name { border: 0; background: none; padding: 4px 0; min-height: 40px; text-align: left; } img { max-width: 100%; border: 1px solid var(--hair); }',
})
export class Complaints {
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  private readonly api = inject(Api);
  protected readonly read = shown<ComplaintsReply>(signal('/api/complaints'));
  protected readonly chosen = signal<string | null>(null);
  protected readonly one = computed(
    () => this.read.data()?.complaints.find(({ complaintId }) => complaintId === this.chosen()) ?? null,
  );
  protected readonly whatWords = COMPLAINT_WORDS;
  protected readonly outcomeWords = COMPLAINT_OUTCOME_WORDS;
  protected readonly whats = COMPLAINTS.map((key) => [key, COMPLAINT_WORDS[key]] as const);
  protected readonly outcomes = COMPLAINT_OUTCOMES.map((key) => [key, COMPLAINT_OUTCOME_WORDS[key]] as const);
  protected readonly keyOf = ({ complaintId }: Row): string => complaintId;
  protected readonly isClosed = ({ closed }: Row): boolean => closed !== null;
  protected readonly columns: readonly Column<Row>[] = [
    { key: 'code', head: 'Complaint', value: ({ code }) => code, width: '130px' },
    { key: 'at', head: 'When', kind: 'day', value: ({ at }) => at, width: '130px' },
    { key: 'what', head: 'What', value: ({ what }) => COMPLAINT_WORDS[what], width: '190px' },
    { key: 'name', head: 'Product', value: ({ name }) => name },
    { key: 'jar', head: 'Jar', value: ({ jar, run }) => jar ?? run, width: '210px' },
    { key: 'words', head: 'Words', value: ({ words }) => words, aside: true },
    {
      key: 'state',
      head: 'Stands',
      value: ({ closed, runHeld }) =>
        closed ? COMPLAINT_OUTCOME_WORDS[closed.outcome] : runHeld ? 'run held' : 'open',
      width: '130px',
    },
  ];

  private complaintId = newId();
  protected readonly form = recordingForm('complaint.take', {
    fields: {
      what: null as ComplaintKind | null,
      words: '',
      hold: false,
      noHold: false,
      noHoldReason: '',
    },
    recorded: () => {
      this.chosen.set(this.complaintId);
      this.complaintId = newId();
      const v = this.form.values;
      v.what.set(null);
      v.words.set('');
      v.noHoldReason.set('');
      for (const tick of [v.hold, v.noHold]) tick.set(false);
      this.jarCode.set('');
      this.photo.set(null);
    },
  });
  protected readonly jarCode = signal('');
  protected readonly photo = signal<string | null>(null);
  /** The run and, where one jar is named, its number; a wrong check character is said at once. */
  protected readonly jar = computed(() => {
    const text = this.jarCode().trim();
    if (text.length < 6) return null;
    const read = readJarCode(text);
    if (!read) return { run: text.toUpperCase(), serial: null, problem: null };
    return read.ok
      ? { run: read.value.run, serial: read.value.serial, problem: null }
      : { run: null, serial: null, problem: read.refusal.message };
  });
  protected readonly runRead = shown<RunReply>(
    computed(() => {
      const run = this.jar()?.run;
      return run ? `/api/runs/${encodeURIComponent(run)}` : null;
    }),
  );
  protected readonly run = computed(() => (this.runRead.problem() ? null : (this.runRead.data() ?? null)));
  protected readonly grave = computed(() => {
    const what = this.form.values.what();
    return what !== null && complaintHolds(what);
  });
  protected readonly needs = computed(() => {
    const v = this.form.values;
    return [
      !this.run() && 'the jar or its run',
      !v.what() && 'what it is',
      !v.words().trim() && 'their words',
      this.grave() && v.noHold() && !v.noHoldReason().trim() && 'why nothing is held',
    ];
  });

  protected readonly holding = recordingForm('complaint.hold');
  protected readonly closing = recordingForm('complaint.close', {
    fields: { outcome: null as ComplaintOutcome | null, words: '' },
    about: computed(() => this.chosen() ?? ''),
  });
  protected readonly contact = signal<string | null>(null);
  protected readonly contactProblem = signal<string | null>(null);

  constructor() {
    effect(() => {
      this.chosen();
      untracked(() => {
        this.contact.set(null);
        this.contactProblem.set(null);
      });
    });
  }

  /** Jars of a run that were complained of, for the question what they share. */
  protected jarsOf(run: string): string {
    const all = (this.read.data()?.complaints ?? []).filter((one) => one.run === run);
    return [...new Set(all.map(({ jar }) => jar ?? run))].join(',');
  }

  protected take(): void {
    const v = this.form.values;
    const run = this.run();
    if (!run || !v.what()) return;
    const hold = this.grave() ? !v.noHold() : v.hold();
    this.form.record(
      this.form.entry('complaint.take', {
        complaintId: this.complaintId,
        runLotId: run.run.lotId,
        serial: this.jar()?.serial ?? null,
        what: v.what()!,
        words: v.words().trim(),
        photo: this.photo(),
        hold,
        noHoldReason: this.grave() && !hold ? v.noHoldReason().trim() || null : null,
      }),
    );
  }

  protected hold(of: Row): void {
    this.holding.record(
      this.holding.entry('hold.place', {
        lotId: of.runLotId,
        reason: `Complaint ${of.code}: ${COMPLAINT_WORDS[of.what]}`,
      }),
    );
  }

  protected close(of: Row): void {
    const { outcome, words } = this.closing.values;
    if (!outcome() || !words().trim()) return;
    this.closing.record(
      this.closing.entry('complaint.close', {
        complaintId: of.complaintId,
        outcome: outcome()!,
        words: words().trim(),
      }),
    );
  }

  protected keepContact(of: Row): void {
    this.writeContact(of, this.contact()!.trim());
  }

  protected deleteContact(of: Row): void {
    this.writeContact(of, null);
  }

  private writeContact(of: Row, words: string | null): void {
    this.contactProblem.set(null);
    this.api.complaintContact(of.complaintId, words).subscribe({
      next: () => {
        this.contact.set(null);
        this.read.again();
      },
      error: (refusal: WireProblem) => this.contactProblem.set(refusal.detail),
    });
  }
}

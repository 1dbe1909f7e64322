import { Component, computed, inject, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Router, RouterLink } from '@angular/router';
import type { RecallAheadReply, RecallsReply } from '@clear-tally/contract';
import { RECALL_SCOPE_WORDS, RECALL_SCOPES, type RecallScope } from '@clear-tally/core';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Choice } from '../../ui/choice';
import { CodeField } from '../../ui/code-field';
import { localMoment, momentAt } from '../../ui/moment-at';
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
import { Crate, CrateFigures, Reached } from './crate';

type Row = RecallsReply['recalls'][number];

/** From a supplier's message to the list of every jar, before anything is held; and every recall and drill there was. */
@Component({
  selector: 'ct-recalls',
  imports: [
    Cell,
    Choice,
    CodeField,
    Crate,
    CrateFigures,
    DeskNav,
    FormField,
    Reached,
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
  templateUrl: './recalls.html',
})
export class Recalls {
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  private readonly router = inject(Router);
  protected readonly read = shown<RecallsReply>(signal('/api/recalls'));
  protected readonly scopes = RECALL_SCOPES.map((key) => [key, RECALL_SCOPE_WORDS[key]] as const);
  private recallId = newId();
  protected readonly form = recordingForm('recall.open', {
    fields: {
      supply: '',
      scope: 'descendants' as RecallScope,
      carryOver: false,
      reason: '',
      source: '',
      heard: '',
    },
    recorded: (recorded) => {
      this.recallId = newId();
      void this.router.navigate(['/recalls', String(recorded[0]?.facts['code'] ?? '')]);
    },
  });
  protected readonly code = signal('');
  protected readonly supplies = computed(() =>
    (this.read.data()?.supplies ?? []).map(({ lotId, code, name, supplier, theirs }) => ({
      id: lotId,
      label: `${name} ${theirs ?? code}`,
      detail: [supplier, code].filter(Boolean).join(', '),
    })),
  );
  /** The code that is asked about: typed, else of the supply that was chosen. */
  protected readonly wanted = computed(() => {
    const typed = this.code().trim();
    if (typed.length > 1) return typed;
    return this.read.data()?.supplies.find(({ lotId }) => lotId === this.form.values.supply())?.code ?? null;
  });
  protected readonly aheadRead = shown<RecallAheadReply>(
    computed(() => {
      const code = this.wanted();
      return code === null
        ? null
        : `/api/recall-ahead?code=${encodeURIComponent(code)}&scope=${this.form.values.scope()}&carryOver=${this.form.values.carryOver() ? 'yes' : 'no'}`;
    }),
  );
  protected readonly ahead = computed(() => (this.aheadRead.problem() ? null : this.aheadRead.data()));
  /** A time of today; later than now it was yesterday's. */
  private readonly heardAt = computed(() => {
    const typed = this.form.values.heard().trim();
    const zone = this.house.house()?.timeZone ?? 'UTC';
    if (typed === '') return new Date().toISOString();
    const at = momentAt(localMoment(new Date().toISOString(), zone).day, typed, zone);
    if (at === null || Date.parse(at) <= Date.now()) return at;
    return new Date(Date.parse(at) - 86_400_000).toISOString();
  });
  protected readonly needs = computed(() => [
    !this.form.values.reason().trim() && 'why',
    this.heardAt() === null && 'the time word came, as 09:40',
  ]);
  protected readonly columns: readonly Column<Row>[] = [
    { key: 'code', head: 'Recall', value: ({ code }) => code },
    { key: 'what', head: 'Of', value: ({ what, lotCode }) => `${what}, ${lotCode}` },
    { key: 'opened', head: 'Opened', kind: 'moment', value: ({ openedAt }) => openedAt },
    {
      key: 'list',
      head: 'List after, min',
      kind: 'number',
      places: 1,
      value: ({ minutesToList }) => minutesToList,
      width: '140px',
    },
    { key: 'jars', head: 'Jars', kind: 'number', value: ({ jars }) => jars },
    { key: 'open', head: 'Open', kind: 'number', value: ({ open }) => open, aside: true },
    { key: 'closed', head: 'Closed', kind: 'day', value: ({ closedAt }) => closedAt },
  ];
  protected readonly keyOf = ({ recallId }: Row): string => recallId;
  protected readonly isClosed = ({ closedAt }: Row): boolean => closedAt !== null;

  protected open(drill: boolean): void {
    const of = this.ahead()?.subject;
    const heardAt = this.heardAt();
    const v = this.form.values;
    if (!of || !heardAt || !v.reason().trim()) return;
    this.form.record(
      this.form.entry('recall.open', {
        recallId: this.recallId,
        lotId: of.lotId,
        scope: v.scope(),
        carryOver: v.carryOver(),
        drill,
        reason: v.reason().trim(),
        source: v.source().trim() || null,
        heardAt,
      }),
    );
  }
}

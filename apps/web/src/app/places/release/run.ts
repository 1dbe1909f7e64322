import { Component, computed, inject, input, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  counted,
  GAS_SAYS,
  formatGrams,
  GAS_WORDS,
  RUN_CHECK_WORDS,
  type ReleaseKey,
  type RunCheckKind,
  type RunCheckSays,
  STORAGE_WORDS,
  STORAGES,
} from '@clear-tally/core';
import type { RunReply } from '@clear-tally/contract';
import { Api, type WireProblem } from '../../api/api';
import { recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { sessionFeature } from '../../state/session';
import { shown } from '../../state/shown';
import { Choices } from '../../ui/choices';
import { CountInput } from '../../ui/count-input';
import { Mark } from '../../ui/mark';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { SecretField } from '../../ui/secret-field';
import { TextField } from '../../ui/text-field';
import { TypedBeforeNote } from '../../ui/typed-before';
import { Waiting } from '../../ui/waiting';
import { HoldForm } from '../lots/hold-form';
import { RunHeat } from '../heat/run-heat';
import { ReadingForm } from '../lots/reading-form';
import { LevelForm } from './level-form';
import { PackNav } from '../pack/pack-nav';

const WEIGHTS_SAY = { fine: 'as labelled', light: 'some light', short: 'short' } as const;

/** A run as an account that is ruled off: its conditions line by line, and the signature under them. */
@Component({
  selector: 'ct-run',
  imports: [
    Choices,
    CountInput,
    FormField,
    HoldForm,
    LevelForm,
    Mark,
    PackNav,
    ReadingForm,
    RecordButton,
    Refusal,
    RouterLink,
    RunHeat,
    SecretField,
    TextField,
    TypedBeforeNote,
    Waiting,
  ],
  templateUrl: './run.html',
  styleUrl: './run.less',
})
export class Run {
  readonly code = input.required<string>();
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  private readonly api = inject(Api);
  private readonly person = inject(Store).selectSignal(sessionFeature.selectPerson);
  protected readonly read = shown<RunReply>(computed(() => `/api/runs/${encodeURIComponent(this.code())}`));
  protected readonly initials = computed(() => this.person()?.initials ?? '');

  protected readonly lastJar = computed(() => Math.max(1, ...(this.read.data()?.jars ?? []).map(({ last }) => last)));
  protected readonly open = computed(() =>
    (this.read.data()?.conditions ?? []).filter(({ state }) => state === 'open'),
  );
  /** What who signs may excuse, in writing. */
  protected readonly excusable = computed(() => this.open().filter(({ mayExcuse }) => mayExcuse));
  protected readonly others = computed(() => this.open().length - this.excusable().length);
  protected readonly lacksExcuse = computed(() => this.excusable().some(({ key }) => !this.excuses()[key]?.trim()));

  protected readonly pin = signal('');
  protected readonly signing = signal(false);
  protected readonly wrong = signal<string | null>(null);
  protected readonly sign = recordingForm('run.release', {
    fields: { excuses: {} as Partial<Record<ReleaseKey, string>>, withdrawal: '' },
    about: this.code,
    recorded: () => {
      this.excuses.set({});
      [this.withdrawal, this.pin].forEach((field) => field.set(''));
    },
  });
  protected readonly excuses = this.sign.values.excuses;
  protected readonly withdrawal = this.sign.values.withdrawal;

  protected readonly what = signal<RunCheckKind>('gas');
  protected readonly look = recordingForm('run.check', {
    fields: { opened: null as number | null, note: '' },
    about: this.code,
    recorded: () => {
      this.opened.set(null);
      this.note.set('');
    },
  });
  protected readonly opened = this.look.values.opened;
  protected readonly note = this.look.values.note;
  protected readonly looks = (Object.entries(RUN_CHECK_WORDS) as [RunCheckKind, string][]).map(
    ([kind, words]) => [kind, words.split(':')[0]!.split(',')[0]!] as const,
  );
  protected readonly answers = computed((): readonly (readonly [RunCheckSays, string])[] =>
    this.what() === 'gas'
      ? GAS_SAYS.map((key) => [key, GAS_WORDS[key]] as const)
      : [
          ['fine', 'as it should be'],
          ['notFine', 'not as it should be'],
        ],
  );
  protected readonly store = recordingForm('run.store', {
    fields: { reason: '' },
    about: this.code,
    recorded: () => this.storeReason.set(''),
  });
  protected readonly storeReason = this.store.values.reason;
  /** What stood beside its jars, a line each; null where nobody wrote anything. */
  protected readonly packedWith = computed(() => {
    const of = this.read.data()?.packing;
    if (!of) return null;
    const range = ({ first, last }: { first: number; last: number }): string =>
      first === last ? `jar ${first}` : `jars ${first} to ${last}`;
    const grams = (mass: number): string => formatGrams(mass, { stepGrams: 0.1 });
    const lines = [
      ...(of.cleared ? ['The line was clear before it.'] : []),
      ...of.weights.map(
        (one) =>
          `${one.n} of ${one.sizeMl} mL weighed: mean ${grams(one.mean)}, spread ${grams(one.spread)}, least ${grams(one.least)} of ${grams(one.netGrams)}: ${WEIGHTS_SAY[one.says]}.`,
      ),
      ...of.closures.map((one) => `${one.name} ${one.code}${one.theirs ? ` (${one.theirs})` : ''}: ${range(one)}.`),
      ...of.retained.map(
        (one) =>
          `Kept to be tasted: ${range(one)}, ${one.left} left, in ${one.place}; on ${one.tasteAt.map((at) => this.house.dates().day(at)).join(', ')}.`,
      ),
    ];
    return lines.length > 0 ? lines : null;
  });
  /** How far tasted jars carry what its label gives. */
  protected readonly evidence = computed(() => {
    const shelf = this.read.data()?.shelf;
    if (!shelf || (shelf.says === 'none' && shelf.labelDays === null)) return null;
    const label =
      shelf.labelDays === null
        ? 'No label of it gives a date yet.'
        : `Its label gives ${counted(shelf.labelDays, 'day')}.`;
    const good =
      shelf.days === null
        ? 'No retained jar of this formula was tasted yet.'
        : `A retained jar of ${shelf.run} was as it should be on day ${shelf.days}.`;
    const bad = shelf.against ? ` One of ${shelf.against.run} was not, on day ${shelf.against.days}.` : '';
    const end = {
      supported: ' The date on the label is carried by that.',
      short: shelf.labelDays === null ? '' : ' Beyond that day nothing carries it yet.',
      against: ' That speaks against the date on the label.',
      none: ' Nothing carries the date on the label yet.',
    }[shelf.says];
    return `${label} ${good}${bad}${end}`;
  });
  protected readonly storages = STORAGES;
  protected readonly storageWords = STORAGE_WORDS;
  protected readonly day = (at: number): string => this.house.dates().day(new Date(at).toISOString());

  protected recordLook(says: RunCheckSays): void {
    const run = this.read.data()?.run;
    if (!run) return;
    this.look.record(
      this.look.entry('run.check', {
        runLotId: run.lotId,
        what: this.what(),
        says,
        opened: this.opened(),
        note: this.note().trim() || null,
        photo: null,
      }),
    );
  }

  protected keep(storage: (typeof STORAGES)[number]): void {
    const run = this.read.data()?.run;
    if (run && this.storeReason().trim())
      this.store.record(
        this.store.entry('run.store', { runLotId: run.lotId, storage, reason: this.storeReason().trim() }),
      );
  }

  protected excuseFor(key: ReleaseKey, words: string): void {
    this.excuses.set({ ...this.excuses(), [key]: words });
  }

  protected release(): void {
    const excuses = Object.fromEntries(this.excusable().map(({ key }) => [key, this.excuses()[key]!.trim()]));
    this.signed((runLotId) => this.sign.entry('run.release', { runLotId, excuses }));
  }

  protected withdraw(): void {
    this.signed((runLotId) => this.sign.entry('run.withdraw', { runLotId, reason: this.withdrawal().trim() }));
  }

  /** The PIN first, then what is signed with it. */
  private signed(entry: (runLotId: string) => ReturnType<typeof this.sign.entry>): void {
    const run = this.read.data()?.run;
    if (!run || this.signing()) return;
    this.signing.set(true);
    this.wrong.set(null);
    this.api.prove(this.pin()).subscribe({
      next: () => {
        this.signing.set(false);
        this.pin.set('');
        this.sign.record(entry(run.lotId));
      },
      error: (problem: WireProblem) => {
        this.signing.set(false);
        this.pin.set('');
        this.wrong.set(problem.detail);
      },
    });
  }
}

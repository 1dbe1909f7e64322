import { Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { Choices } from '../../ui/choices';
import { RecordButton } from '../../ui/record-button';
import { Router, RouterLink } from '@angular/router';
import {
  FINDINGS,
  findingOf,
  formatGrams,
  lookAgainDays,
  PLACES,
  type Place,
  PLACE_KEYS,
  VERDICT_WORDS,
  type Verdict,
  VERDICTS,
} from '@clear-tally/core';
import type { JudgeReply, LotReply, ReachReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { recordingForm } from '../../state/form';
import { shown } from '../../state/shown';
import { Choice } from '../../ui/choice';
import { CautionsAt } from '../../ui/cautions-at';
import { PhotoField } from '../../ui/photo-field';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { ReadingForm } from '../lots/reading-form';
import { FindingDrawing } from './finding-drawing';
import { GuideNav } from './guide-nav';
import { VerdictMark } from './verdict-mark';
import { Tick } from '../../ui/tick';
import { Select } from '../../ui/select';
import { TypedBeforeNote } from '../../ui/typed-before';

/** "Is this all right?": pictures beside their doubles, and a verdict from the finding and the facts, with its reasons. */
@Component({
  selector: 'ct-judging',
  imports: [
    Choices,
    CautionsAt,
    Choice,
    FindingDrawing,
    GuideNav,
    PhotoField,
    Refusal,
    RouterLink,
    TextField,
    VerdictMark,
    Tick,
    Select,
    ReadingForm,
    TypedBeforeNote,
    FormField,
    RecordButton,
  ],
  templateUrl: './judging.html',
  styleUrl: './judging.less',
})
export class Judging {
  /** Code of the lot it is seen on; without one the guide is read only. */
  readonly lot = input<string>();
  readonly finding = input<string>();
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  private readonly router = inject(Router);
  protected readonly place = signal<Place | null>(null);
  protected readonly filter = signal<Place | null>(null);
  protected readonly said = signal<Verdict | null>(null);
  protected readonly form = recordingForm('find.record', {
    fields: { reason: '', note: '', leftReason: '' },
    about: computed(() => this.lot() ?? null),
    recorded: ([recorded]) => {
      const facts = recorded?.facts ?? {};
      const list = (key: string): string[] => (facts[key] as string[] | undefined) ?? [];
      const verdict = (facts['verdict'] as Verdict | undefined) ?? this.saying() ?? 'watch';
      const days = lookAgainDays(this.finding()!, verdict);
      this.recorded.set({
        verdict,
        name: String(facts['name'] ?? this.now()?.name ?? ''),
        on: (facts['on'] as string[] | undefined) ?? [this.lot()!],
        moved: 'movedTo' in facts,
        todo: list('todo'),
        heldToo: list('heldToo'),
        leftOut: list('leftOut'),
        again: days === null ? null : this.house.dates().day(new Date(Date.now() + days * 86_400_000).toISOString()),
      });
      this.note.set('');
      this.reason.set('');
      this.photo.set(null);
      this.said.set(null);
      this.left.set(new Set());
      this.leftReason.set('');
    },
  });
  protected readonly reason = this.form.values.reason;
  protected readonly note = this.form.values.note;
  protected readonly photo = signal<string | null>(null);
  protected readonly recorded = signal<{
    verdict: Verdict;
    name: string;
    on: string[];
    moved: boolean;
    todo: string[];
    heldToo: string[];
    leftOut: string[];
    again: string | null;
  } | null>(null);
  protected readonly words = VERDICT_WORDS;
  protected readonly verdicts = VERDICTS;
  protected readonly placeWords = PLACES;
  protected readonly places = PLACE_KEYS.map((key) => ({ key, words: PLACES[key] }));

  protected readonly lotRead = shown<LotReply>(
    computed(() => (this.lot() ? `/api/lots/${encodeURIComponent(this.lot()!)}` : null)),
  );
  /** A vessel whose pH can be read where the finding was made. */
  protected readonly readable = computed(() => {
    const lot = this.lotRead.data();
    return lot?.kind === 'fill' && !lot.closed && this.rights.mayRecord() ? lot : null;
  });
  protected readonly lots = computed(() =>
    (this.house.shelf()?.vessels ?? []).map((vessel) => ({
      id: vessel.code,
      label: `${vessel.vesselTag} ${vessel.name}`,
      detail: `${vessel.code} · day ${vessel.day}${vessel.hold ? ' · on hold' : ''}`,
    })),
  );
  protected readonly listed = computed(() =>
    FINDINGS.filter((one) => this.filter() === null || one.places.includes(this.filter()!)),
  );
  protected readonly now = computed(() => (this.finding() ? (findingOf(this.finding()!) ?? null) : null));
  /** Where it usually is comes first. */
  protected readonly nearest = computed(() =>
    [...this.places].sort(
      (a, b) =>
        Number(this.now()?.places.includes(b.key) ?? false) - Number(this.now()?.places.includes(a.key) ?? false),
    ),
  );
  protected readonly double = computed(() => (this.now()?.double ? (findingOf(this.now()!.double!) ?? null) : null));
  private readonly judged = shown<JudgeReply>(
    computed(() => {
      const [lot, finding, place] = [this.lotRead.data(), this.now(), this.place()];
      return lot &&
        finding &&
        place &&
        (lot.kind === 'fill' || lot.kind === 'run') &&
        !(lot.kind === 'fill' && lot.closed)
        ? `/api/judge?lotId=${lot.lotId}&finding=${finding.key}&place=${place}`
        : null;
    }),
  );
  protected readonly verdict = computed(() => (this.place() ? this.judged.data() : null));
  protected readonly problem = computed(() => this.lotRead.problem()?.detail ?? this.judged.problem()?.detail ?? null);
  protected readonly saying = computed(() => this.said() ?? this.verdict()?.verdict ?? null);
  protected readonly milder = computed(
    () => this.verdict() !== null && VERDICTS.indexOf(this.saying()!) < VERDICTS.indexOf(this.verdict()!.verdict),
  );

  /** What was taken from the vessel already: a fault is older than the look that finds it. */
  private readonly reachRead = shown<ReachReply>(
    computed(() => {
      const lot = this.lotRead.data();
      return lot && this.grave() && !lot.closed ? `/api/reach/${lot.lotId}` : null;
    }),
  );
  protected readonly grave = computed(() => this.saying() === 'hold' || this.saying() === 'throwOut');
  protected readonly reach = computed(() =>
    this.grave() && this.recorded() === null ? (this.reachRead.data()?.taken ?? []) : [],
  );
  protected readonly inOrder = computed(() => this.reachRead.data()?.since ?? null);
  /** Toggled against the default, which is to hold what left since the last reading in order. */
  protected readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly leftReason = this.form.values.leftReason;
  protected readonly leftOut = computed(() => this.reach().filter((one) => !this.holdsToo(one)));
  protected readonly mass = (grams: number): string => formatGrams(grams);

  protected holdsToo(one: ReachReply['taken'][number]): boolean {
    return one.since !== this.left().has(one.lotId);
  }

  protected toggleReach(lotId: string): void {
    const left = new Set(this.left());
    if (!left.delete(lotId)) left.add(lotId);
    this.left.set(left);
    this.form.edited();
  }

  protected reachKind(one: ReachReply['taken'][number]): string {
    return one.jars !== null
      ? `${one.jars} jars`
      : one.kind === 'fill'
        ? `vessel ${one.vesselTag ?? ''}`
        : one.kind === 'preparation'
          ? 'kept brine'
          : one.kind;
  }

  constructor() {
    // Where it is seen is always asked: the same colour is a pigment in the piece and a growth on it.
    effect(() => {
      this.finding();
      untracked(() => {
        const only = this.now()?.places.length === 1 ? this.now()!.places[0]! : null;
        this.place.set(only);
        this.said.set(null);
        this.recorded.set(null);
        this.left.set(new Set());
        this.form.edited();
      });
    });
  }

  /** The next finding on the same vessel; the one just recorded is no recurrence of itself. */
  protected more(): void {
    this.recorded.set(null);
    this.place.set(null);
    this.form.edited();
  }

  protected open(finding: string | null): void {
    void this.router.navigate(['/guide'], { queryParams: { finding, lot: this.lot() ?? null } });
  }

  protected on(code: string | null): void {
    void this.router.navigate(['/guide'], { queryParams: { finding: this.finding() ?? null, lot: code } });
  }

  protected facts(): string {
    const facts = this.verdict()?.facts as
      | {
          ageDays: number;
          phCounts: boolean;
          ph: number | null;
          trend: string;
          celsius: number | null;
          waterPhaseSalt: number | null;
          closure: string | null;
        }
      | undefined;
    if (!facts) return '';
    return [
      `day ${facts.ageDays}`,
      facts.ph === null
        ? 'no pH'
        : `pH ${facts.ph.toFixed(2)}${facts.phCounts ? '' : ', by no reading that counts'}${facts.trend === 'none' ? '' : `, ${facts.trend}`}`,
      facts.waterPhaseSalt && `${(facts.waterPhaseSalt * 100).toFixed(2)} % salt in the water`,
      facts.celsius !== null && `${facts.celsius.toFixed(1)} °C`,
      facts.closure,
    ]
      .filter(Boolean)
      .join(' · ');
  }

  protected record(): void {
    const [lot, finding, place, verdict] = [
      this.lotRead.data(),
      this.now(),
      this.place(),
      this.saying() ?? this.now()?.usual,
    ];
    if (lot && finding && place && verdict)
      this.form.record(
        this.form.entry('find.record', {
          lotId: lot.lotId,
          finding: finding.key,
          place,
          verdict,
          reason: this.reason().trim() || null,
          note: this.note().trim() || null,
          photo: this.photo(),
          ...(this.reach().length > 0
            ? {
                reach: {
                  hold: this.reach()
                    .filter((one) => this.holdsToo(one))
                    .map((one) => one.lotId),
                  leftOutReason: this.leftReason().trim() || null,
                },
              }
            : {}),
        }),
      );
  }
}

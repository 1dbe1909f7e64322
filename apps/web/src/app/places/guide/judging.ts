import { Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { FINDINGS, findingOf, PLACES, type Place, PLACE_KEYS, VERDICT_WORDS, type Verdict, VERDICTS } from '@clear-tally/core';
import type { JudgeReply, LotReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { recordingForm } from '../../state/form';
import { shown } from '../../state/shown';
import { Choice } from '../../ui/choice';
import { CautionsAt } from '../../ui/cautions-at';
import { PhotoField } from '../../ui/photo-field';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { FindingDrawing } from './finding-drawing';
import { GuideNav } from './guide-nav';
import { VerdictMark } from './verdict-mark';

/** "Is this all right?": pictures beside their doubles, and a verdict from the finding and the facts, with its reasons. */
@Component({
  selector: 'ct-judging',
  imports: [CautionsAt, Choice, FindingDrawing, GuideNav, PhotoField, Refusal, RouterLink, TextField, VerdictMark],
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
  protected readonly reason = signal('');
  protected readonly note = signal('');
  protected readonly photo = signal<string | null>(null);
  protected readonly recorded = signal<{ verdict: Verdict; on: string[]; moved: boolean } | null>(null);
  protected readonly words = VERDICT_WORDS;
  protected readonly verdicts = VERDICTS;
  protected readonly placeWords = PLACES;
  protected readonly places = PLACE_KEYS.map((key) => ({ key, words: PLACES[key] }));

  protected readonly lotRead = shown<LotReply>(computed(() => (this.lot() ? `/api/lots/${encodeURIComponent(this.lot()!)}` : null)));
  protected readonly lots = computed(() => (this.house.shelf()?.vessels ?? []).map((vessel) => ({ id: vessel.code, label: `${vessel.vesselTag} ${vessel.name}`, detail: `${vessel.code} · day ${vessel.day}${vessel.hold ? ' · on hold' : ''}` })));
  protected readonly listed = computed(() => FINDINGS.filter((one) => this.filter() === null || one.places.includes(this.filter()!)));
  protected readonly now = computed(() => (this.finding() ? (findingOf(this.finding()!) ?? null) : null));
  /** Where it usually is comes first. */
  protected readonly nearest = computed(() => [...this.places].sort((a, b) => Number(this.now()?.places.includes(b.key) ?? false) - Number(this.now()?.places.includes(a.key) ?? false)));
  protected readonly double = computed(() => (this.now()?.double ? (findingOf(this.now()!.double!) ?? null) : null));
  private readonly judged = shown<JudgeReply>(computed(() => {
    const [lot, finding, place] = [this.lotRead.data(), this.now(), this.place()];
    return lot && finding && place && (lot.kind === 'fill' || lot.kind === 'run') && !(lot.kind === 'fill' && lot.closed) ? `/api/judge?lotId=${lot.lotId}&finding=${finding.key}&place=${place}` : null;
  }));
  protected readonly verdict = computed(() => (this.place() ? this.judged.data() : null));
  protected readonly problem = computed(() => this.lotRead.problem()?.detail ?? this.judged.problem()?.detail ?? null);
  protected readonly saying = computed(() => this.said() ?? this.verdict()?.verdict ?? null);
  protected readonly milder = computed(() => this.verdict() !== null && VERDICTS.indexOf(this.saying()!) < VERDICTS.indexOf(this.verdict()!.verdict));
  protected readonly form = recordingForm('find.record', ([recorded]) => {
    const facts = recorded?.facts ?? {};
    this.recorded.set({ verdict: (facts['verdict'] as Verdict | undefined) ?? this.saying() ?? 'watch', on: (facts['on'] as string[] | undefined) ?? [this.lot()!], moved: 'movedTo' in facts });
    this.note.set('');
    this.reason.set('');
    this.photo.set(null);
    this.said.set(null);
  });

  constructor() {
    // Where it is seen is always asked: the same colour is a pigment in the piece and a growth on it.
    effect(() => {
      this.finding();
      untracked(() => {
        const only = this.now()?.places.length === 1 ? this.now()!.places[0]! : null;
        this.place.set(only);
        this.said.set(null);
        this.recorded.set(null);
        this.form.edited();
      });
    });
  }

  protected open(finding: string | null): void {
    void this.router.navigate(['/guide'], { queryParams: { finding, lot: this.lot() ?? null } });
  }

  protected on(code: string | null): void {
    void this.router.navigate(['/guide'], { queryParams: { finding: this.finding() ?? null, lot: code } });
  }

  protected facts(): string {
    const facts = this.verdict()?.facts as { ageDays: number; phCounts: boolean; ph: number | null; trend: string; celsius: number | null; waterPhaseSalt: number | null; closure: string | null } | undefined;
    if (!facts) return '';
    return [`day ${facts.ageDays}`, facts.ph === null ? 'no pH' : `pH ${facts.ph.toFixed(2)}${facts.phCounts ? '' : ', by no reading that counts'}${facts.trend === 'none' ? '' : `, ${facts.trend}`}`, facts.waterPhaseSalt && `${(facts.waterPhaseSalt * 100).toFixed(2)} % salt in the water`, facts.celsius !== null && `${facts.celsius.toFixed(1)} °C`, facts.closure].filter(Boolean).join(' · ');
  }

  protected record(): void {
    const [lot, finding, place, verdict] = [this.lotRead.data(), this.now(), this.place(), this.saying() ?? this.now()?.usual];
    if (lot && finding && place && verdict) this.form.record(this.form.entry('find.record', { lotId: lot.lotId, finding: finding.key, place, verdict, reason: this.reason().trim() || null, note: this.note().trim() || null, photo: this.photo() }));
  }
}

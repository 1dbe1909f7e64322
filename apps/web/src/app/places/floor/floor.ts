import { Component, computed, ElementRef, inject, signal, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { FloorReply, FloorVessel } from '@clear-tally/contract';
import { ticking } from '../../state/clock';
import { injectHouse } from '../../state/house';
import { takesScans } from '../../state/scans';
import { sessionFeature } from '../../state/session';
import { shown } from '../../state/shown';
import { Nothing } from '../../ui/nothing';
import { CautionsAt } from '../../ui/cautions-at';
import { Mark } from '../../ui/mark';
import { phWords } from '../../ui/ph-words';
import { VesselDrawing, type DrawnVessel } from '../../ui/vessel-drawing';
import { SAYS_WHEN } from '../../state/when';
import { WhenLine } from '../../ui/when-line';
import { Waiting } from '../../ui/waiting';
import { JarsDue } from './jars-due';
import { ManyQuiet } from './many-quiet';
import { RoomWarmth } from './room-warmth';
import { openChecks, roundOf, trendWords, whenWords } from './round';
import { VesselPanel } from './vessel-panel';

/** What every vessel needs today: the round as a list that follows the walk, and the shelves it leads along. */
@Component({
  selector: 'ct-floor',
  imports: [
    Nothing,
    CautionsAt,
    JarsDue,
    ManyQuiet,
    Mark,
    RoomWarmth,
    RouterLink,
    VesselDrawing,
    VesselPanel,
    Waiting,
    WhenLine,
  ],
  providers: [{ provide: SAYS_WHEN, useValue: true }],
  templateUrl: './floor.html',
  styleUrl: './floor.less',
})
export class Floor {
  protected readonly house = injectHouse();
  protected readonly read = shown<FloorReply>(signal('/api/floor'));
  protected readonly floor = this.read.data;
  private readonly person = inject(Store).selectSignal(sessionFeature.selectPerson);
  protected readonly mayRecord = computed(() => this.person()?.role !== 'inspector');
  private readonly list = viewChild<ElementRef<HTMLElement>>('list');
  private readonly tick = ticking();
  /** Words of time change by the minute, not by the second. */
  protected readonly now = computed(() => Math.floor(this.tick() / 60_000) * 60_000);
  /** Chosen by tap, scan or "next"; null: the first of the round. */
  private readonly asked = signal<string | null>(null);
  private readonly working = signal(false);
  private readonly passed = signal<ReadonlySet<string>>(new Set());
  protected readonly brought = signal<string | null>(null);

  protected readonly vessels = computed(() => this.floor()?.vessels ?? []);
  private readonly open = computed(() => roundOf(this.vessels()));
  /** Empty vessels that something stood in since they were cleaned, or whose cleaning nobody recorded. */
  protected readonly toClean = computed(
    () =>
      (this.house.house()?.vessels ?? []).filter(
        ({ inUse, takenBy, cleanedAt, usedSince }) => inUse && takenBy === null && (cleanedAt === null || usedSince),
      ).length,
  );
  protected readonly late = computed(() =>
    this.open().reduce((sum, vessel) => sum + openChecks(vessel).filter(({ state }) => state === 'late').length, 0),
  );
  protected readonly due = computed(() => this.open().reduce((sum, vessel) => sum + openChecks(vessel).length, 0));
  protected readonly current = computed(
    () => this.kept() ?? (this.open().find(({ lotId }) => !this.passed().has(lotId)) ?? this.open()[0])?.lotId ?? null,
  );
  /** A vessel somebody works on stays in hand until nothing is open on it; one asked for by tap stays until the next. */
  private readonly kept = computed(() => {
    const asked = this.asked();
    return asked !== null && (!this.working() || this.open().some(({ lotId }) => lotId === asked)) ? asked : null;
  });
  /** The round; a vessel asked for by tap stands at its head even when nothing is due on it. */
  protected readonly round = computed(() => {
    const asked = this.vessels().find(({ lotId }) => lotId === this.kept());
    return asked && !this.open().includes(asked) ? [asked, ...this.open()] : this.open();
  });
  protected readonly rooms = computed(() =>
    (this.floor()?.rooms ?? [])
      .map((room) => ({ ...room, vessels: this.vessels().filter(({ roomId }) => roomId === room.id) }))
      .filter(({ vessels }) => vessels.length > 0),
  );
  /** Many vessels are drawn smaller. */
  protected readonly scale = computed(() => {
    const most = Math.max(0, ...this.rooms().map(({ vessels }) => vessels.length));
    return this.vessels().length > 90 ? 11 : most > 30 ? 14 : most > 11 ? 18 : 22;
  });

  constructor() {
    takesScans((code) => {
      const key = code.toUpperCase();
      const found = this.vessels().find(
        (vessel) =>
          vessel.vesselTag === key ||
          vessel.code.toUpperCase() === key ||
          key.endsWith(`/${vessel.code.toUpperCase()}`),
      );
      if (found) this.go(found.lotId);
      return found !== undefined;
    });
  }

  protected go(lotId: string): void {
    this.asked.set(lotId);
    this.working.set(false);
    this.brought.set(null);
    requestAnimationFrame(() => this.list()?.nativeElement.querySelector('.now')?.scrollIntoView({ block: 'nearest' }));
  }

  protected recorded(vessel: FloorVessel): void {
    this.brought.set(null);
    this.asked.set(vessel.lotId);
    this.working.set(true);
    this.read.again();
  }

  /** On from the one in hand, wherever it was picked, as one walks; what was passed by comes at the end. */
  protected next(lotId: string): void {
    this.passed.update((passed) => new Set([...passed, lotId]));
    if (this.open().every((vessel) => this.passed().has(vessel.lotId))) this.passed.set(new Set([lotId]));
    const walk = this.vessels();
    const at = walk.findIndex((vessel) => vessel.lotId === lotId);
    const open = new Set(this.open().map((vessel) => vessel.lotId));
    const onward = [...walk.slice(at + 1), ...walk.slice(0, Math.max(0, at))].find(
      (vessel) => open.has(vessel.lotId) && !this.passed().has(vessel.lotId),
    );
    const picked = this.asked() === lotId && !this.working();
    if (picked && onward) this.go(onward.lotId);
    else this.asked.set(null);
  }

  protected wasOther({ tag, ph }: { tag: string; ph: string }): void {
    const other = this.vessels().find(({ vesselTag }) => vesselTag === tag);
    if (!other) return;
    this.asked.set(other.lotId);
    this.brought.set(ph);
  }

  protected names(vessel: FloorVessel): string {
    return (
      openChecks(vessel)
        .map(({ name }) => name)
        .join(', ') || 'nothing due'
    );
  }

  protected state(vessel: FloorVessel): 'late' | 'due' | 'met' {
    const [first] = openChecks(vessel);
    return !first ? 'met' : first.state === 'late' ? 'late' : 'due';
  }

  protected when(vessel: FloorVessel): string {
    const [first] = openChecks(vessel);
    return first ? whenWords(first, this.now(), (iso) => this.house.dates().time(iso)) : '';
  }

  protected trend(vessel: FloorVessel): string {
    return trendWords(vessel, (iso) => this.house.dates().day(iso));
  }

  protected drawn(vessel: FloorVessel): DrawnVessel {
    return {
      shape: vessel.shape,
      closure: vessel.closure,
      brimMl: vessel.brimMl,
      fill: vessel.fillGrams / vessel.brimMl,
      hold: vessel.hold !== null,
      formulaNumber: vessel.formulaNumber,
    };
  }

  protected words(vessel: FloorVessel): string {
    return `${vessel.vesselTag}, ${vessel.name}, day ${vessel.day}, ${phWords(vessel)}, ${this.names(vessel)}${vessel.hold ? `, on hold: ${vessel.hold}` : ''}${vessel.seen ? `, ${vessel.seen.verdict}: ${vessel.seen.name}` : ''}`;
  }
}

import { Component, computed, signal } from '@angular/core';
import type { EquipmentReply } from '@clear-tally/contract';
import { EQUIPMENT_KINDS, printMass } from '@clear-tally/core';
import { injectDecimalMark, injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { Choices } from '../../ui/choices';
import { Mark, type MarkKind } from '../../ui/mark';
import { Nothing } from '../../ui/nothing';
import { OwnersOnly } from '../../ui/owners-only';
import { Waiting } from '../../ui/waiting';
import { OfficeNav } from '../office/office-nav';
import { EquipmentForm } from './equipment-form';
import { EquipmentLook } from './equipment-look';
import { SanitiserCheck } from './sanitiser-check';
import { SanitiserForm } from './sanitiser-form';

type Piece = EquipmentReply['equipment'][number];
type Mix = EquipmentReply['mixes'][number];

const HEADS: Readonly<Record<Piece['kind'], string>> = {
  scale: 'Scales',
  tool: 'Tools',
  parts: 'Loose parts',
  water: 'Water',
};

/** Scales, tools, loose parts and water sources with what is due of them, and the sanitiser that is mixed. */
@Component({
  selector: 'ct-equipment',
  imports: [
    Choices,
    EquipmentForm,
    EquipmentLook,
    Mark,
    Nothing,
    OfficeNav,
    OwnersOnly,
    SanitiserCheck,
    SanitiserForm,
    Waiting,
  ],
  template: `
    <div class="page with-side">
      <div class="main stack">
        <ct-office-nav />
        <h1>Equipment</h1>
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
        @for (group of groups(); track group.kind) {
          <section>
            <h2>{{ group.head }}</h2>
            <ul>
              @for (one of group.pieces; track one.id) {
                <li>
                  <button
                    type="button"
                    [class.out]="!one.inUse"
                    [attr.aria-pressed]="chosen() === one.id"
                    (click)="choose(one.id)"
                  >
                    <span
                      ><b class="figure">{{ one.tag }}</b> {{ one.name }}
                      <span class="soft">{{ about(one) }}</span></span
                    >
                    <ct-mark [kind]="markOf(one)">{{ state(one) }}</ct-mark>
                  </button>
                </li>
              }
            </ul>
          </section>
        } @empty {
          @if (read.data()) {
            <ct-nothing
              says="Nothing is written down yet: scales with what they weigh, weights and lids that are counted, where the water comes from."
            />
          }
        }
        @if (read.data(); as all) {
          <section>
            <h2>Sanitiser</h2>
            @if (all.mixes.length > 0) {
              <table class="book">
                <thead>
                  <tr>
                    <th>Batch</th>
                    <th>Of</th>
                    <th>Strength</th>
                    <th>Good until</th>
                    <th class="right">Cleanings</th>
                  </tr>
                </thead>
                <tbody>
                  @for (mix of all.mixes; track mix.id) {
                    <tr [class.past]="isPast(mix)">
                      <td class="figure">
                        <b>{{ mix.code }}</b>
                      </td>
                      <td>{{ mix.litres }} L {{ mix.agent }}, {{ mix.dilution }}</td>
                      <td [class.beet]="strengthIsOff(mix)">
                        {{ strengthOf(mix) }}
                        @if (rights.mayRecord() && strengthIsOff(mix) && inTime(mix)) {
                          <button type="button" class="plain" (click)="check(mix.id)">Check it</button>
                        }
                      </td>
                      <td>{{ isPast(mix) ? 'was ' : '' }}{{ house.dates().moment(mix.goodUntil) }}</td>
                      <td class="right figure">{{ mix.used }}</td>
                    </tr>
                  }
                </tbody>
              </table>
            } @else {
              <p class="soft">None was mixed yet.</p>
            }
          </section>
        }
      </div>
      <aside class="side stack" aria-label="What is recorded">
        <ct-choices label="What is recorded" [options]="ways()" [value]="way()" (picked)="pick($event)" />
        @switch (way()) {
          @case ('look') {
            @if (piece(); as one) {
              <ct-equipment-look [piece]="one" (done)="read.again()" />
            } @else {
              <p class="soft">Choose what was looked at from the list.</p>
            }
          }
          @case ('mix') {
            @if (checked(); as mix) {
              <ct-sanitiser-check [mix]="mix" (done)="checking.set(null); read.again()" />
            } @else if (rights.mayRecord()) {
              <ct-sanitiser-form [mixes]="read.data()?.mixes ?? []" (done)="read.again()" />
            }
          }
          @case ('piece') {
            @if (rights.isOwner()) {
              <ct-equipment-form [piece]="piece()" (done)="read.again()" />
            } @else {
              <ct-owners-only says="An owner of the house adds equipment, changes it and puts it out of use." />
            }
          }
        }
      </aside>
    </div>
  `,
  styles: `
    li button {
      width: 100%;
      display: flex;
      flex-wrap: wrap;
      gap: 4px 22px;
      justify-content: space-between;
      align-items: center;
      text-align: left;
      border: 0;
      border-bottom: 1px solid var(--hair);
      background: none;
      padding: 12px 10px;
      font-weight: 400;
    }
    li button[aria-pressed='true'] {
      background: var(--wash);
      border-left: 5px solid var(--ink);
    }
    .out,
    .past td {
      color: var(--soft);
    }
  `,
})
export class Equipment {
  protected readonly house = injectHouse();
  private readonly mark = injectDecimalMark();
  protected readonly rights = injectRights();
  protected readonly read = shown<EquipmentReply>(signal('/api/equipment'));
  protected readonly chosen = signal<string | null>(null);
  protected readonly way = signal<'look' | 'mix' | 'piece'>('look');
  protected readonly piece = computed(() => this.read.data()?.equipment.find(({ id }) => id === this.chosen()) ?? null);
  protected readonly ways = computed((): readonly (readonly ['look' | 'mix' | 'piece', string])[] => [
    ['look', 'A look'],
    ['mix', 'Sanitiser'],
    ['piece', this.piece() ? 'Change' : 'Add'],
  ]);
  protected readonly groups = computed(() =>
    EQUIPMENT_KINDS.map((kind) => ({
      kind,
      head: HEADS[kind],
      pieces: (this.read.data()?.equipment ?? []).filter((one) => one.kind === kind),
    })).filter(({ pieces }) => pieces.length > 0),
  );

  protected choose(id: string): void {
    this.chosen.set(this.chosen() === id ? null : id);
    if (this.way() === 'mix') this.way.set('look');
  }

  protected pick(way: 'look' | 'mix' | 'piece'): void {
    this.way.set(way);
  }

  protected about(one: Piece): string {
    return [
      one.kind === 'scale' && `up to ${this.mass(one.capacityGrams!)} by ${this.mass(one.stepGrams!)}`,
      one.kind === 'parts' && `${one.count} of them`,
      one.words,
      one.room,
    ]
      .filter(Boolean)
      .join(', ');
  }

  /** What is due, or how it was found last. */
  protected state(one: Piece): string {
    if (!one.inUse) return 'out of use';
    const at = one.checkedAt && this.house.dates().day(one.checkedAt);
    if (one.due === 'never') return one.kind === 'scale' ? 'never held against a weight' : 'no test on record';
    if (one.due === 'failed') return `not in order, ${at}`;
    if (one.due === 'old') return `due again: last ${at}`;
    const looked = at && `in order ${at}`;
    const cleaned = one.cleaned && `cleaned ${this.house.dates().day(one.cleaned.at)}`;
    return [looked, cleaned].filter(Boolean).join(', ') || 'nothing recorded yet';
  }

  protected markOf(one: Piece): MarkKind {
    if (!one.inUse || (!one.due && !one.checkedAt && !one.cleaned)) return 'later';
    return one.due === 'failed' ? 'late' : one.due ? 'watch' : 'met';
  }

  /** As its plate says it: 6 kg, 50 g. */
  private readonly mass = (grams: number): string =>
    printMass({ grams, unit: grams >= 1000 ? 'kg' : 'g', mark: this.mark() });

  /** The batch whose strength is to be checked. */
  protected readonly checking = signal<string | null>(null);
  protected readonly checked = computed(
    () => this.read.data()?.mixes.find(({ id, passed }) => id === this.checking() && passed !== true) ?? null,
  );

  protected check(id: string): void {
    this.checking.set(id);
    this.way.set('mix');
  }

  protected strengthOf({ strength, unchecked, passed }: Mix): string {
    if (strength) return passed === false ? `${strength}, too weak` : strength;
    return unchecked ? `not checked: ${unchecked}` : 'not checked yet';
  }

  /** Too weak, or nobody knows. */
  protected strengthIsOff = ({ passed, unchecked }: Mix): boolean =>
    passed === false || (passed === null && !unchecked);

  protected inTime = ({ goodUntil }: Mix): boolean => Date.parse(goodUntil) >= Date.parse(this.read.data()!.now);

  protected isPast(mix: Mix): boolean {
    return mix.passed === false || !this.inTime(mix);
  }
}

import { Component, input, linkedSignal } from '@angular/core';
import type { LotReply, WatchReply } from '@clear-tally/contract';
import { Choices } from '../../../ui/choices';
import { KeepBrine } from '../keep-brine';
import { CountForm } from '../count-form';
import { PastReadings } from '../past-readings';
import { Care } from './care';
import { Measure } from './measure';
import { MoveMass } from './move-mass';
import { PlanForm } from './plan-form';
import { ReadyForm } from './ready-form';
import { TasteForm } from './taste-form';
import { ThrowOut } from './throw-out';
import { TopUp } from './top-up';

const WAYS = [
  ['care', 'Burp, press, skim'],
  ['past', 'Past readings'],
  ['taste', 'Taste'],
  ['topUp', 'Top up'],
  ['measure', 'Salt, acid'],
  ['move', 'Move, split, merge'],
  ['weigh', 'Weigh, write off'],
  ['keep', 'Keep brine'],
  ['plan', 'Check plan'],
  ['ready', 'Ready'],
  ['out', 'Throw out'],
] as const;
export type Way = (typeof WAYS)[number][0];

/** Everything that is done to a vessel between lid-on and done, each recorded where it is done. */
@Component({
  selector: 'ct-tend',
  imports: [
    Choices,
    Care,
    CountForm,
    KeepBrine,
    Measure,
    MoveMass,
    PastReadings,
    PlanForm,
    ReadyForm,
    TasteForm,
    ThrowOut,
    TopUp,
  ],
  template: `
    <ct-choices
      label="Tend it"
      [options]="ways"
      [value]="way()"
      loose
      (letGo)="way.set(null)"
      (picked)="way.set($event)"
    />
    @switch (way()) {
      @case ('care') {
        <ct-care [lotId]="lot().lotId" [closure]="lot().vessel?.closure ?? ''" />
      }
      @case ('past') {
        <ct-past-readings [lotId]="lot().lotId" [from]="lot().at" />
      }
      @case ('taste') {
        <ct-taste-form [lotId]="lot().lotId" [why]="watch().mayTaste" />
      }
      @case ('topUp') {
        <ct-top-up [lotId]="lot().lotId" [phase]="watch().waterPhase" />
      }
      @case ('measure') {
        <ct-measure [lotId]="lot().lotId" />
      }
      @case ('move') {
        <ct-move-mass [lot]="lot()" />
      }
      @case ('weigh') {
        <ct-count-form [lotId]="lot().lotId" [onHand]="lot().tally.onHandGrams" />
      }
      @case ('keep') {
        <ct-keep-brine [lotId]="lot().lotId" />
      }
      @case ('plan') {
        <ct-plan-form [lotId]="lot().lotId" [batchId]="watch().batchId" [plan]="watch().plan" />
      }
      @case ('ready') {
        <ct-ready-form [lotId]="lot().lotId" [ready]="watch().ready" [conditions]="watch().conditions" />
      }
      @case ('out') {
        <ct-throw-out [lotId]="lot().lotId" [code]="lot().code" [grams]="lot().tally.onHandGrams" />
      }
    }
  `,
  styles: ':host { display: grid; gap: 14px; }',
})
export class Tend {
  readonly lot = input.required<LotReply>();
  readonly watch = input.required<WatchReply>();
  /** What a link asks to be open. */
  readonly asked = input<string>();
  protected readonly ways = WAYS;
  protected readonly way = linkedSignal(() => WAYS.find(([key]) => key === this.asked())?.[0] ?? (null as Way | null));
}

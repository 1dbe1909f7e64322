import { computed, inject, Injectable, signal } from '@angular/core';
import { benchUnit, NATIONALITIES, type Nationality } from '@clear-tally/core';
import type { HouseReply, ShelfReply, UntrainedReply } from '@clear-tally/contract';
import { HouseDates } from '../ui/dates';
import { shown } from './shown';

/** What every place needs of the house: its settings, its vessels, its shelf. */
@Injectable()
export class House {
  private readonly houseRead = shown<HouseReply>(signal('/api/house'));
  private readonly untrainedRead = shown<UntrainedReply>(signal('/api/untrained'));
  private readonly shelfRead = shown<ShelfReply>(signal('/api/shelf'));

  readonly house = this.houseRead.data;
  readonly shelf = this.shelfRead.data;
  readonly shelfProblem = this.shelfRead.problem;
  /** By kind of entry: why the person signed in would be refused it, where this house asks a training. */
  readonly untrained = computed(() => this.untrainedRead.data()?.kinds ?? {});
  readonly dates = computed(() => new HouseDates(this.house()?.timeZone ?? 'UTC'));

  again(): void {
    this.shelfRead.again();
    this.houseRead.again();
    this.untrainedRead.again();
  }
}

export const injectHouse = (): House => inject(House);

/** Whose spoons and quarts are meant when nobody says; null where the house asks each time. */
export const houseNation = (rules: Readonly<Record<string, string>> | undefined): Nationality | null =>
  NATIONALITIES.find((nation) => nation === rules?.['measures']) ?? null;

/** The same for every field that reads a measure; null where no house is open. */
export function injectNation(): () => Nationality | null {
  const house = inject(House, { optional: true });
  return () => houseNation(house?.house()?.rules);
}

/** The decimal mark of the house, for every field that reads a figure. Undefined where no house is open. */
export function injectDecimalMark(): () => HouseReply['decimalMark'] | undefined {
  const house = inject(House, { optional: true });
  return () => house?.house()?.decimalMark;
}

/** The unit a field of the bench takes where none is typed, of what is usually weighed in `usual`. */
export function injectBenchUnit(): (usual: 'g' | 'kg') => 'g' | 'kg' {
  const house = inject(House, { optional: true });
  return (usual) => benchUnit(house?.house()?.settings.massUnit, usual);
}

import { computed, inject, Injectable, signal } from '@angular/core';
import { NATIONALITIES, type Nationality } from '@clear-tally/core';
import type { HouseReply, ShelfReply } from '@clear-tally/contract';
import { HouseDates } from '../ui/dates';
import { shown } from './shown';

/** What every place needs of the house: its settings, its vessels, its shelf. */
@Injectable()
export class House {
  private readonly houseRead = shown<HouseReply>(signal('/api/house'));
  private readonly shelfRead = shown<ShelfReply>(signal('/api/shelf'));

  readonly house = this.houseRead.data;
  readonly shelf = this.shelfRead.data;
  readonly shelfProblem = this.shelfRead.problem;
  readonly dates = computed(() => new HouseDates(this.house()?.timeZone ?? 'UTC'));

  again(): void {
    this.shelfRead.again();
    this.houseRead.again();
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

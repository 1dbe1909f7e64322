import type { EquipmentReply, HouseReply, PeopleReply } from '@clear-tally/contract';
import { DOOR_ASK_WORDS, type HouseSheet } from '@clear-tally/core';

type Cells = readonly (string | number)[];

const percent = (fraction: number): number => Math.round(fraction * 1000) / 10;

/** What stands in the house, as the workbook has it: it is left as it is when it comes back. */
export function rowsOf(
  of: HouseReply,
  people: PeopleReply['people'],
  equipment: EquipmentReply['equipment'],
): Record<HouseSheet, readonly Cells[]> {
  const roomOf = new Map(of.rooms.map(({ id, name }) => [id, name]));
  return {
    Rooms: of.rooms.map(({ name, usualCelsius }) => [name, usualCelsius]),
    Vessels: of.vessels.map(({ details, ...v }) => [
      v.tag,
      v.shape,
      v.brimMl / 1000,
      percent(v.minFill),
      percent(v.maxFill),
      v.weightVolumeMl,
      v.closure,
      roomOf.get(v.roomId) ?? '',
      details.material ?? '',
      details.mouthMm ?? '',
      details.tareGrams ?? '',
      details.boughtOn ?? '',
    ]),
    Suppliers: of.suppliers.map(({ name, prefix, ownPlot }) => [name, prefix, ownPlot ? 'yes' : 'no']),
    Materials: of.materials.map((m) => [
      m.name,
      m.kind,
      percent(m.waterFraction),
      percent(m.details.purity ?? m.saltFraction),
      m.details.trimYield == null ? '' : percent(m.details.trimYield),
      m.allergens.join(', '),
      m.details.gramsPer15Ml ?? '',
      m.details.group ?? '',
      (m.details.atDoor ?? []).map((ask) => DOOR_ASK_WORDS[ask]).join('; '),
    ]),
    People: people.map(({ name, initials, role }) => [name, initials, role]),
    Equipment: equipment.map((one) => [
      one.tag,
      one.kind,
      one.name,
      one.capacityGrams ?? '',
      one.stepGrams ?? '',
      one.count ?? '',
      one.words ?? '',
      one.room ?? '',
    ]),
    // A formula has more than a row can hold: those of the house leave as files from their own pages.
    Formulas: [],
    'Formula lines': [],
    Standing: [],
  };
}

import type { ShelfReply, ShelfVessel } from '@clear-tally/contract';
import { drawnWidth } from '../ui/vessel-drawing';

/** A room on the shelf: the vessels that have place, and how many stand beyond its edge. */
export interface ShelfRoom {
  readonly id: string;
  readonly name: string;
  readonly celsius: number | null;
  readonly vessels: readonly ShelfVessel[];
  readonly beyond: number;
  /** Of those beyond, what is due, late or held. */
  readonly beyondLate: number;
}

const [LEAST, MOST] = [7.5, 13];
const GAP_PX = 18;
/** "+12" at the end of a room. */
const MORE_PX = 52;
const LEAST_PX = 40;
/** Border and padding of a vessel on the shelf. */
const AROUND_PX = 10;
/** A character of its tag and day, and the dot between them. */
const [CHARACTER_PX, DOT_PX] = [7.4, 10];

const edge = (vessel: ShelfVessel): number => Math.cbrt(vessel.brimMl / 1000);
const widthOf = (vessel: ShelfVessel, scale: number): number =>
  Math.max(
    LEAST_PX,
    drawnWidth(vessel, scale) + AROUND_PX,
    `${vessel.vesselTag}${vessel.day}`.length * CHARACTER_PX + DOT_PX + AROUND_PX,
  );
const urgent = (vessel: ShelfVessel): number => (vessel.hold ? 3 : vessel.late > 0 ? 2 : vessel.seen ? 1 : 0);

/**
 * The row of vessels for so many pixels. All of them where they fit, drawn smaller as they are more; else each room
 * shows its part, what is held or late first, and says how many stand beyond.
 */
export function fitShelf(shelf: ShelfReply, width: number): { scale: number; rooms: readonly ShelfRoom[] } {
  const rooms = shelf.rooms
    .map((room) => ({ ...room, all: shelf.vessels.filter((vessel) => vessel.roomId === room.id) }))
    .filter(({ all }) => all.length > 0);
  const edges = shelf.vessels.reduce((sum, vessel) => sum + edge(vessel), 0);
  const free = width - rooms.length * GAP_PX;
  const scale = Math.max(LEAST, Math.min(MOST, (free - shelf.vessels.length * 12) / Math.max(1, edges)));
  const whole = shelf.vessels.reduce((sum, vessel) => sum + widthOf(vessel, scale), 0);
  if (whole <= free)
    return { scale, rooms: rooms.map(({ all, ...room }) => ({ ...room, vessels: all, beyond: 0, beyondLate: 0 })) };
  const least = Math.min(3 * LEAST_PX + MORE_PX, free / rooms.length);
  const spare = Math.max(0, free - least * rooms.length);
  return {
    scale,
    rooms: rooms.map(({ all, ...room }) => {
      let place = least + (spare * all.length) / shelf.vessels.length;
      const first = [...all].sort((a, b) => urgent(b) - urgent(a) || all.indexOf(a) - all.indexOf(b));
      const whole = all.reduce((sum, vessel) => sum + widthOf(vessel, scale), 0);
      if (whole <= place) return { ...room, vessels: all, beyond: 0, beyondLate: 0 };
      place -= MORE_PX;
      const shown = first.filter((vessel) => (place -= widthOf(vessel, scale)) >= 0);
      const hidden = all.filter((vessel) => !shown.includes(vessel));
      return {
        ...room,
        vessels: shown,
        beyond: hidden.length,
        beyondLate: hidden.filter((vessel) => urgent(vessel) > 1).length,
      };
    }),
  };
}

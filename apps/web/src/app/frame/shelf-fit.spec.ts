import type { ShelfReply, ShelfVessel } from '@clear-tally/contract';
import { fitShelf } from './shelf-fit';

describe('the shelf in the room it has', () => {
  const vessel = (i: number, roomId: string, more: Partial<ShelfVessel> = {}): ShelfVessel =>
    ({
      lotId: `${roomId}-${i}`,
      vesselTag: `V${i}`,
      roomId,
      shape: 'crock',
      day: 5,
      brimMl: 5000,
      hold: null,
      seen: null,
      due: 0,
      late: 0,
      ...more,
    }) as ShelfVessel;
  const shelf = (vessels: ShelfVessel[], rooms = ['a', 'b', 'c']): ShelfReply =>
    ({ rooms: rooms.map((id) => ({ id, name: id, celsius: null })), vessels }) as unknown as ShelfReply;
  const many = (count: number): ShelfVessel[] =>
    Array.from({ length: count }, (_, i) =>
      vessel(i, ['a', 'b', 'c'][i % 3]!, i === count - 1 ? { hold: 'film' } : {}),
    );

  it('shows all in their order where all fit', () => {
    const { rooms } = fitShelf(shelf(many(8)), 850);
    expect(rooms.map(({ vessels, beyond }) => [vessels.length, beyond])).toEqual([
      [3, 0],
      [3, 0],
      [2, 0],
    ]);
  });
  for (const count of [30, 80, 200])
    it(`of ${count} every room is in sight, what is held first, and says what lies beyond its edge`, () => {
      const { rooms, scale } = fitShelf(shelf(many(count)), 850);
      expect(rooms.length).toBe(3);
      expect(rooms.reduce((sum, { vessels, beyond }) => sum + vessels.length + beyond, 0)).toBe(count);
      const held = rooms.find(({ vessels }) => vessels.some(({ hold }) => hold))!;
      expect(held.vessels[0]!.hold).toBe('film');
      // A crock of 5 L is 0.98 of the cube root of its volume wide; its words need their room too.
      const drawing = Math.cbrt(5) * 0.98 * scale + 12;
      const wide = rooms.reduce(
        (sum, { vessels, beyond }) =>
          sum +
          18 +
          (beyond ? 52 : 0) +
          vessels.reduce((all, { vesselTag }) => all + Math.max(40, drawing, (vesselTag.length + 1) * 7 + 20), 0),
        0,
      );
      expect(wide).toBeLessThanOrEqual(850);
    });
  it('counts what is held or late beyond the edge', () => {
    const all = Array.from({ length: 60 }, (_, i) => vessel(i, 'a', { late: 1 }));
    const [room] = fitShelf(shelf(all, ['a']), 400).rooms;
    expect(room!.beyondLate).toBe(room!.beyond);
    expect(room!.beyond).toBeGreaterThan(40);
  });
});

import { TestBed } from '@angular/core/testing';
import { FakeApi, inHouse, ODILE, within } from '../../state/testing';
import { writeHouseBook } from './house-book';
import { HouseSheetForm } from './house-sheet';

describe('a house from a workbook', () => {
  it('brings equipment with the rooms of the same workbook, all in one piece', async () => {
    const api = new FakeApi({
      '/api/people': { people: [], locks: [] },
      '/api/equipment': { now: '2026-11-27T09:00:00Z', equipment: [], rooms: [], mixes: [] },
    });
    inHouse(api, { rooms: [], vessels: [] }, ODILE);
    const fixture = TestBed.createComponent(HouseSheetForm);
    await fixture.whenStable();
    const page = within(fixture);
    const none: never[] = [];
    const book = await writeHouseBook({
      Rooms: [['Cellar', 14]],
      Vessels: none,
      Suppliers: none,
      Materials: none,
      People: none,
      Equipment: [
        ['SC1', 'scale', 'Bench scale', 6000, 1, '', '', 'Cellar'],
        ['AL', 'parts', 'Airlocks', '', '', 14, '', ''],
      ],
    });
    await page.give(new File([book], 'house.xlsx'));
    for (let wait = 0; wait < 40 && !page.text().includes('Take in'); wait += 1) {
      await new Promise((resolve) => setTimeout(resolve, 50));
      await fixture.whenStable();
    }
    expect(page.text()).toContain('equipment: SC1, AL');
    await page.press('Take in 3 rows');
    const [room, scale, parts] = api.sent[0]!;
    const roomId = (room!.body as { roomId: string }).roomId;
    expect([scale!.kind, scale!.body]).toEqual([
      'equipment.add',
      jasmine.objectContaining({ tag: 'SC1', capacityGrams: 6000, stepGrams: 1, roomId, inUse: true }) as never,
    ]);
    expect(parts!.body).toEqual(jasmine.objectContaining({ tag: 'AL', count: 14, roomId: null }) as never);
  });
});

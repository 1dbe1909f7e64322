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
      Formulas: none,
      'Formula lines': none,
      Standing: none,
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

  it('brings formulas made of its own materials, and what stands in its own vessels', async () => {
    const api = new FakeApi({
      '/api/people': { people: [], locks: [] },
      '/api/equipment': { now: '2026-11-27T09:00:00Z', equipment: [], rooms: [], mixes: [] },
      '/api/formulas': { formulas: [{ number: 4, name: 'Old shred' }] },
      '/api/runs': { now: '2026-11-27T09:00:00Z', runs: [{ name: 'Sauce', jars: 42 }] },
    });
    inHouse(api, { rooms: [], vessels: [], materials: [] }, ODILE);
    const fixture = TestBed.createComponent(HouseSheetForm);
    await fixture.whenStable();
    const page = within(fixture);
    const book = await writeHouseBook({
      Rooms: [['Cellar', 14]],
      Vessels: [['C1', 'crock', 30, '', 90, '', 'cloth', 'Cellar', 'stoneware', '', 9800, '']],
      Suppliers: [],
      Materials: [
        ['Kohlrabi', 'produce', 91, '', 78, '', '', 'vegetable', 'its variety'],
        ['Pan salt', 'salt', 3, 97, '', '', '', '', ''],
        ['Juniper', 'flavouring', 10, '', '', '', '', '', ''],
      ],
      People: [],
      Equipment: [],
      Formulas: [
        ['Shred', 'in its own juice', 2.2, 'of the vegetable', 'Pan salt', '', 78, 95, 97, 330, 320, 28, ''],
        ['Old shred', 'in its own juice', 2.2, 'of the vegetable', 'Pan salt', '', 78, 95, 97, 330, 320, 28, ''],
      ],
      'Formula lines': [
        ['Shred', 'Kohlrabi', '', '', '', ''],
        ['Shred', 'Juniper', '', '', 300, ''],
      ],
      Standing: [
        ['vessel', 'Shred of October', 'C1', 14.6, '', '', '', '2026-10-20'],
        ['jars', 'Sauce', '', '', 42, 250, 240, ''],
        ['jars', 'Sticks', '', '', 12, 500, 480, ''],
      ],
    });
    await page.give(new File([book], 'house.xlsx'));
    for (let wait = 0; wait < 40 && !page.text().includes('Take in'); wait += 1) {
      await new Promise((resolve) => setTimeout(resolve, 50));
      await fixture.whenStable();
    }
    expect(page.text()).toContain('1 formula: Shred');
    expect(page.text()).toContain('standing here already: C1 Shred of October, 12 jars of Sticks');
    expect(page.text()).toContain('2 rows of what is here already');
    await page.press('Take in 8 rows');
    const sent = api.sent[0]!.map(({ kind, body }) => [kind, body] as const);
    const bodies = (of: string) => sent.filter(([kind]) => kind === of).map(([, body]) => body as never);
    expect(bodies('vessel.add')).toEqual([
      jasmine.objectContaining({ tag: 'C1', details: { material: 'stoneware', tareGrams: 9800 } }) as never,
    ]);
    const [kohlrabi, salt, juniper] = bodies('material.add') as { materialId: string; details: object }[];
    expect(kohlrabi!.details).toEqual(jasmine.objectContaining({ group: 'vegetable', atDoor: ['variety'] }));
    expect(bodies('formula.save')).toEqual([
      jasmine.objectContaining({
        name: 'Shred',
        number: 5,
        style: 'dryShred',
        saltMaterialId: salt!.materialId,
        produce: [{ materialId: kohlrabi!.materialId, share: 1 }],
        lines: [{ materialId: juniper!.materialId, scaleBy: 'saltMass', amount: 0.3 }],
      }) as never,
    ]);
    const vessel = (bodies('vessel.add') as { vesselId: string }[])[0]!;
    expect(bodies('lot.open')).toEqual([
      jasmine.objectContaining({
        what: 'vessel',
        vesselId: vessel.vesselId,
        grams: 14_600,
        filledOn: '2026-10-20',
      }) as never,
      jasmine.objectContaining({ what: 'jars', jars: [{ sizeMl: 500, netGrams: 480, count: 12 }] }) as never,
    ]);
  });
});

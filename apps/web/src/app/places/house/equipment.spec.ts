import { TestBed } from '@angular/core/testing';
import type { EquipmentReply } from '@clear-tally/contract';
import { FakeApi, INES, inHouse, INSPECTOR, ODILE, within } from '../../state/testing';
import { Equipment } from './equipment';
import { aPiece } from './equipment.testing';

type Piece = EquipmentReply['equipment'][number];
const NOW = '2026-11-27T09:00:00Z';
const piece = (tag: string, more: Partial<Piece> = {}): Piece =>
  aPiece(tag, {
    kind: 'scale',
    name: 'Bench scale',
    room: 'Net loft',
    capacityGrams: 6000,
    stepGrams: 1,
    checkedAt: '2026-11-25T08:00:00Z',
    checkPassed: true,
    ...more,
  });
const parts: Partial<Piece> = { kind: 'parts', name: 'Airlocks', capacityGrams: null, stepGrams: null, count: 12 };
const REPLY: EquipmentReply = {
  now: NOW,
  equipment: [piece('5C01'), piece('5C02', { due: 'old' }), piece('A100', { ...parts, checkedAt: null })],
  rooms: [],
  mixes: [
    {
      id: '018f6b1e-0000-7000-8000-0000000000f1',
      code: 'SAN26-0002',
      agent: 'peracetic acid',
      dilution: '20 mL to 10 L',
      litres: 10,
      strength: 'strip: 200 ppm',
      passed: true,
      unchecked: null,
      at: '2026-11-26T07:00:00Z',
      by: 'IC',
      goodUntil: '2026-11-27T07:00:00Z',
      used: 3,
    },
  ],
};

describe('the equipment of a house', () => {
  let api: FakeApi;
  const open = async (person: typeof INES | typeof ODILE | typeof INSPECTOR = INES, reply = REPLY) => {
    api = new FakeApi({ '/api/equipment': reply });
    inHouse(api, { vessels: [], rooms: [] }, person);
    const fixture = TestBed.createComponent(Equipment);
    await fixture.whenStable();
    return within(fixture);
  };

  it('says of each what it is and what is due, scales first', async () => {
    const page = await open();
    expect([...page.element.querySelectorAll('li button b')].map((one) => one.textContent)).toEqual([
      '5C01',
      '5C02',
      'A100',
    ]);
    expect(page.text()).toContain('up to 6 kg by 1 g, Net loft');
    expect(page.text()).toContain('due again: last Wed 25 Nov');
    expect(page.text()).toContain('nothing recorded yet');
    expect(page.text()).toContain('was Fri 27 Nov 07:00');
  });

  it('a scale that is off by more than it may be says so before it is recorded', async () => {
    const page = await open();
    await page.press('5C01');
    await page.type('The weight', '2 kg');
    await page.type('The scale shows', '2003 g');
    expect(page.text()).toContain('up to 2.0 g accepted: weigh on another one');
    await page.press('Record it');
    expect(api.sent[0]!.map(({ kind, body }) => [kind, body])).toEqual([
      [
        'equipment.check',
        { equipmentId: REPLY.equipment[0]!.id, by: { how: 'weight', weightGrams: 2000, shownGrams: 2003 } },
      ],
    ]);
  });

  it('parts that are missing ask where they may be', async () => {
    const page = await open();
    await page.press('A100');
    await page.type('Counted', '11');
    expect(page.text()).toContain('One is missing of 12');
    expect(page.text()).toContain('missing: where the rest may be');
    await page.type('Where may it be', 'in D5');
    await page.press('Record it');
    expect(api.sent[0]![0]!.body).toEqual({
      equipmentId: REPLY.equipment[2]!.id,
      by: { how: 'count', counted: 11, missing: 'in D5' },
    });
  });

  it('sanitiser is mixed as the last one, good from when it was mixed', async () => {
    const page = await open();
    await page.press('Sanitiser');
    await page.press('As SAN26-0002');
    await page.press('Strong enough');
    await page.type('It shows', '210 ppm');
    await page.press('Record the batch');
    const [entry] = api.sent[0]!;
    const body = entry!.body as { goodUntil: string; strength: unknown; litres: number };
    expect(Date.parse(body.goodUntil) - Date.parse(entry!.happenedAt)).toBe(24 * 3_600_000);
    expect([body.litres, body.strength]).toEqual([10, { how: 'strip', shown: '210 ppm', passed: true }]);
  });

  it('sanitiser that is not checked asks why, and one that is mixed already is checked from its line', async () => {
    const page = await open();
    await page.press('Sanitiser');
    await page.type('What it is', 'ethanol');
    await page.type('How strong', '70 %');
    await page.type('How much', '5');
    await page.type('Good for, hours', '48');
    expect(page.text()).toContain('missing: its strength, or why it is not checked');
    await page.type('Or why it is not checked', 'ready to use');
    await page.press('Record the batch');
    expect(api.sent[0]![0]!.body).toEqual(jasmine.objectContaining({ strength: null, unchecked: 'ready to use' }));
    TestBed.resetTestingModule();
    const [mix] = REPLY.mixes;
    const blind = { ...mix!, strength: null, passed: null, unchecked: null, goodUntil: '2026-11-28T07:00:00Z' };
    const again = await open(INES, { ...REPLY, mixes: [blind] });
    expect(again.text()).toContain('not checked yet');
    await again.press('Check it');
    await again.type('Strength checked with', 'strip');
    await again.type('It shows', '200 ppm');
    expect(again.text()).toContain('missing: whether that is strong enough');
    await again.press('Strong enough');
    await again.press('Record its strength');
    expect(api.sent[0]!.map(({ kind, body }) => [kind, body])).toEqual([
      ['sanitiser.check', { mixId: mix!.id, strength: { how: 'strip', shown: '200 ppm', passed: true } }],
    ]);
  });

  it('a scale says what was weighed on it, and what is in doubt when it is found wrong', async () => {
    const lots = [{ code: 'NY26-331-B', at: '2026-11-27T08:00:00Z', grams: 168.5 }];
    const open5c = (more: object) =>
      open(INES, { ...REPLY, equipment: [piece('5C01', { weighed: { times: 3, lots }, ...more })] });
    const page = await open5c({});
    await page.press('5C01');
    expect(page.text()).toContain('3 times so far; the last 1 of them.');
    expect(page.text()).toContain('NY26-331-B168.5 g');
    TestBed.resetTestingModule();
    const wrong = await open5c({ due: 'failed' });
    await wrong.press('5C01');
    expect(wrong.text()).toContain('these masses are in doubt');
  });

  it('an owner adds one; a maker is told who does; an inspector records nothing', async () => {
    const own = await open(ODILE);
    await own.press('Add');
    await own.type('Tag', 's7');
    await own.type('Name', 'Spice scale');
    await own.type('Weighs up to', '500 g');
    expect(own.text()).toContain('missing: its smallest step');
    await own.type('Smallest step', '0.1 g');
    await own.press('Add S7');
    expect(api.sent[0]![0]!.body).toEqual(jasmine.objectContaining({ tag: 'S7', capacityGrams: 500, stepGrams: 0.1 }));
    TestBed.resetTestingModule();
    const made = await open();
    await made.press('Add');
    expect(made.text()).toContain('An owner of the house adds equipment');
    TestBed.resetTestingModule();
    const looks = await open(INSPECTOR);
    await looks.press('5C01');
    expect(looks.element.querySelector('ct-equipment-look form')).toBeNull();
  });
});

import { leavesResidue } from '@clear-tally/core';
import { TestBed } from '@angular/core/testing';
import type { EquipmentReply, HouseReply } from '@clear-tally/contract';
import { FakeApi, inHouse, INSPECTOR, within } from '../../state/testing';
import { Cleaning } from './cleaning';
import { aPiece } from './equipment.testing';

type Vessel = HouseReply['vessels'][number];
const vessel = (tag: string, more: Partial<Vessel> = {}): Vessel => ({
  id: `018f6b1e-0000-7000-8000-0000000000${tag.toLowerCase()}`,
  tag,
  shape: 'crock',
  brimMl: 20_000,
  maxFill: 0.8,
  minFill: 0.5,
  closure: 'airlock',
  roomId: '018f6b1e-0000-7000-8000-0000000000f0',
  inUse: true,
  takenBy: null,
  cleanedAt: '2026-11-20T08:00:00Z',
  cleanedWith: 'soap',
  usedSince: false,
  weightVolumeMl: 0,
  inner: null,
  details: {},
  ...more,
});

describe('the cleaning list', () => {
  let api: FakeApi;
  const equipment: EquipmentReply = {
    now: '2026-11-27T09:00:00Z',
    equipment: [aPiece('T1')],

    rooms: [{ id: '018f6b1e-0000-7000-8000-0000000000f0', name: 'Net loft', cleaned: null }],
    mixes: [
      ['a1', 'SAN26-0001', '2026-11-27T08:59:00Z', true] as const,
      ['a2', 'SAN26-0002', '2026-11-28T08:00:00Z', true] as const,
      ['a3', 'SAN26-0003', '2026-11-28T08:00:00Z', false] as const,
    ].map(([id, code, goodUntil, passed]) => ({
      id: `018f6b1e-0000-7000-8000-0000000000${id}`,
      code,
      agent: 'peracetic acid',
      dilution: '20 mL to 10 L',
      litres: 10,
      strength: 'strip: 200 ppm',
      unchecked: null,
      passed,
      at: '2026-11-26T08:00:00Z',
      by: 'IC',
      goodUntil,
      used: 0,
    })),
  };
  const open = async (vessels: Vessel[], person?: typeof INSPECTOR) => {
    api = new FakeApi({ '/api/equipment': equipment });
    inHouse(api, { vessels, rooms: [] }, person);
    const fixture = TestBed.createComponent(Cleaning);
    await fixture.whenStable();
    const page = within(fixture);
    const choose = async (tag: string): Promise<void> => {
      const line = [...page.element.querySelectorAll('li')].find((one) => one.querySelector('b')!.textContent === tag)!;
      line.querySelector<HTMLElement>('input')!.click();
      await fixture.whenStable();
    };
    return { ...page, tick: choose };
  };
  const HOUSE = [
    vessel('A1'),
    vessel('A2', { usedSince: true }),
    vessel('A3', { cleanedAt: null, cleanedWith: null }),
    vessel('A4', { takenBy: 'NY26-300-A-A4' }),
    vessel('A5', { inUse: false }),
  ];

  it('shows what is due first and why; what is full or out of use is not on it', async () => {
    const page = await open(HOUSE);
    const tags = [...page.element.querySelector('ul')!.querySelectorAll('li b')].map((one) => one.textContent);
    expect(tags).toEqual(['A2', 'A3', 'A1']);
    expect(page.text()).toContain('something stood in it since; cleaned Fri 20 Nov 08:00: soap');
    expect(page.text()).toContain('no cleaning is recorded');
    expect(page.text()).toContain('2 more are full, or out of use.');
  });

  it('several are cleaned with one press, each with an entry of its own', async () => {
    const page = await open(HOUSE);
    expect(page.button('Record the cleaning').disabled).toBeTrue();
    await page.press('All of them');
    await page.press('Record A2, A3 as cleaned');
    expect(api.sent[0]!.map(({ kind, body }) => [kind, body])).toEqual([
      ['vessel.clean', { vesselId: HOUSE[1]!.id, agent: 'hot soapy water', rinsed: true, noRinse: false }],
      ['vessel.clean', { vesselId: HOUSE[2]!.id, agent: 'hot soapy water', rinsed: true, noRinse: false }],
    ] as never);
  });

  it('what leaves something behind asks for the rinse, or for the word of its sheet', async () => {
    const page = await open(HOUSE);
    await page.tick('A2');
    const ticks = (): HTMLInputElement[] => [...page.element.querySelectorAll<HTMLInputElement>('form ct-tick input')];
    ticks()[0]!.click();
    await page.settle();
    expect(page.text()).toContain('may leave something behind');
    expect(page.button('Record A2').disabled).toBeTrue();
    ticks()[1]!.click();
    await page.settle();
    expect(page.button('Record A2').disabled).toBeFalse();
  });

  it('an inspector sees it and records nothing', async () => {
    const page = await open(HOUSE, INSPECTOR);
    expect(page.element.querySelector('form')).toBeNull();
  });

  for (const [agent, leaves] of [
    ['hot soapy water', true],
    ['sodium hypochlorite', true],
    ['iodophor', true],
    ['percarbonate wash', true],
    ['something new from the shop', true],
    ['vinegar-scented soap', true],
    ['water with a little bleach', true],
    ['hot water', false],
    ['vinegar 5 %', false],
    ['ethanol 70 %', false],
  ] as const)
    it(`${agent} ${leaves ? 'asks for a rinse' : 'asks for none'}`, () => expect(leavesResidue(agent)).toBe(leaves));

  it('tools and rooms go with the same press, with a batch of sanitiser that may still be used', async () => {
    const page = await open(HOUSE);
    await page.choose('Sanitiser', '018f6b1e-0000-7000-8000-0000000000a2');
    expect(page.field('With').value).toBe('peracetic acid');
    for (const one of ['A2', 'T1, Shredder', 'Net loft']) await page.tick(one);
    await page.press('Record A2, T1, Net loft as cleaned');
    expect(api.sent[0]!.map(({ kind, body }) => [kind, (body as { what?: object }).what ?? null])).toEqual([
      ['vessel.clean', null],
      ['equipment.clean', { what: 'equipment', equipmentId: equipment.equipment[0]!.id }],
      ['equipment.clean', { what: 'room', roomId: equipment.rooms[0]!.id }],
    ]);
    expect(new Set(api.sent[0]!.map(({ body }) => (body as { mixId?: string }).mixId))).toEqual(
      new Set(['018f6b1e-0000-7000-8000-0000000000a2']),
    );
  });
});

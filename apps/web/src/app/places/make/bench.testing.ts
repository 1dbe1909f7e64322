import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { BodyOf, DeviceReply, HouseReply, SuppliesReply } from '@clear-tally/contract';
import { devicesWire } from '../../state/devices';
import { FakeApi, INES, inHouse, INSPECTOR, ODILE, within } from '../../state/testing';
import { Timers } from '../../state/timers';
import { id } from './one-batch.testing';

type Reply = Record<string, object>;
export type Person = typeof INES | typeof ODILE | typeof INSPECTOR;
export const supply = (
  last: string,
  materialName: string,
  over: Partial<SuppliesReply['lots'][number]> = {},
): SuppliesReply['lots'][number] => ({
  lotId: id(last),
  code: `LM-00${last}`,
  materialId: id('e2'),
  materialName,
  supplierName: 'Low Mill',
  supplierLotCode: 'x',
  onHandGrams: 2000,
  receivedAt: '2026-11-01T07:00:00Z',
  useBy: null,
  hold: null,
  until: null,
  keeps: 'noDate',
  days: null,
  state: 'asReceived',
  unit: 'g',
  standsFor: null,
  ...over,
});
const salts = {
  lots: [supply('50', 'Fine table salt'), supply('51', 'Coarse pan salt', { code: 'SP-0003', materialId: id('ea') })],
};
const materials = [
  {
    id: id('e2'),
    name: 'Juniper berries',
    kind: 'flavouring' as const,
    waterFraction: 0.1,
    saltFraction: 0,
    allergens: [],
    caution: null,
    details: { pieceName: 'bunches' },
  },
  {
    id: id('e4'),
    name: 'Reisessig',
    kind: 'flavouring' as const,
    waterFraction: 0.95,
    saltFraction: 0,
    allergens: [],
    caution: null,
    details: { standsFor: 'vinegar' as const },
  },
  {
    id: id('e3'),
    name: 'Dill seed',
    kind: 'flavouring' as const,
    waterFraction: 0.1,
    saltFraction: 0,
    allergens: [],
    caution: null,
    details: {},
  },
];
export const SCALE: DeviceReply = {
  id: 'scale-a',
  kind: 'scale',
  name: 'Scale A',
  simulated: true,
  connected: true,
  ranges: [{ capacityGrams: 3000, stepGrams: 1 }],
  scale: null,
  ph: null,
  celsius: null,
  printer: null,
  garbled: 0,
};

/** A scale of the register. */
export const registered = (
  tag: string,
  capacityGrams: number,
  stepGrams: number,
  over: Partial<HouseReply['scales'][number]> = {},
): HouseReply['scales'][number] => ({
  id: `018f6b1e-0000-7000-8000-00000000${[...tag]
    .map((one) => one.charCodeAt(0).toString(16))
    .join('')
    .slice(-4)}`,
  tag,
  name: 'A scale',
  capacityGrams,
  stepGrams,
  inUse: true,
  passed: true,
  checkedAt: new Date().toISOString(),
  ...over,
});

/** The wire of the house opened last. */
export let api: FakeApi;
/** A house with a wire that answers these addresses, and the bench's own. */
export function house(replies: Reply = {}, person: Person = INES, of: Partial<HouseReply> = {}): void {
  api = new FakeApi({
    '/api/supplies?kind=salt': salts,
    '/api/timers': { now: new Date().toISOString(), timers: [] },
    '/api/supplies': { lots: [supply('60', 'Juniper berries'), supply('61', 'Damsons', { materialId: id('e9') })] },
    '/api/making': { batches: [] },
    ...replies,
  });
  inHouse(api, { materials: [...materials], ...of }, person, [Timers]);
}
export async function open<T>(component: new (...args: never[]) => T, inputs: Record<string, unknown>) {
  const fixture = TestBed.createComponent(component as never);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  await fixture.whenStable();
  return Object.assign(within(fixture), { fixture });
}
/** The first body sent of a kind. */
export const body = <
  K extends
    | 'salt.weigh'
    | 'step.finish'
    | 'line.settle'
    | 'ingredient.add'
    | 'brine.left'
    | 'leaf.rinse'
    | 'leaf.drain'
    | 'produce.weigh'
    | 'preparation.make'
    | 'vessel.close'
    | 'label.print'
    | 'salt.confirm',
>(
  kind: K,
): BodyOf<K> => api.sent.flat().find((entry) => entry.kind === kind)!.body as BodyOf<K>;
/** What the simulated scale says. */
export const onScale = (
  grams: number,
  over: Partial<{ settled: boolean; unit: 'g' | 'oz'; tareGrams: number }> = {},
): void =>
  TestBed.inject(Store).dispatch(
    devicesWire.noteArrived({
      note: {
        id: 'scale-a',
        device: {
          ...SCALE,
          scale: {
            state: 'reading',
            reading: { value: grams, unit: 'g', grams, settled: true, tareGrams: 214, range: 1, ...over },
          },
        },
      },
    }),
  );

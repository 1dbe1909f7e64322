import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { DeviceReply } from '@clear-tally/contract';
import { readDeviceLine } from '@clear-tally/core';
import {
  devicesFeature,
  devicesPage,
  devicesWire,
  selectDevices,
  selectPrinter,
  selectScale,
  selectSimulated,
} from './devices';
import { Scans } from './scans';
import { TabletScale } from './tablet-scale';
import { FakeApi, inHouse } from './testing';

const device = (id: string, kind: DeviceReply['kind'], over: Partial<DeviceReply> = {}): DeviceReply => ({
  id,
  kind,
  name: id,
  simulated: true,
  connected: true,
  ranges: [],
  scale: null,
  ph: null,
  celsius: null,
  printer: null,
  garbled: 0,
  ...over,
});

describe('the devices of the bench', () => {
  let store: Store;
  const arrive = (one: DeviceReply, more: object = {}): void =>
    store.dispatch(devicesWire.noteArrived({ note: { id: one.id, device: one, ...more } }));
  beforeEach(() => {
    inHouse(new FakeApi());
    store = TestBed.inject(Store);
  });

  it('scales come first, then the printer, then the scanner', () => {
    [device('s', 'scanner'), device('p', 'printer'), device('b', 'scale'), device('a', 'scale')].forEach((one) =>
      arrive(one),
    );
    expect(
      store
        .selectSignal(selectDevices)()
        .map((one) => one.id),
    ).toEqual(['a', 'b', 'p', 's']);
    expect(store.selectSignal(selectPrinter)()!.id).toBe('p');
  });
  it('a line that has not said who it is is no device yet', () => {
    arrive(device('x', null));
    expect(store.selectSignal(selectDevices)()).toEqual([]);
  });
  it('the scale of this tablet is the chosen one, or the first', () => {
    [device('a', 'scale'), device('b', 'scale', { simulated: false })].forEach((one) => arrive(one));
    expect(store.selectSignal(selectScale)()!.id).toBe('a');
    store.dispatch(devicesPage.scaleChosen({ id: 'b' }));
    expect(store.selectSignal(selectScale)()!.id).toBe('b');
    expect(
      store
        .selectSignal(selectSimulated)()
        .map((one) => one.id),
    ).toEqual(['a']);
  });
  it('the last label that came out stays in sight', () => {
    arrive(device('p', 'printer'), { paper: { job: '1', svg: 'PHN2Zz4=' } });
    arrive(device('p', 'printer'));
    expect(store.selectSignal(devicesFeature.selectPaper)()).toEqual({ job: '1', svg: 'PHN2Zz4=' });
  });
  it('a scale on the tablet’s own port speaks the same lines', () => {
    const tablet = TestBed.inject(TabletScale);
    tablet.hear(readDeviceLine('HELLO scale name=Old_scale simulated=no ranges=6000x1'));
    tablet.hear(readDeviceLine('READ 40 g settled tare=0 range=1'));
    tablet.hear(readDeviceLine('READ 4'));
    const scale = store.selectSignal(selectScale)()!;
    expect([scale.name, scale.scale!.state, scale.garbled]).toEqual(['Old scale, on this tablet', 'reading', 1]);
  });
});

describe('a scanned code', () => {
  it('goes to the last that asked for it, and to nobody when none wants it', () => {
    const scans = new Scans();
    const taken: string[] = [];
    const leave = scans.add((code) => code.startsWith('SP') && taken.push(`list ${code}`) > 0);
    scans.add((code) => code === 'SP-0003' && taken.push(`newer ${code}`) > 0);
    expect([scans.offer('SP-0003'), scans.offer('SP-0001'), scans.offer('NY26')]).toEqual([true, true, false]);
    leave();
    expect(scans.offer('SP-0001')).toBeFalse();
    expect(taken).toEqual(['newer SP-0003', 'list SP-0001']);
  });
});

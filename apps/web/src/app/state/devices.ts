import { createActionGroup, createFeature, createReducer, createSelector, emptyProps, on, props } from '@ngrx/store';
import { DEVICE_KINDS } from '@clear-tally/core';
import type { DeviceNote, DeviceReply } from '@clear-tally/contract';

/** The bench as this tablet sees it. Readings pass through here many times a second; none of them is an entry. */
export interface DevicesState {
  readonly byId: Readonly<Record<string, DeviceReply>>;
  /** The scale this tablet weighs on. */
  readonly scaleId: string | null;
  readonly paper: { readonly job: string; readonly svg: string } | null;
  readonly drawer: boolean;
}

export const devicesPage = createActionGroup({
  source: 'Bench',
  events: { 'Scale chosen': props<{ id: string }>(), 'Drawer toggled': emptyProps() },
});
export const devicesWire = createActionGroup({
  source: 'Devices wire',
  events: { 'Note arrived': props<{ note: DeviceNote }>() },
});

export const devicesFeature = createFeature({
  name: 'devices',
  reducer: createReducer(
    { byId: {}, scaleId: null, paper: null, drawer: false } as DevicesState,
    on(devicesWire.noteArrived, (state, { note }): DevicesState => ({
      ...state,
      paper: note.paper ?? state.paper,
      byId: note.device.kind === null ? state.byId : { ...state.byId, [note.id]: note.device },
    })),
    on(devicesPage.scaleChosen, (state, { id }): DevicesState => ({ ...state, scaleId: id })),
    on(devicesPage.drawerToggled, (state): DevicesState => ({ ...state, drawer: !state.drawer })),
  ),
});

export const selectDevices = createSelector(devicesFeature.selectById, (byId) =>
  Object.values(byId).sort(
    (a, b) => DEVICE_KINDS.indexOf(a.kind!) - DEVICE_KINDS.indexOf(b.kind!) || (a.id < b.id ? -1 : 1),
  ),
);
export const selectScales = createSelector(selectDevices, (devices) =>
  devices.filter((device) => device.kind === 'scale'),
);
/** The chosen one, or the first there is. */
export const selectScale = createSelector(
  selectScales,
  devicesFeature.selectScaleId,
  (scales, id): DeviceReply | null => scales.find((scale) => scale.id === id) ?? scales[0] ?? null,
);
export const selectPrinter = createSelector(
  selectDevices,
  (devices) => devices.find((device) => device.kind === 'printer') ?? null,
);
/** A pH meter on the bench that speaks. */
export const selectPhMeter = createSelector(
  selectDevices,
  (devices) => devices.find((device) => device.kind === 'phMeter' && device.ph !== null) ?? null,
);
/** A probe in the kettle that speaks. */
export const selectThermometer = createSelector(
  selectDevices,
  (devices) => devices.find((device) => device.kind === 'thermometer' && device.celsius !== null) ?? null,
);
export const selectSimulated = createSelector(selectDevices, (devices) => devices.filter((device) => device.simulated));

import { DEVICE_KINDS, PRINTER_STATES, type ScaleUnit, UNIT_GRAMS } from '@clear-tally/core';
import { z } from 'zod';

const scaleStanding = z.discriminatedUnion('state', [
  z.strictObject({ state: z.literal('silent') }),
  z.strictObject({ state: z.literal('over') }),
  z.strictObject({
    state: z.literal('reading'),
    reading: z.strictObject({
      value: z.number(),
      unit: z.enum(Object.keys(UNIT_GRAMS) as [ScaleUnit, ...ScaleUnit[]]),
      grams: z.number(),
      settled: z.boolean(),
      tareGrams: z.number(),
      range: z.int(),
    }),
  }),
]);

/** A device as it stands; `kind` is null until it has said who it is. */
export const deviceReply = z.strictObject({
  id: z.string(),
  kind: z.enum(DEVICE_KINDS).nullable(),
  name: z.string(),
  simulated: z.boolean(),
  connected: z.boolean(),
  ranges: z.array(z.strictObject({ capacityGrams: z.number(), stepGrams: z.number() })),
  /** Of a pH meter; null when it is silent or none. */
  ph: z.strictObject({ ph: z.number(), millivolts: z.number(), celsius: z.number(), settled: z.boolean() }).nullable(),
  /** Of a thermometer, °C; null when it is silent or none. */
  celsius: z.number().nullable(),
  scale: scaleStanding.nullable(),
  printer: z.strictObject({ state: z.enum(PRINTER_STATES), labels: z.int() }).nullable(),
  garbled: z.int(),
});

/** What the live line says of a device: how it stands now; what it scanned or printed, once. */
export const deviceNote = z.strictObject({
  id: z.string(),
  device: deviceReply,
  scanned: z.string().optional(),
  paper: z.strictObject({ job: z.string(), svg: z.string() }).optional(),
});

export const devicesReply = z.strictObject({ devices: z.array(deviceReply) });

export type DeviceReply = z.infer<typeof deviceReply>;

export type DeviceNote = z.infer<typeof deviceNote>;

export type DevicesReply = z.infer<typeof devicesReply>;

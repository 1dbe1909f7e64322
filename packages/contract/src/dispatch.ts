import { GONE_SAID } from '@clear-tally/core';
import { z } from 'zod';
import { jarStretch } from './release.js';
import { day, entryOf, id, iso, text } from './shape.js';

const CUSTOMER_KINDS = ['shop', 'kitchen', 'market', 'box', 'private', 'other'] as const;

const customerBody = z.strictObject({
  customerId: id,
  name: text(120),
  customerKind: z.enum(CUSTOMER_KINDS),
  address: text(300).nullable(),
  /** A telephone number or a mail address: who is called when something is wrong. */
  contact: text(200).nullable(),
});

export const customerAdd = entryOf('customer.add', customerBody);
/** As it is from now on; closed: nothing more is sent there, and what they have stays known. */
export const customerChange = entryOf('customer.change', customerBody.extend({ closed: z.boolean() }));

/** Serials of a run, both ends with it. */
export const jarsOfRun = z
  .strictObject({ runLotId: id, first: z.int().min(1).max(99_999), last: z.int().min(1).max(99_999) })
  .refine(({ first, last }) => first <= last, 'the first serial comes before the last');

const someJars = z.array(jarsOfRun).min(1).max(200);

/** To another place of the house: the cold store, the van, the stall. */
export const jarsMove = entryOf('jars.move', z.strictObject({ jars: someJars, roomId: id }));

/** To a customer by name, with a delivery note. */
export const jarsDispatch = entryOf(
  'jars.dispatch',
  z.strictObject({
    dispatchId: id,
    customerId: id,
    jars: someJars,
    note: text(300).nullable(),
    /** The order it answers: nothing more is asked for by it. */
    orderId: id.optional(),
  }),
);

/** What a customer wants, by product and size. */
export const orderTake = entryOf(
  'order.take',
  z.strictObject({
    orderId: id,
    customerId: id,
    wantedOn: day.nullable(),
    lines: z
      .array(
        z.strictObject({
          formulaId: id,
          sizeMl: z.int().min(20).max(20_000),
          count: z.int().min(1).max(99_999),
        }),
      )
      .min(1)
      .max(40),
    note: text(300).nullable(),
  }),
);

/** An order that is not filled any more, with its reason. */
export const orderClose = entryOf('order.close', z.strictObject({ orderId: id, reason: text(300) }));

/** Open orders, the soonest wanted first; and what can be ordered. */
export const ordersReply = z.strictObject({
  orders: z.array(
    z.strictObject({
      orderId: id,
      code: z.string(),
      customerId: id,
      customer: z.string(),
      wantedOn: z.string().nullable(),
      note: z.string().nullable(),
      takenAt: iso,
      by: z.string(),
      lines: z.array(z.strictObject({ formulaId: id, name: z.string(), sizeMl: z.int(), count: z.int() })),
    }),
  ),
  products: z.array(z.strictObject({ formulaId: id, name: z.string(), sizeMl: z.int() })),
});

export type OrdersReply = z.infer<typeof ordersReply>;

/** Sold at a market, given away, eaten, broken, opened: nobody by name has them. */
export const jarsOut = entryOf(
  'jars.out',
  z.strictObject({ jars: someJars, how: z.enum(GONE_SAID), note: text(300).nullable() }),
);

/** Back from who had them. They are not sold again. */
export const jarsBack = entryOf('jars.back', z.strictObject({ jars: someJars, roomId: id, reason: text(300) }));

export const customersReply = z.strictObject({
  customers: z.array(
    z.strictObject({
      customerId: id,
      name: z.string(),
      customerKind: z.enum(CUSTOMER_KINDS),
      address: z.string().nullable(),
      contact: z.string().nullable(),
      closed: z.boolean(),
      jars: z.int(),
      lastAt: iso.nullable(),
    }),
  ),
});

/** What stands in the house by run and place, oldest first; and what went out lately. */
export const jarsReply = z.strictObject({
  rooms: z.array(z.strictObject({ id, name: z.string() })),
  runs: z.array(
    z.strictObject({
      lotId: id,
      code: z.string(),
      name: z.string(),
      packedAt: iso,
      storage: z.string().nullable(),
      formulaId: id.nullable(),
      /** Why nothing of it leaves; null: it may. */
      refusal: z.string().nullable(),
      stretches: z.array(jarStretch),
    }),
  ),
  sent: z.array(
    z.strictObject({
      dispatchId: id,
      code: z.string(),
      at: iso,
      by: z.string(),
      customer: z.string(),
      count: z.int(),
      runs: z.array(z.string()),
      note: z.string().nullable(),
    }),
  ),
});

export type CustomersReply = z.infer<typeof customersReply>;
export type JarsReply = z.infer<typeof jarsReply>;

import type { OrdersReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';

interface OrderRow extends Omit<OrdersReply['orders'][number], 'takenAt' | 'lines'> {
  takenAt: Date;
  lines: { formulaId: string; sizeMl: number; count: number }[];
}

/** Open orders, the soonest wanted first; and every product that can be ordered, by the formulas in use. */
export async function readOrders(reader: Reader): Promise<OrdersReply> {
  const products = await rows<OrdersReply['products'][number]>(
    reader,
    sql`
    select f.formula_id as "formulaId", f.name, (size->>'sizeMl')::int as "sizeMl"
    from (select distinct on (formula_id) formula_id, name, data from formula order by formula_id, version desc) f, jsonb_array_elements(f.data->'jarSizes') size
    order by f.name, 3`,
  );
  const names = new Map(products.map(({ formulaId, name }) => [formulaId, name]));
  const orders = await rows<OrderRow>(
    reader,
    sql`
    select o.id as "orderId", o.code, o.customer_id as "customerId", c.name as customer, o.wanted_on::text as "wantedOn", o.note, o.at as "takenAt", p.initials as by, o.lines
    from customer_order o join customer c on c.id = o.customer_id join person p on p.id = o.by where o.state = 'open' order by o.wanted_on nulls last, o.at`,
  );
  return {
    products,
    orders: orders.map(({ takenAt, lines, ...row }) => ({
      ...row,
      takenAt: new Date(takenAt).toISOString(),
      lines: lines.map((line) => ({ ...line, name: names.get(line.formulaId) ?? 'a product of before' })),
    })),
  };
}

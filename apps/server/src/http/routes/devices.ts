import { type DevicesReply, id } from '@clear-tally/contract';
import type { Label } from '@clear-tally/core';
import type Router from '@koa/router';
import { z } from 'zod';
import { refused } from '../../journal/refused.js';
import type { JarSheet } from '../../papers/jarSheet.js';
import { labelsOf } from '../../papers/lotLabel.js';
import { sheetOf } from '../../papers/jarLabel.js';
import { type Ctx, type Deps, houseAddress, signedIn } from '../context.js';

const uuid = id;

const command = z.strictObject({
  line: z
    .string()
    .regex(
      /^(TARE|ZERO|UNIT (g|kg|oz|lb)|CAL \d{1,3}(\.\d{1,2})? -?\d{1,3}(\.\d{1,2})?|SIM [A-Za-z0-9 .:/_-]{1,160})$/,
      'TARE, ZERO, UNIT g, CAL slope offset, or what a hand does to a simulated device',
    ),
});

const printing = z.strictObject({ lots: z.array(uuid).min(1).max(60), copies: z.number().int().min(1).max(10) });

const printingJar = z.strictObject({ code: z.string().max(40), designId: uuid, serial: z.int().min(1).max(99_999) });

/** Scales, printers and scanners: how they stand, and the few words that are said to them. Live they come by `/api/live`. */
export function deviceRoutes(router: Router, deps: Deps): void {
  const { bench } = deps;
  router.get('/api/devices', async (ctx) => {
    await signedIn(ctx, deps);
    ctx.body = { devices: bench?.list() ?? [] } satisfies DevicesReply;
  });
  router.post('/api/devices/:id/command', async (ctx) => {
    await mayUse(ctx, deps);
    const { line } = command.parse(ctx.request.body);
    await bench!.command(ctx.params['id']!, line);
    ctx.body = { done: true };
  });
  router.post('/api/devices/:id/print', async (ctx) => {
    await mayUse(ctx, deps);
    const { lots, copies } = printing.parse(ctx.request.body);
    const labels = await labelsOf(deps.db, { lotIds: lots, base: await houseAddress(ctx, deps) });
    for (const label of labels)
      for (let copy = 0; copy < copies; copy += 1) await bench!.print(ctx.params['id']!, label);
    ctx.body = { printed: labels.length * copies };
  });
  router.post('/api/devices/:id/print-jar', async (ctx) => {
    await mayUse(ctx, deps);
    const { code, designId, serial } = printingJar.parse(ctx.request.body);
    const asked = { designId, first: serial, last: serial, skip: 0, base: await houseAddress(ctx, deps) };
    await bench!.print(ctx.params['id']!, labelOf(await sheetOf(deps.reader, code, asked)));
    ctx.body = { printed: 1 };
  });
}

/** One label of a sheet, as a label printer takes it. */
function labelOf({ design, laid, jars }: JarSheet): Label {
  if (design.symbol && design.symbol.kind !== 'qrcode')
    throw refused('label.lacks', 'This printer draws QR symbols. Labels with the others leave as sheets.', {
      field: 'symbol',
    });
  return {
    widthMm: design.paper.widthMm,
    heightMm: design.paper.heightMm,
    texts: laid.texts.map(({ words, bold, xMm, yMm, points }) => ({ words, bold, xMm, yMm, points })),
    symbol: laid.symbol && { ...laid.symbol, content: jars[0]!.content },
  };
}

async function mayUse(ctx: Ctx, deps: Deps): Promise<void> {
  const person = await signedIn(ctx, deps);
  if (person.role === 'inspector')
    throw refused('who.notAllowed', 'An inspector’s sign-in reads everything and touches no device.');
  if (!deps.bench) throw refused('device.unknown', 'No device is connected to this house. The start command says how.');
}

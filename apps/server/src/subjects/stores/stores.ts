import type { BodyOf } from '@clear-tally/contract';
import {
  calendarDay,
  checkMass,
  checkPieces,
  decideAtDoor,
  decideCount,
  doorWords,
  formatAmount,
  formatGrams,
  stateAtDoor,
  STATE_WORDS,
  supplyCode,
  unitOfKind,
} from '@clear-tally/core';
import { eq, inArray } from 'drizzle-orm';
import { lot } from '../../db/schema/ledger.js';
import { material, supplier } from '../../db/schema/stores.js';
import { ask, happened } from '../../journal/asItHappened.js';
import type { InHand } from '../../journal/handler.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { countWords } from '../../lots/lineWords.js';
import { addArrivals, addLots, addMovements, balance, codeFor, loadLot } from '../../lots/lots.js';
import { laterSaid } from '../../lots/laterSaid.js';
import { hasPhoto } from '../../lots/photos.js';

export const supplierAdd = kind('supplier.add', {
  who: 'owner',
  words: 'Supplier added',
  does: 'the house is set up',
  makes: 'supplierId',
  correct: 'book',
  record: async ({ tx, body }) => {
    await tx
      .insert(supplier)
      .values({ id: body.supplierId, name: body.name, prefix: body.prefix, ownPlot: body.ownPlot ?? false });
    return {};
  },
  line: ({ entry }) => ({ what: 'Supplier added', words: entry.body.name }),
});

type Line = BodyOf<'supply.receive'>;

/** A delivered line becomes a supply lot with a code of the house beside the supplier's own. */
export const supplyReceive = kind('supply.receive', {
  who: 'maker',
  words: 'Received',
  does: "a line, or lines that came together with their paper, become supply lots: our code beside the supplier's; what is sent back at the door leaves again with its reason",
  correct: 'ledger',
  record: async (recording) => {
    const [code] = await receiveLines(recording, [recording.body], { reference: null, photo: null, at: () => '' });
    return { facts: { code }, lots: [recording.body.lotId] };
  },
  line: ({ entry }) => ({
    what: 'Received',
    words: `supplier’s lot ${entry.body.supplierLotCode}${entry.body.door ? ` · ${doorWords(entry.body.door)}` : ''}${entry.body.condition ? ` · ${entry.body.condition}` : ''}${entry.body.rejected ? ` · ${formatGrams(entry.body.rejected.grams)} sent back: ${entry.body.rejected.reason}` : ''}`,
    figure: formatGrams(entry.body.grams),
  }),
});

/** Lines that came together; one that is refused keeps all of them out, and is named by its place. */
export const deliveryReceived = kind('delivery.receive', {
  who: 'maker',
  words: 'Delivery received',
  does: "a line, or lines that came together with their paper, become supply lots: our code beside the supplier's; what is sent back at the door leaves again with its reason",
  correct: 'ledger',
  record: async (recording) => {
    const { lines, reference, photo } = recording.body;
    if (photo && !(await hasPhoto(recording.tx, photo)))
      throw refused(
        'lot.unknown',
        'The photo of the paper has not arrived. Send it again, or receive the delivery without it.',
        { field: 'photo' },
      );
    const codes = await receiveLines(recording, lines, {
      reference,
      photo: photo ?? null,
      at: (index) => `lines.${index}.`,
    });
    return { facts: { codes }, lots: lines.map((line) => line.lotId) };
  },
  line: ({ entry }) => ({
    what: 'Delivery received',
    words: `${entry.body.lines.length} ${entry.body.lines.length === 1 ? 'line' : 'lines'}`,
  }),
});

/** Checks the lines, issues their codes and writes lots and movements, a whole list at once. */
async function receiveLines(
  recording: InHand,
  lines: readonly Line[],
  options: { reference: string | null; photo: string | null; at: (index: number) => string },
): Promise<string[]> {
  const { tx, at } = recording;
  const materials = new Map(
    (
      await tx
        .select()
        .from(material)
        .where(inArray(material.id, [...new Set(lines.map((line) => line.materialId))]))
    ).map((row) => [row.id, row]),
  );
  const suppliers = new Map(
    (
      await tx
        .select()
        .from(supplier)
        .where(inArray(supplier.id, [...new Set(lines.map((line) => line.supplierId))]))
        .for('update')
    ).map((row) => [row.id, row]),
  );
  const numbers = new Map([...suppliers].map(([id, row]) => [id, row.lotsReceived]));
  const codes = lines.map((line, index): string => {
    const field = (name: string): string => `${options.at(index)}${name}`;
    const what = materials.get(line.materialId);
    const from = suppliers.get(line.supplierId);
    if (!what)
      throw refused('lot.unknown', 'This material is not known in this house. Choose it from the list.', {
        field: field('materialId'),
      });
    if (!from)
      throw refused('lot.unknown', 'This supplier is not known in this house. Choose one from the list.', {
        field: field('supplierId'),
      });
    if (what.details.standsFor === 'keptBrine')
      throw refused(
        'stock.keptBrine',
        `${what.name} is not delivered: it is taken off a vessel of this house (“Keep brine” on its page), so that it always has its donor, with its allergens and its pH. A bought culture is a material of its own.`,
        { field: field('materialId') },
      );
    const unit = unitOfKind(what.kind);
    if (unit === 'piece') must(checkPieces({ amount: line.grams, what: what.name, field: field('grams') }));
    must(checkMass({ grams: line.grams, what: what.name, field: field('grams') }));
    ask(tx, decideAtDoor({ what: what.name, asks: what.details.atDoor ?? [], door: line.door, field: field('door') }));
    if (line.rejected) {
      must(checkMass({ grams: line.rejected.grams, what: 'what is sent back', field: field('rejected.grams') }));
      if (line.rejected.grams > line.grams)
        throw refused(
          'lot.overdrawn',
          `${formatAmount(line.rejected.grams, unit)} is more than the ${formatAmount(line.grams, unit)} that came. What is sent back is part of it.`,
          { field: field('rejected.grams') },
        );
    }
    const number = numbers.get(from.id)! + 1;
    numbers.set(from.id, number);
    return codeFor(recording, line.lotId, supplyCode(from.prefix, number));
  });
  for (const [id, lotsReceived] of numbers) await tx.update(supplier).set({ lotsReceived }).where(eq(supplier.id, id));
  await addLots(
    recording,
    lines.map((line, index) => {
      const what = materials.get(line.materialId)!;
      return {
        id: line.lotId,
        code: codes[index]!,
        kind: 'supply' as const,
        name: what.name,
        origin: 'received' as const,
        at,
        materialId: what.id,
        supplierId: line.supplierId,
        supplierLotCode: line.supplierLotCode,
        useBy: line.useBy,
        metered: what.kind !== 'water',
        cost: line.cost,
        reference: options.reference,
        condition: line.condition,
        door: line.door ?? null,
        state: stateAtDoor(line.door),
        photo: options.photo,
      };
    }),
  );
  await addArrivals(
    recording,
    lines.map((line) => ({ lotId: line.lotId, grams: line.grams, returnedGrams: line.rejected?.grams ?? 0 })),
  );
  return codes;
}

/** The ledger is put right to what was counted; nothing is overwritten: the difference is a movement of its own. */
export const stockCounted = kind('stock.count', {
  who: 'maker',
  words: 'Stock counted',
  does: 'what stands there; the difference is a movement, a larger one with its reason',
  correct: 'ledger',
  record: async (recording) => {
    const { tx, body, at } = recording;
    const of = await loadLot(tx, body.lotId, 'lotId', ['supply']);
    if (!of.metered) throw refused('lot.wrongKind', `${of.code} is a tap: it is not counted down.`, { field: 'lotId' });
    const { atGrams } = await balance(tx, of, at);
    const [what] = await tx
      .select({ kind: material.kind, name: material.name })
      .from(material)
      .where(eq(material.id, of.materialId!));
    const unit = unitOfKind(what!.kind);
    if (unit === 'piece') must(checkPieces({ amount: body.grams, what: what!.name, field: 'grams' }));
    const { differenceGrams } = must(
      decideCount({
        unit,
        code: of.code,
        expectedGrams: atGrams,
        countedGrams: body.grams,
        reason: body.reason ?? (happened(tx) ? 'as it was counted' : null),
      }),
    );
    // Less than a milligram is no movement.
    if (differenceGrams >= 0.001)
      await addMovements(recording, [
        { from: { source: 'countDifference' }, to: { lotId: of.id }, grams: differenceGrams },
      ]);
    if (differenceGrams <= -0.001)
      await addMovements(recording, [
        { from: { lot: of }, to: { sink: 'countDifference' }, grams: -differenceGrams, field: 'grams' },
      ]);
    return { facts: { expectedGrams: atGrams, differenceGrams }, lots: [of.id] };
  },
  line: ({ entry, facts }) => ({
    what: 'Counted',
    words: countWords(facts, entry.body.reason),
    figure: formatGrams(entry.body.grams),
  }),
});

export const supplyStated = kind('supply.state', {
  who: 'maker',
  words: 'State of a supply',
  does: 'opened, frozen, thawed, dried, and until when it keeps then',
  correct: 'book',
  record: async ({ tx, body, at }) => {
    const of = await loadLot(tx, body.lotId, 'lotId', ['supply']);
    // Frozen yesterday, entered after it was thawed today: it is thawed.
    if (!(await laterSaid(tx, { lotId: of.id, kind: 'supply.state', at })))
      await tx.update(lot).set({ state: body.state, keepsUntil: body.keepsUntil }).where(eq(lot.id, of.id));
    return { facts: { from: of.state }, lots: [of.id] };
  },
  line: ({ entry }) => ({
    what: `Now ${STATE_WORDS[entry.body.state]}`,
    words: entry.body.keepsUntil ? `keeps until ${calendarDay(entry.body.keepsUntil)}` : null,
  }),
});

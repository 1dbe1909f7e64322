import { decideVesselSalt, isWeak } from '@clear-tally/core';
import { eq } from 'drizzle-orm';
import { room, vessel } from '../../db/schema/house.js';
import { saltAcceptance } from '../../db/schema/ledger.js';
import { closing } from '../../db/schema/making.js';
import { ask } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { refused } from '../../journal/refused.js';
import { saltOf } from '../../lots/contents.js';
import { loadLot, refuseClosed } from '../../lots/lots.js';
import { laterSaid } from '../../lots/laterSaid.js';
import { acceptWeak } from './filling.js';

/** The lid on. Said again when it is opened and closed anew; the book keeps every time. */
export const vesselClosed = kind('vessel.close', {
  who: 'maker',
  words: 'Vessel closed',
  does: 'the lid on, from room to room, labels printed',
  correct: 'book',
  record: async ({ tx, body, at, seq, isOwner: isReviewer }) => {
    const fill = await loadLot(tx, body.lotId, 'lotId', ['fill']);
    refuseClosed(fill, 'lotId');
    const [accepted] = await tx.select().from(saltAcceptance).where(eq(saltAcceptance.batchId, fill.id));
    const salt = await saltOf(tx, fill.id);
    // Of what stood there before the ledger nobody can know any more: that is said wherever its salt stands.
    if (!accepted && fill.origin !== 'beforeLedger')
      ask(
        tx,
        decideVesselSalt({
          tag: fill.code,
          waterPhaseSalt: salt.waterPhase,
          isReviewer,
          reason: body.weakSaltReason,
          doing: 'why it is closed so',
        }),
      );
    if (body.weakSaltReason && isWeak(salt)) await acceptWeak({ tx, at, seq }, fill.id, body.weakSaltReason);
    const row = {
      lotId: fill.id,
      closure: body.closure,
      headspaceMm: body.headspaceMm,
      weightItems: body.weightItems,
      tray: body.tray ? ('yes' as const) : ('no' as const),
      at,
      seq,
    };
    await tx.insert(closing).values(row).onConflictDoUpdate({ target: closing.lotId, set: row });
    return {
      facts: { weightsIn: body.weightItems.reduce((sum, item) => sum + item.count, 0) },
      lots: [fill.id, fill.batchId!],
    };
  },
  line: ({ entry }) => ({
    what: `Closed: ${entry.body.closure}`,
    words:
      [
        entry.body.headspaceMm === null ? null : `headspace ${entry.body.headspaceMm} mm`,
        ...entry.body.weightItems.map((item) => `${item.count} × ${item.what} in`),
        entry.body.tray ? 'tray under it' : null,
      ]
        .filter(Boolean)
        .join(' · ') || null,
  }),
});

export const vesselMoved = kind('vessel.move', {
  who: 'maker',
  words: 'Vessel moved',
  does: 'the lid on, from room to room, labels printed',
  correct: 'book',
  record: async ({ tx, body, at }) => {
    const fill = await loadLot(tx, body.lotId, 'lotId', ['fill']);
    refuseClosed(fill, 'lotId');
    const [to] = await tx.select().from(room).where(eq(room.id, body.roomId));
    if (!to)
      throw refused('resource.unknown', 'This room is not known in this house. Choose one from the list.', {
        field: 'roomId',
      });
    const [from] = await tx
      .select({ name: room.name, id: room.id })
      .from(vessel)
      .innerJoin(room, eq(room.id, vessel.roomId))
      .where(eq(vessel.id, fill.vesselId!));
    // It was moved again since: where it stands now, that move said.
    const isPast = await laterSaid(tx, { lotId: fill.id, kind: 'vessel.move', at });
    if (isPast) return { facts: { from: from!.name, to: to.name }, lots: [fill.id] };
    if (from!.id === to.id)
      throw refused('correction.nothingChanged', `${fill.code} stands in ${to.name} already.`, { field: 'roomId' });
    await tx.update(vessel).set({ roomId: to.id }).where(eq(vessel.id, fill.vesselId!));
    return { facts: { from: from!.name, to: to.name }, lots: [fill.id] };
  },
  line: ({ facts }) => ({
    what: `Moved to ${String(facts['to'] ?? '')}`,
    words: `from ${String(facts['from'] ?? '')}`,
  }),
});

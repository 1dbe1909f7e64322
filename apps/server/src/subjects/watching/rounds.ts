import type { BodyOf } from '@clear-tally/contract';
import {
  CHECK_KINDS,
  checkKey,
  checkKindOf,
  besideUsual,
  decideAnswered,
  formatGrams,
  phStanding,
  QUIET_KINDS,
  titratableAcidity,
  whyNotTaste,
} from '@clear-tally/core';
import type { Transaction } from '../../db/database.js';
import { checkMark, checkPlan } from '../../db/schema/watching.js';
import { happened } from '../../journal/asItHappened.js';
import { kind } from '../../journal/kind.js';
import { must, refused } from '../../journal/refused.js';
import { TASTE_SAYS } from '../../lots/lineWords.js';
import { addMovements, loadLot, type LotRow, refuseClosed } from '../../lots/lots.js';
import { planAsks } from '../../lots/planAsks.js';
import { refuseUnknownPhoto } from '../../lots/photos.js';
import { phPoints } from '../../lots/readings.js';
import { openHolds } from '../../lots/openHolds.js';

const early = (of: LotRow, at: Date): void => {
  if (at < of.at)
    throw refused(
      'lot.notYet',
      `${of.code} was filled after the time given. Look at the time, and at the tablet’s clock.`,
      { field: 'happenedAt' },
    );
};

/** The figure or the words that a check of the house's own asks for; bounds of the others. */
async function answered(tx: Transaction, body: BodyOf<'check.make'>): Promise<{ outside: 'under' | 'over' | null }> {
  const { lotId, what, words, figure = null, note = null } = body;
  if (what !== 'own') {
    if (figure !== null && (figure < 0 || figure > 100))
      throw refused('figure.outOfRange', `${figure} was given; 0 to 100 is accepted.`, { field: 'figure' });
    return { outside: null };
  }
  if (!words) return { outside: null };
  const asks = (await planAsks(tx, [lotId])).get(lotId)?.get(words);
  if (happened(tx)) return { outside: besideUsual(asks, figure) };
  return must(decideAnswered({ name: words, asks, figure, note }));
}

/** A check made. Two people who make the same one are both kept. */
export const checkMade = kind('check.make', {
  who: 'maker',
  words: 'Looked after',
  does: 'a check of the round made; "all quiet" for several vessels, where a look answers it',
  correct: 'book',
  record: async ({ tx, entry, body, seq, at }) => {
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill', 'run', 'preparation']);
    refuseClosed(of, 'lotId');
    early(of, at);
    await refuseUnknownPhoto(tx, body.photo ?? null, 'photo');
    const { outside } = await answered(tx, body);
    await tx.insert(checkMark).values({
      entryId: entry.id,
      lotId: of.id,
      key: checkKey(body),
      what: body.what,
      words: body.words,
      quiet: body.quiet && !outside,
      figure: body.figure ?? null,
      says: null,
      detail: body.note ? { note: body.note } : {},
      photo: body.photo ?? null,
      by: entry.by,
      at,
      seq,
    });
    return { facts: { name: body.words ?? CHECK_KINDS[body.what], ...(outside ? { outside } : {}) }, lots: [of.id] };
  },
  line: ({ entry, facts }) => ({
    what: `Looked after: ${String(facts['name'] ?? '')}`,
    words: [
      typeof facts['outside'] === 'string'
        ? `${facts['outside']} what is usual`
        : checkKindOf(entry.body.what).book[entry.body.quiet ? 'quiet' : 'other'],
      entry.body.note,
    ]
      .filter(Boolean)
      .join(' · '),
    figure:
      entry.body.figure == null
        ? null
        : entry.body.what === 'salt'
          ? `${(entry.body.figure * 100).toFixed(2)} %`
          : String(entry.body.figure),
  }),
});

/** Nothing to see on many vessels: only for checks that a look answers. */
export const roundQuieted = kind('round.quiet', {
  who: 'maker',
  words: 'All quiet',
  does: 'a check of the round made; "all quiet" for several vessels, where a look answers it',
  correct: 'book',
  record: async ({ tx, entry, body, seq, at }) => {
    const lots: string[] = [];
    let checks = 0;
    const asks = await planAsks(
      tx,
      body.lots.map(({ lotId }) => lotId),
    );
    for (const { lotId, checks: asked } of body.lots) {
      const of = await loadLot(tx, lotId, 'lots', ['fill']);
      refuseClosed(of, 'lots');
      early(of, at);
      const [held] = (await openHolds(tx, [lotId])).get(lotId) ?? [];
      if (held)
        throw refused(
          'lot.onHold',
          `${of.code} is on hold: ${held.reason}. What is held is not called quiet: make each look by its own line.`,
          { field: 'lots' },
        );
      for (const { what, words } of asked) {
        if (!QUIET_KINDS.includes(what) || (what === 'own' && asks.get(lotId)?.has(words ?? '') && !happened(tx)))
          throw refused(
            'check.notQuiet',
            `“${CHECK_KINDS[what] || words}” is not answered by “all quiet”: it wants its figure, or its own line. A look, the level, floaters, an airlock are.`,
            { field: 'lots' },
          );
        await tx
          .insert(checkMark)
          .values({
            entryId: entry.id,
            lotId,
            key: checkKey({ what, words }),
            what,
            words,
            quiet: true,
            figure: null,
            says: null,
            by: entry.by,
            at,
            seq,
          })
          .onConflictDoNothing();
        checks += 1;
      }
      lots.push(lotId);
    }
    return { facts: { vessels: lots.length, checks }, lots };
  },
  line: ({ entry, lotIds }) => ({
    what: 'All quiet',
    words:
      lotIds === null
        ? `${entry.body.lots.length} vessels`
        : (entry.body.lots
            .find(({ lotId }) => lotIds.includes(lotId))
            ?.checks.map(({ what, words }) => words ?? CHECK_KINDS[what])
            .join(', ') ?? null),
  }),
});

export const planChanged = kind('plan.change', {
  who: 'maker',
  words: 'Check plan changed',
  does: 'the check plan of a vessel or a batch changed on the way',
  correct: 'book',
  record: async ({ tx, body, seq, at }) => {
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill', 'batch']);
    const row = { lotId: of.id, checks: body.checks, since: at, seq };
    await tx.insert(checkPlan).values(row).onConflictDoUpdate({ target: checkPlan.lotId, set: row });
    return { lots: [of.id] };
  },
  line: ({ entry }) => ({ what: 'Check plan changed', words: entry.body.reason }),
});

export const tasted = kind('taste.record', {
  who: 'maker',
  task: 'judging',
  words: 'Tasted',
  does: 'a tasting (never above pH 4.6, never on hold); titratable acidity; "ready", said by a person',
  correct: 'ledger',
  rulesBefore: true,
  record: async (recording) => {
    const { tx, entry, body, seq, at } = recording;
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill', 'run']);
    refuseClosed(of, 'lotId');
    early(of, at);
    const standing = phStanding((await phPoints(tx, [of.id])).get(of.id)!);
    const why = whyNotTaste({
      lastPh: standing.counting?.ph ?? null,
      strictPh: standing.strict,
      onHold: ((await openHolds(tx, [of.id])).get(of.id) ?? []).length > 0,
    });
    if (why && !happened(tx))
      throw refused('taste.notYet', `${of.code}: ${why}. Nobody tastes before that.`, {
        field: 'lotId',
        facts: { lastPh: standing.last?.ph ?? null },
      });
    await tx.insert(checkMark).values({
      entryId: entry.id,
      lotId: of.id,
      key: 'taste',
      what: 'taste',
      words: null,
      quiet: true,
      figure: null,
      says: body.says,
      detail: { marks: body.marks, offNotes: body.offNotes, colourThrough: body.colourThrough, note: body.note },
      by: entry.by,
      at,
      seq,
    });
    if (body.grams > 0)
      await addMovements(recording, [{ from: { lot: of }, to: { sink: 'sample' }, grams: body.grams, field: 'grams' }]);
    return { lots: [of.id] };
  },
  line: ({ entry }) => ({
    what: `Tasted: ${TASTE_SAYS[entry.body.says]}`,
    words:
      [
        ...Object.entries(entry.body.marks).flatMap(([name, mark]) => (mark === null ? [] : [`${name} ${mark}`])),
        entry.body.offNotes && `off: ${entry.body.offNotes}`,
        entry.body.colourThrough === null ? null : entry.body.colourThrough ? 'colour through' : 'not through yet',
        entry.body.note,
      ]
        .filter(Boolean)
        .join(' · ') || null,
  }),
});

export const titrated = kind('acid.titrate', {
  who: 'maker',
  task: 'reading',
  words: 'Titrated',
  does: 'a tasting (never above pH 4.6, never on hold); titratable acidity; "ready", said by a person',
  correct: 'book',
  record: async ({ tx, entry, body, seq, at }) => {
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill', 'run']);
    early(of, at);
    if (!(
      body.millilitres > 0 &&
      body.millilitres <= 500 &&
      body.normality > 0 &&
      body.normality <= 2 &&
      body.sampleGrams > 0 &&
      body.sampleGrams <= 1000
    )) {
      throw refused(
        'mass.notPositive',
        `${body.millilitres} mL of ${body.normality} N on ${body.sampleGrams} g was given; up to 500 mL, 2 N and 1,000 g, each more than 0, are accepted.`,
        { field: 'millilitres' },
      );
    }
    const percent = titratableAcidity(body);
    await tx.insert(checkMark).values({
      entryId: entry.id,
      lotId: of.id,
      key: 'acid',
      what: 'acid',
      words: null,
      quiet: true,
      figure: percent,
      says: null,
      detail: { ...body },
      by: entry.by,
      at,
      seq,
    });
    return { facts: { percent: Math.round(percent * 1000) / 1000 }, lots: [of.id] };
  },
  line: ({ entry, facts }) => ({
    what: `Titratable acidity ${String(facts['percent'] ?? '')} %`,
    words: `${entry.body.millilitres} mL of ${entry.body.normality} N on ${formatGrams(entry.body.sampleGrams)}`,
  }),
});

export const readySaid = kind('lot.ready', {
  who: 'maker',
  task: 'judging',
  words: 'Said to be ready',
  does: 'a tasting (never above pH 4.6, never on hold); titratable acidity; "ready", said by a person',
  correct: 'book',
  rulesBefore: true,
  record: async ({ tx, entry, body, seq, at }) => {
    const of = await loadLot(tx, body.lotId, 'lotId', ['fill']);
    refuseClosed(of, 'lotId');
    const [held] = (await openHolds(tx, [of.id])).get(of.id) ?? [];
    if (body.ready && held)
      throw refused('lot.onHold', `${of.code} is on hold: ${held.reason}. It is not ready while it is held.`, {
        field: 'lotId',
      });
    await tx.insert(checkMark).values({
      entryId: entry.id,
      lotId: of.id,
      key: 'ready',
      what: 'ready',
      words: null,
      quiet: true,
      figure: null,
      says: body.ready ? 'yes' : 'no',
      detail: { note: body.note },
      by: entry.by,
      at,
      seq,
    });
    return { lots: [of.id] };
  },
  line: ({ entry }) => ({ what: entry.body.ready ? 'Ready' : 'Not ready after all', words: entry.body.note }),
});

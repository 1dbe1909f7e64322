import { sql } from 'drizzle-orm';
import { BRINE_AT_PACKING_WORDS, CHECK_KINDS, formatGrams, STATE_WORDS, STORAGE_WORDS } from '@clear-tally/core';
import { CORRECTABLE_KINDS, type BookLine, type Entry } from '@clear-tally/contract';
import { rows, type Reader } from '../db/database.js';

interface EntryRow {
  seq: string;
  recordedAt: Date;
  entry: string;
  facts: string;
  by: string;
}

/** The book of some lots: their entries by time, the newest first, corrected figures struck through beside the right one. */
export async function bookLines(reader: Reader, lotIds: readonly string[]): Promise<BookLine[]> {
  const found = await rows<EntryRow>(
    reader,
    sql`
    select distinct j.seq, j.recorded_at as "recordedAt", j.entry, j.facts, p.initials as by
    from entry_lot e join journal j on j.seq = e.seq join person p on p.id = j.by
    where e.lot_id in ${[...lotIds]} order by j.seq`,
  );
  const parsed = found.map((row) => ({
    ...row,
    entry: lineOf(JSON.parse(row.entry) as Entry, lotIds),
    facts: JSON.parse(row.facts) as Record<string, unknown>,
  }));
  const codes = await codesOf(
    reader,
    parsed.map((row) => row.entry),
  );
  const lines = new Map<string, BookLine & { words: string | null }>();
  for (const { entry, facts, seq, recordedAt, by } of parsed) {
    if (entry.kind === 'remainder.return') {
      const line = lines.get(entry.body.of);
      if (line)
        lines.set(line.entryId, {
          ...line,
          struck: [...line.struck, line.figure ?? ''],
          figure: formatGrams(Number(facts['stays'])),
          words: `${formatGrams(entry.body.grams)} back to stock, ${by}${line.words ? ` · ${line.words}` : ''}`,
        });
      continue;
    }
    if (entry.kind === 'entry.correct') {
      const line = lines.get(entry.body.corrects);
      if (!line) continue;
      const right = figureOf({ ...entry, kind: entry.body.right.kind, body: entry.body.right } as unknown as Entry);
      lines.set(entry.body.corrects, {
        ...line,
        struck: [...line.struck, line.figure ?? ''],
        figure: right.figure,
        value: right.value,
        sample: right.sample ?? line.sample,
        words: `corrected by ${by}: ${entry.body.reason}${line.words && !line.words.startsWith('corrected') ? ` · ${line.words}` : ''}`,
      });
      continue;
    }
    const { what, words } = wordsOf(entry, facts, codes, lotIds);
    lines.set(entry.id, {
      entryId: entry.id,
      seq: Number(seq),
      kind: entry.kind,
      at: new Date(entry.happenedAt).toISOString(),
      recordedAt: new Date(recordedAt).toISOString(),
      by,
      what,
      words,
      struck: [],
      correctable: (CORRECTABLE_KINDS as readonly string[]).includes(entry.kind),
      lotCode: codes.get(mainLot(entry)) ?? '',
      ...figureOf(entry),
    });
  }
  return [...lines.values()].sort((a, b) => b.at.localeCompare(a.at) || b.seq - a.seq);
}

/** Of a delivery of many lines, a lot's page shows its own. */
function lineOf(entry: Entry, lotIds: readonly string[]): Entry {
  if (entry.kind !== 'delivery.receive') return entry;
  const line = entry.body.lines.find(({ lotId }) => lotIds.includes(lotId));
  return line ? { ...entry, kind: 'supply.receive', body: line } : entry;
}

const LOT_FIELDS = [
  'lotId',
  'batchId',
  'fillLotId',
  'runLotId',
  'brineLotId',
  'supplyLotId',
  'saltLotId',
  'waterLotId',
  'fromLotId',
  'toLotId',
  'vesselId',
  'keptLotId',
] as const;

async function codesOf(reader: Reader, entries: readonly Entry[]): Promise<Map<string, string>> {
  const ids = new Set<string>();
  for (const entry of entries) {
    const body = entry.body as Record<string, unknown>;
    for (const field of LOT_FIELDS) if (typeof body[field] === 'string') ids.add(body[field]);
    if (entry.kind === 'preparation.make') entry.body.parts.forEach((part) => ids.add(part.fromLotId));
    if (entry.kind === 'pack.run') entry.body.from.forEach((part) => ids.add(part.fillLotId));
  }
  if (ids.size === 0) return new Map();
  const found = await rows<{ id: string; code: string }>(
    reader,
    sql`
    select id, code from lot where id in ${[...ids]} union all select id, tag from vessel where id in ${[...ids]}`,
  );
  return new Map(found.map((row) => [row.id, row.code]));
}

function mainLot(entry: Entry): string {
  const body = entry.body as Record<string, string | undefined>;
  return body['lotId'] ?? body['fillLotId'] ?? body['runLotId'] ?? body['batchId'] ?? body['toLotId'] ?? '';
}

function figureOf(entry: Entry): Pick<BookLine, 'figure' | 'value' | 'sample'> {
  const plain = (figure: string | null, value: number | null = null) => ({ figure, value, sample: null });
  switch (entry.kind) {
    case 'ph.read':
      return { figure: entry.body.ph.toFixed(2), value: entry.body.ph, sample: entry.body.sample };
    case 'temperature.read':
      return plain(`${entry.body.celsius.toFixed(1)} °C`, entry.body.celsius);
    case 'salt.weigh':
      return plain(formatGrams(entry.body.grams), entry.body.grams);
    case 'produce.weigh':
      return plain(formatGrams(entry.body.trimmedGrams));
    case 'brine.make':
      return plain(formatGrams(entry.body.waterGrams));
    case 'vessel.fill':
      return plain(formatGrams(entry.body.grams + (entry.body.brine?.grams ?? 0)));
    case 'pack.run':
      return plain(`${entry.body.jars.reduce((sum, jars) => sum + jars.count, 0)} jars`);
    case 'lot.open':
      return plain(
        entry.body.what === 'vessel'
          ? formatGrams(entry.body.grams)
          : `${entry.body.jars.reduce((sum, jars) => sum + jars.count, 0)} jars`,
      );
    case 'preparation.make':
      return plain(formatGrams(entry.body.parts.reduce((sum, part) => sum + part.grams, -entry.body.boiledOffGrams)));
    case 'vessel.topUp':
      return plain(formatGrams(entry.body.lostGrams));
    case 'vessel.split':
      return plain(formatGrams(entry.body.grams));
    case 'check.make':
      return plain(
        entry.body.figure == null
          ? null
          : entry.body.what === 'salt'
            ? `${(entry.body.figure * 100).toFixed(2)} %`
            : String(entry.body.figure),
      );
    case 'leaf.rinse':
      return plain(formatGrams(entry.body.waterGrams));
    case 'leaf.drain':
      return plain(formatGrams(entry.body.drainedGrams));
    case 'brine.left':
    case 'brine.join':
    case 'brine.keep':
    case 'ingredient.add':
    case 'loss.record':
    case 'lot.count':
    case 'lot.transfer':
    case 'supply.receive':
    case 'stock.count':
      return plain(formatGrams(entry.body.grams));
    default:
      return plain(null);
  }
}

const SAMPLE_WORDS = { blended: 'blended sample', brine: 'brine only' } as const;

function wordsOf(
  entry: Entry,
  facts: Record<string, unknown>,
  codes: Map<string, string>,
  lotIds: readonly string[],
): { what: string; words: string | null } {
  const code = (id: string): string => codes.get(id) ?? '?';
  const target = (): string =>
    typeof facts['targetGrams'] === 'number' ? `target ${formatGrams(facts['targetGrams'])}` : '';
  switch (entry.kind) {
    case 'supply.receive':
      return {
        what: 'Received',
        words: `supplier’s lot ${entry.body.supplierLotCode}${entry.body.condition ? ` · ${entry.body.condition}` : ''}${entry.body.rejected ? ` · ${formatGrams(entry.body.rejected.grams)} sent back: ${entry.body.rejected.reason}` : ''}`,
      };
    case 'stock.count':
      return { what: 'Counted', words: countWords(facts, entry.body.reason) };
    case 'supply.state':
      return {
        what: `Now ${STATE_WORDS[entry.body.state]}`,
        words: entry.body.keepsUntil ? `keeps until ${entry.body.keepsUntil}` : null,
      };
    case 'batch.start':
      return {
        what: 'Batch started',
        words:
          [entry.body.variant, entry.body.weakSaltReason && `weak salt accepted: ${entry.body.weakSaltReason}`]
            .filter(Boolean)
            .join(' · ') || null,
      };
    case 'produce.weigh':
      return {
        what: `Trimmed produce, ${code(entry.body.supplyLotId)}`,
        words: entry.body.trimWasteGrams > 0 ? `${formatGrams(entry.body.trimWasteGrams)} trimmed off` : null,
      };
    case 'brine.make':
      return { what: `Water for the brine, ${code(entry.body.waterLotId)}`, words: String(facts['code'] ?? '') };
    case 'salt.weigh':
      return {
        what: `Salt, ${code(entry.body.saltLotId)}`,
        words: [
          target(),
          facts['verdict'] === 'in' ? 'in' : facts['verdict'] === 'over' ? 'over target' : 'portion, under target',
        ]
          .filter(Boolean)
          .join(' · '),
      };
    case 'salt.accept':
      return { what: 'Salt accepted as it is', words: entry.body.reason };
    case 'ingredient.add':
      return {
        what: `Added ${code(entry.body.fromLotId)}`,
        words: entry.body.brine
          ? `into the brine ${String(facts['brine'] ?? '')}${entry.body.brine === 'strained' ? ', strained out of it' : ''}`
          : null,
      };
    case 'vessel.fill':
      return {
        what: `Filled ${code(entry.body.vesselId)}`,
        words:
          [
            entry.body.brine && `${formatGrams(entry.body.brine.grams)} of it brine`,
            typeof facts['waterPhaseSalt'] === 'number' &&
              `${(facts['waterPhaseSalt'] * 100).toFixed(2)} % water-phase salt, ${String(facts['band'])}`,
            entry.body.weakSaltReason && `accepted: ${entry.body.weakSaltReason}`,
            entry.body.overReason && `over the brim: ${entry.body.overReason}`,
          ]
            .filter(Boolean)
            .join(' · ') || null,
      };
    case 'lot.transfer':
      return {
        what: `${code(entry.body.fromLotId)} into ${code(entry.body.toLotId)}`,
        words:
          [
            entry.body.note,
            entry.body.confirmedOther && 'of another formula, and meant',
            listed('its holds came along', facts['carried']),
          ]
            .filter(Boolean)
            .join(' · ') || null,
      };
    case 'ph.read':
      return {
        what: 'pH',
        words: [
          SAMPLE_WORDS[entry.body.sample],
          facts['meter'] && `${String(facts['meter'])}${facts['forRelease'] ? '' : ', not for release'}`,
          entry.body.sampleCelsius != null && `${entry.body.sampleCelsius.toFixed(1)} °C`,
          facts['jumped'] && 'off the trend',
        ]
          .filter(Boolean)
          .join(' · '),
      };
    case 'temperature.read':
      return { what: 'Temperature', words: null };
    case 'hold.place':
      return { what: 'Put on hold', words: entry.body.reason };
    case 'hold.lift':
      return { what: 'Hold lifted', words: entry.body.reason };
    case 'loss.record':
      return { what: `Loss: ${entry.body.sink}`, words: entry.body.note };
    case 'lot.count':
      return {
        what: 'Counted',
        words: entry.body.byDifference ? `difference taken as ${entry.body.byDifference}` : null,
      };
    case 'pack.run':
      return {
        what: `Packed ${String(facts['code'] ?? '')}`,
        words: [
          `from ${entry.body.from.map((part) => code(part.fillLotId)).join(', ')}`,
          entry.body.brine && BRINE_AT_PACKING_WORDS[entry.body.brine].toLowerCase(),
          entry.body.storage && `kept: ${STORAGE_WORDS[entry.body.storage]}`,
          ...entry.body.from.map((part) => part.restReason && `rest of ${code(part.fillLotId)}: ${part.restReason}`),
          entry.body.tallyReason,
        ]
          .filter(Boolean)
          .join(' · '),
      };
    case 'lot.open':
      return { what: 'Before the ledger', words: 'entered as it stood; what went in is not known' };
    case 'step.begin':
      return { what: `Begun: ${String(facts['name'] ?? '')}`, words: null };
    case 'step.finish':
      return {
        what: `${entry.body.skipped === null ? 'Done' : 'Skipped'}: ${String(facts['name'] ?? '')}`,
        words: [entry.body.skipped, entry.body.note, unticked(facts)].filter(Boolean).join(' · ') || null,
      };
    case 'line.settle':
      return {
        what: `${entry.body.how === 'ticked' ? 'In, not weighed' : 'Left out'}: ${String(facts['name'] ?? '')}`,
        words:
          entry.body.how === 'ticked'
            ? [
                typeof facts['grams'] === 'number' && `about ${formatGrams(facts['grams'])}`,
                facts['fromCode'] ? `of ${String(facts['fromCode'])}` : 'of no known lot',
                entry.body.note,
              ]
                .filter(Boolean)
                .join(' · ')
            : entry.body.reason,
      };
    case 'timer.start':
      return { what: `Timer: ${entry.body.words}`, words: `${entry.body.minutes} min` };
    case 'timer.stop':
      return {
        what: `Timer stopped: ${String(facts['words'] ?? '')}`,
        words: `after ${String(facts['minutes'] ?? '')} min`,
      };
    case 'salt.confirm':
      return { what: 'Salt confirmed by a second person', words: null };
    case 'batch.close':
      return {
        what: 'Making closed',
        words:
          [listed('skipped', facts['skipped']), listed('left out', facts['leftOut']), entry.body.note]
            .filter(Boolean)
            .join(' · ') || null,
      };
    case 'preparation.make':
      return {
        what: `${String(facts['form'] ?? 'Preparation')} made, ${String(facts['code'] ?? '')}`,
        words: `${entry.body.name}: ${entry.body.parts.map((part) => `${code(part.fromLotId)} ${formatGrams(part.grams)}`).join(', ')}${entry.body.boiledOffGrams > 0 ? ` · ${formatGrams(entry.body.boiledOffGrams)} boiled off` : ''}`,
      };
    case 'brine.left':
      return {
        what: `Left of ${code(entry.body.brineLotId)}`,
        words: [
          entry.body.touched === 'never'
            ? 'never touched the product'
            : `poured off the product: now ${String(facts['code'] ?? '')}`,
          entry.body.spices &&
            { none: 'no spices in it', in: 'spices in it', strained: 'spices strained out' }[entry.body.spices],
          entry.body.differenceReason && `difference: ${entry.body.differenceReason}`,
        ]
          .filter(Boolean)
          .join(' · '),
      };
    case 'brine.join':
      return { what: `Brine from ${code(entry.body.fromLotId)}`, words: 'left over, never touched its product' };
    case 'brine.keep':
      return {
        what: `Brine kept, ${String(facts['code'] ?? '')}`,
        words: `generation ${String(facts['generation'] ?? '')}, good until ${String(facts['useBy'] ?? '')}`,
      };
    case 'leaf.turn':
      return { what: 'Leaf turned', words: null };
    case 'leaf.rinse':
      return { what: 'Rinsed', words: leafWords(entry.body) };
    case 'leaf.drain':
      return {
        what: 'Drained and weighed',
        words: [
          `${(Number(facts['leafSalt'] ?? 0) * 100).toFixed(2)} % salt in the leaf, ${facts['how'] === 'estimate' ? 'an estimate' : 'measured'}`,
          `${(Number(facts['lossFraction'] ?? 0) * 100).toFixed(0)} % gone`,
          entry.body.reason,
        ]
          .filter(Boolean)
          .join(' · '),
      };
    case 'vessel.close':
      return {
        what: `Closed: ${entry.body.closure}`,
        words:
          [
            entry.body.headspaceMm === null ? null : `headspace ${entry.body.headspaceMm} mm`,
            ...entry.body.weightItems.map((item) => `${item.count} × ${item.what} in`),
            entry.body.tray ? 'tray under it' : null,
          ]
            .filter(Boolean)
            .join(' · ') || null,
      };
    case 'vessel.move':
      return { what: `Moved to ${String(facts['to'] ?? '')}`, words: `from ${String(facts['from'] ?? '')}` };
    case 'label.print':
      return { what: `Label printed`, words: `${entry.body.copies} × ${entry.body.printer ?? 'on a sheet'}` };
    case 'check.make':
      return {
        what: `Looked after: ${String(facts['name'] ?? '')}`,
        words: [
          entry.body.quiet
            ? entry.body.what === 'burp'
              ? 'no gas'
              : 'quiet'
            : entry.body.what === 'burp'
              ? 'gas'
              : 'done',
          entry.body.note,
        ]
          .filter(Boolean)
          .join(' · '),
      };
    case 'round.quiet':
      return {
        what: 'All quiet',
        words:
          entry.body.lots
            .find(({ lotId }) => lotIds.includes(lotId))
            ?.checks.map(({ what, words }) => words ?? CHECK_KINDS[what])
            .join(', ') ?? null,
      };
    case 'plan.change':
      return { what: 'Check plan changed', words: entry.body.reason };
    case 'taste.record':
      return {
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
      };
    case 'acid.titrate':
      return {
        what: `Titratable acidity ${String(facts['percent'] ?? '')} %`,
        words: `${entry.body.millilitres} mL of ${entry.body.normality} N on ${formatGrams(entry.body.sampleGrams)}`,
      };
    case 'lot.ready':
      return { what: entry.body.ready ? 'Ready' : 'Not ready after all', words: entry.body.note };
    case 'hold.anew':
      return { what: 'Hold decided anew: it does not stand', words: entry.body.reason };
    case 'hold.byRule':
      return { what: 'Hold, by rule', words: [entry.body.reason, ...reachWords(facts)].join(' · ') };
    case 'find.record':
      return {
        what: `Seen: ${String(facts['name'] ?? '')}`,
        words: [
          `${String(facts['place'] ?? '')} · ${String(facts['verdictWords'] ?? '')}`,
          facts['changed']
            ? `${String(facts['changed'])} than the guide: ${entry.body.reason ?? 'to be careful'}`
            : null,
          ...reachWords(facts),
          entry.body.note,
        ]
          .filter(Boolean)
          .join(' · '),
      };
    case 'vessel.topUp':
      return {
        what: entry.body.how === 'overflow' ? 'Ran over, topped up' : 'Dried away, topped up',
        words: `with ${formatGrams(entry.body.saltGrams)} salt in ${formatGrams(entry.body.waterGrams)} water: ${(Number(facts['before'] ?? 0) * 100).toFixed(2)} % before, ${(Number(facts['after'] ?? 0) * 100).toFixed(2)} % after`,
      };
    case 'vessel.split':
      return { what: `Split off into ${String(facts['code'] ?? '')}`, words: null };
    case 'vessel.throwOut':
      return {
        what: 'Thrown out',
        words: [facts['words'], entry.body.cause, entry.body.note].filter(Boolean).join(' · '),
      };
    default:
      return { what: entry.kind, words: null };
  }
}

function countWords(facts: Record<string, unknown>, reason: string | null): string {
  const difference = Number(facts['differenceGrams'] ?? 0);
  const words =
    Math.abs(difference) < 0.5
      ? 'as the ledger says'
      : `${formatGrams(Math.abs(difference))} ${difference < 0 ? 'less' : 'more'} than the ledger said`;
  return reason ? `${words}: ${reason}` : words;
}

/** What was held with it, and what was left out, with the reason. */
function reachWords(facts: Record<string, unknown>): string[] {
  const codes = (key: string): string => (facts[key] as string[] | undefined)?.join(', ') ?? '';
  return [
    codes('heldToo') && `held with it: ${codes('heldToo')}`,
    codes('leftOut') &&
      `left out: ${codes('leftOut')}${facts['leftOutReason'] ? ` (${String(facts['leftOutReason'])})` : ', taken before its last reading in order'}`,
  ].filter(Boolean);
}

function unticked(facts: Record<string, unknown>): string | null {
  const left = facts['unchecked'] as string[] | undefined;
  return left?.length ? `not ticked: ${left.join('; ')}` : null;
}

const TASTE_SAYS = { signedOff: 'signed off', wait: 'wait', backToRoom: 'back to the room' } as const;

const listed = (what: string, names: unknown): string | null =>
  Array.isArray(names) && names.length > 0 ? `${what}: ${names.join(', ')}` : null;

const TASTE_WORDS = { tooSalty: 'tastes too salty', between: 'tastes right', tooWeak: 'tastes too weak' } as const;

function leafWords(body: {
  tasted: keyof typeof TASTE_WORDS | null;
  measured: { waterPhaseSalt: number; how: string } | null;
}): string | null {
  return (
    [
      body.measured && `${(body.measured.waterPhaseSalt * 100).toFixed(2)} % by ${body.measured.how}`,
      body.tasted && TASTE_WORDS[body.tasted],
    ]
      .filter(Boolean)
      .join(' · ') || null
  );
}

import {
  calendarDay,
  formatPercent,
  type Label,
  type SaltFigure,
  saltFigure,
  shortened,
  shownText,
} from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../db/database.js';
import { refused } from '../journal/refused.js';
import { loadContents } from '../lots/contents.js';
import { loadHouse } from '../lots/house.js';
import { lotAllergens } from '../lots/lotAllergens.js';

interface LabelRow {
  id: string;
  code: string;
  kind: string;
  name: string;
  supplier: string | null;
  supplierLotCode: string | null;
  at: Date;
  useBy: string | null;
  tag: string | null;
  generation: number | null;
  form: string | null;
  allergens: string[] | null;
}

/** A name over two lines, broken between words. */
function twoLines(name: string): string[] {
  if (name.length <= LINE) return [name];
  const at = name.lastIndexOf(' ', LINE);
  return at <= 0 ? [name] : [name.slice(0, at), name.slice(at + 1)];
}

/** Letters of a name that go on a line. */
const LINE = 23;

/** The salt that stands in a vessel, where it is known. */
const saltLine = ({ waterPhase }: SaltFigure): string[] =>
  waterPhase === null ? [] : [`salt ${formatPercent(waterPhase)} of its water phase`];

/** Words that run over a label of 62 mm are cut where they can still be told. */
const fit = (text: string, most: number): string => shortened(shownText(text), most);

/**
 * Labels of supply lots, filled vessels and preparations, 62 × 29 mm: code as text and as a QR symbol, what it is,
 * since when, until when, allergens. A vessel's leads to its page, a supply's to its trace.
 */
export async function labelsOf(reader: Reader, input: { lotIds: readonly string[]; base: string }): Promise<Label[]> {
  const { timeZone } = await loadHouse(reader);
  const found = await rows<LabelRow>(
    reader,
    sql`
    select l.id, l.code, l.kind, l.name, s.name as supplier, l.supplier_lot_code as "supplierLotCode", l.at, l.use_by::text as "useBy", v.tag, l.generation, l.form, m.allergens
    from lot l left join material m on m.id = l.material_id left join supplier s on s.id = l.supplier_id left join vessel v on v.id = l.vessel_id
    where l.kind in ('supply', 'fill', 'preparation') and l.id in ${[...input.lotIds]} order by l.seq`,
  );
  if (found.length === 0)
    throw refused('lot.unknown', 'No supply lot, vessel or preparation of these is known in this house.', {
      field: 'lot',
    });
  const day = (value: Date): string =>
    new Intl.DateTimeFormat('en-GB', {
      timeZone,
      weekday: 'short',
      day: 'numeric',
      month: 'short',
      year: 'numeric',
    }).format(value);
  const labels: Label[] = [];
  const contents = await loadContents(
    reader,
    found.map(({ id }) => id),
  );
  for (const row of found) {
    const allergens =
      row.kind === 'supply'
        ? (row.allergens ?? [])
        : (await lotAllergens(reader, row.id)).filter((one) => one.certain).map((one) => one.words);
    const text = (yMm: number, points: number, bold: boolean, words: string) => ({
      xMm: 27,
      yMm,
      points,
      bold,
      words: fit(words, Math.floor(200 / points)),
    });
    const since =
      row.kind === 'supply'
        ? `came ${day(new Date(row.at))}`
        : row.kind === 'fill'
          ? `filled ${day(new Date(row.at))}`
          : `made ${day(new Date(row.at))}`;
    labels.push({
      widthMm: 62,
      heightMm: 29,
      texts: [
        text(2.5, row.code.length > 12 ? 12 : 15, true, row.code),
        ...twoLines(row.name).map((line, index) => text(7.6 + index * 3.4, 8.5, true, line)),
        ...(row.kind === 'supply'
          ? [text(14.4, 7, false, [row.supplierLotCode, row.supplier].filter(Boolean).join(', '))]
          : []),
        ...(row.kind === 'fill'
          ? saltLine(saltFigure(contents.get(row.id)!)).map((words) => text(14.4, 7, false, words))
          : []),
        ...(row.generation ? [text(14.4, 7, false, `generation ${row.generation}`)] : []),
        text(17.6, 7, false, since),
        ...(row.useBy ? [text(20.9, 7.5, true, `use by ${calendarDay(row.useBy)}`)] : []),
        ...(allergens.length > 0 ? [text(23.8, 7.5, true, `allergen: ${allergens.join(', ')}`)] : []),
      ],
      symbol: {
        xMm: 2,
        yMm: 3,
        mm: 22,
        content: `${input.base}/${row.kind === 'fill' ? 'lots' : 'trace'}/${row.code}`,
      },
    });
  }
  return labels;
}

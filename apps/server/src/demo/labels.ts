import type { BodyOf } from '@clear-tally/contract';
import type { Diary } from './diary.js';
import type { Founded } from './house.js';

const DESIGN: BodyOf<'label.design'>['design'] = {
  paper: {
    pageWidthMm: 210,
    pageHeightMm: 297,
    columns: 2,
    rows: 4,
    widthMm: 99.1,
    heightMm: 67.7,
    leftMm: 4.7,
    topMm: 13.1,
    gapXMm: 2.5,
    gapYMm: 0,
  },
  fields: [
    { key: 'name', on: true, points: 14 },
    { key: 'ingredients', on: true, points: 8 },
    { key: 'storage', on: true, points: 8 },
    { key: 'net', on: true, points: 10 },
    { key: 'dates', on: true, points: 9 },
    { key: 'salt', on: true, points: 7.5 },
    { key: 'code', on: true, points: 9 },
    { key: 'producer', on: true, points: 7.5 },
    { key: 'text', on: false, points: 7.5 },
  ],
  symbol: { kind: 'qrcode', mm: 16 },
  leastLetterMm: 1.2,
  gtin: null,
  until: 'bestBefore',
  untilDays: 240,
  producer: 'Ninefold Yard Ferments, Port Ellery',
  text: '',
};

/** The house's design, and the labels of a run that went out; one tore and was printed again. */
export function planLabels(
  diary: Diary,
  house: Founded,
  run: { readonly runLotId: string; readonly jars: number; readonly daysAgo: number },
): void {
  const kept = diary.moment(81, 9);
  const designId = diary.id(kept);
  const record = <K extends 'label.design' | 'label.jars' | 'label.tally'>(kind: K, body: BodyOf<K>, at: Date): void =>
    diary.plan(at, async () => void (await diary.record(kind, body, at, house.people.ines)));
  record('label.design', { designId, name: 'Jars, eight to a sheet', design: DESIGN }, kept);
  const { runLotId, jars } = run;
  const printed = diary.moment(run.daysAgo, 15);
  record('label.jars', { runLotId, designId, first: 1, last: jars, printer: null, reason: null }, printed);
  const again = new Date(printed.getTime() + 40 * 60_000);
  record('label.jars', { runLotId, designId, first: 3, last: 3, printer: null, reason: 'torn on the jar' }, again);
  record(
    'label.tally',
    { runLotId, used: jars, spoiled: 1, back: 0, reason: null },
    new Date(printed.getTime() + 60 * 60_000),
  );
}

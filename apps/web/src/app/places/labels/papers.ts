import type { LabelDesign, LabelPaper } from '@clear-tally/core';

const A4 = { pageWidthMm: 210, pageHeightMm: 297 };
const roll = (widthMm: number, heightMm: number): LabelPaper => ({
  pageWidthMm: widthMm,
  pageHeightMm: heightMm,
  columns: 1,
  rows: 1,
  widthMm,
  heightMm,
  leftMm: 0,
  topMm: 0,
  gapXMm: 0,
  gapYMm: 0,
});

/** Sheets and rolls as they are bought; others are typed. */
export const PAPERS: readonly { readonly key: string; readonly words: string; readonly paper: LabelPaper }[] = [
  {
    key: 'a4-21',
    words: 'A4 sheet, 3 × 7, 63.5 × 38.1 mm',
    paper: {
      ...A4,
      columns: 3,
      rows: 7,
      widthMm: 63.5,
      heightMm: 38.1,
      leftMm: 7.2,
      topMm: 15.1,
      gapXMm: 2.5,
      gapYMm: 0,
    },
  },
  {
    key: 'a4-14',
    words: 'A4 sheet, 2 × 7, 99.1 × 38.1 mm',
    paper: {
      ...A4,
      columns: 2,
      rows: 7,
      widthMm: 99.1,
      heightMm: 38.1,
      leftMm: 4.7,
      topMm: 15.1,
      gapXMm: 2.5,
      gapYMm: 0,
    },
  },
  {
    key: 'a4-8',
    words: 'A4 sheet, 2 × 4, 99.1 × 67.7 mm',
    paper: {
      ...A4,
      columns: 2,
      rows: 4,
      widthMm: 99.1,
      heightMm: 67.7,
      leftMm: 4.7,
      topMm: 13.1,
      gapXMm: 2.5,
      gapYMm: 0,
    },
  },
  { key: 'roll-62', words: 'Roll, 62 × 50 mm', paper: roll(62, 50) },
  { key: 'roll-100', words: 'Roll, 100 × 60 mm', paper: roll(100, 60) },
];

/** What a house begins with: everything a jar must say, on a sheet. */
export const FIRST_DESIGN: LabelDesign = {
  paper: PAPERS[2]!.paper,
  fields: [
    { key: 'name', on: true, points: 13 },
    { key: 'ingredients', on: true, points: 7.5 },
    { key: 'storage', on: true, points: 7.5 },
    { key: 'net', on: true, points: 9 },
    { key: 'drained', on: false, points: 8 },
    { key: 'dates', on: true, points: 8 },
    { key: 'salt', on: true, points: 7 },
    { key: 'code', on: true, points: 8 },
    { key: 'producer', on: true, points: 7 },
    { key: 'text', on: false, points: 7 },
  ],
  symbol: { kind: 'qrcode', mm: 15 },
  leastLetterMm: 1.2,
  gtin: null,
  until: 'bestBefore',
  untilDays: null,
  producer: '',
  text: '',
};

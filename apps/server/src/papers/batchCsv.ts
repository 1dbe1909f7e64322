import { stringify } from 'csv-stringify/sync';
import { saltOnAllBases, spreadsheetCell as cell } from '@clear-tally/core';
import type { AskedBatch } from './asked.js';

/** A scaled batch as CSV (RFC 4180, UTF-8, point as decimal mark): one row per line, workings beside it. */
export function batchCsv({ formula, scaled }: AskedBatch): string {
  const { produceGrams, waterGrams, saltGrams } = scaled;
  const all = saltOnAllBases({ vegetableGrams: produceGrams, waterGrams, saltGrams });
  const rows = [
    ...scaled.lines.map((line) => [
      line.role,
      cell(line.name),
      line.grams === null ? '' : line.grams.toFixed(2),
      'g',
      line.pieces ?? '',
      cell(line.working.rule),
      cell(line.working.figures),
      line.grams === null ? line.working.answer : '',
    ]),
    ['total', 'Trimmed in all', produceGrams.toFixed(2), 'g', '', '', '', ''],
    [
      'total',
      'To buy',
      scaled.chain.boughtGrams.toFixed(2),
      'g',
      '',
      cell(scaled.workings.bought.rule),
      cell(scaled.workings.bought.figures),
      '',
    ],
    [
      'salt',
      'Water-phase salt, planned',
      (scaled.waterPhaseSalt * 100).toFixed(3),
      '%',
      '',
      cell(scaled.workings.waterPhaseSalt.rule),
      cell(scaled.workings.waterPhaseSalt.figures),
      '',
    ],
    ...(['ofVegetable', 'ofWater', 'ofSolution', 'ofEverything', 'ofTotal'] as const)
      .filter((basis) => all[basis] !== null)
      .map((basis) => ['salt', basis, (all[basis]! * 100).toFixed(3), '%', '', '', '', '']),
  ];
  return stringify([
    [
      'part',
      `${cell(formula.name)}, version ${formula.version}`,
      'amount',
      'unit',
      'pieces',
      'rule',
      'figures',
      'mark',
    ],
    ...rows,
  ]);
}

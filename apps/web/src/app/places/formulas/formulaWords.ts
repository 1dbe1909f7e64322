import {
  BASIS_WORDS,
  BY_FRACTION,
  checkWords,
  donenessWords,
  FORMS,
  formatPercent,
  HOUSE_RULES,
  SCALE_WORDS,
  type Worded,
  windowConditionWords,
  windowDaysWords,
} from '@clear-tally/core';
import type { FormulaReply } from '@clear-tally/contract';
import { STYLE_WORDS } from './draft/draft';

const plain = (value: number): string => String(Number(value.toPrecision(6)));

/** A version in labelled words, line by line: what two versions are compared by. */
export function formulaWords(formula: FormulaReply): Worded {
  const { heavy, yields, labour } = formula;
  return [
    { key: 'name', what: 'Name', words: formula.name },
    { key: 'style', what: 'School', words: STYLE_WORDS[formula.style] },
    { key: 'form', what: 'Packs as', words: FORMS[formula.form].words },
    ...formula.produce.map((part) => ({
      key: `produce ${part.materialId}`,
      what: part.name,
      words: `${formatPercent(part.share, 1)} of the produce`,
    })),
    {
      key: 'salt',
      what: 'Salt',
      words:
        formula.saltFraction === null || formula.saltBasis === null
          ? 'open'
          : `${formatPercent(formula.saltFraction, 2)} ${BASIS_WORDS[formula.saltBasis]}`,
    },
    { key: 'saltMaterial', what: 'Which salt', words: formula.saltName ?? 'any' },
    {
      key: 'water',
      what: 'Water',
      words:
        formula.waterPerProduce === null
          ? 'open'
          : formula.waterPerProduce === 0
            ? 'none'
            : `${Math.round(formula.waterPerProduce * 1000).toLocaleString('en')} g per kg of produce`,
    },
    ...(heavy
      ? [
          {
            key: 'heavy',
            what: 'Heavy salt',
            words: `${heavy.minutes} min, ${heavy.rinses} rinses of ${heavy.litresPerKg} L per kg, to ${formatPercent(heavy.wanted, 1)} in the end`,
          },
        ]
      : []),
    ...formula.lines.map((line) => ({
      key: `line ${line.materialId} ${line.scaleBy}`,
      what: line.name,
      words: [
        line.amount === null
          ? line.written
            ? `open, “${line.written}”`
            : line.scaleBy === 'toTaste'
              ? 'to taste'
              : 'open'
          : `${plain(BY_FRACTION.has(line.scaleBy) ? line.amount * 1000 : line.amount)} g ${SCALE_WORDS[line.scaleBy].replace('per 100 g of salt', 'per kg of salt')}`,
        line.exponent && line.exponent !== 1
          ? `${(2 ** line.exponent).toFixed(2)} times as much for twice the batch`
          : '',
        line.variants ? `only ${line.variants.join(', ')}` : '',
        line.least != null || line.most != null
          ? `usually ${[line.least, line.most].map((end) => (end == null ? '…' : plain(BY_FRACTION.has(line.scaleBy) ? end * 1000 : end))).join(' to ')} g`
          : '',
        line.note ?? '',
      ]
        .filter(Boolean)
        .join(', '),
    })),
    { key: 'order', what: 'Order of the lines', words: formula.lines.map(({ name }) => name).join(', ') },
    {
      key: 'yields',
      what: 'Yields',
      words: `trim ${plain(yields.trim)}, ferment ${plain(yields.ferment)}, ${yields.finish === undefined ? '' : `finish ${plain(yields.finish)}, `}pack ${plain(yields.pack)}`,
    },
    { key: 'solids', what: 'Solids in a jar', words: formatPercent(formula.solidsFraction, 0) },
    ...formula.jarSizes.map((jar) => ({
      key: `jar ${jar.sizeMl}`,
      what: `Jar of ${jar.sizeMl} mL`,
      words: `${jar.fillGrams} g${jar.perCase ? `, ${jar.perCase} to a case` : ''}${jar.packagingCost === undefined ? '' : `, packaging ${jar.packagingCost}`}${jar.price === undefined ? '' : `, price ${jar.price}`}`,
    })),
    { key: 'days', what: 'Usual days', words: String(formula.usualDays) },
    {
      key: 'celsius',
      what: 'Stands at',
      words: formula.celsius ? `${formula.celsius.least} to ${formula.celsius.most} °C` : 'by its room',
    },
    {
      key: 'equipment',
      what: 'Equipment',
      words: (formula.equipment ?? []).map(({ words }) => words).join(', ') || 'none named',
    },
    { key: 'variants', what: 'Variants', words: formula.variants.join(', ') || 'none' },
    ...formula.steps.map((step, index) => ({
      key: `step ${index}`,
      what: `Step ${index + 1}`,
      words: `${step.words}${step.minutes ? `, ${step.minutes} min` : ''}`,
    })),
    { key: 'checks', what: 'Checks', words: formula.checks.map(checkWords).join('; ') || 'none' },
    {
      key: 'done',
      what: 'Done when',
      words: formula.done ? donenessWords(formula.done).join(', ') : 'somebody says so',
    },
    ...(formula.windows ?? []).map((window) => ({
      key: `window ${windowConditionWords(window)}`,
      what: `Window, ${windowConditionWords(window)}`,
      words: windowDaysWords(window),
    })),
    {
      key: 'labour',
      what: 'Work',
      words: labour ? `${labour.fixedMinutes} min and ${labour.minutesPerKg} min per kg` : 'not given',
    },
    ...Object.entries(formula.rules).map(([key, option]) => {
      const rule = HOUSE_RULES.find((one) => one.key === key);
      return {
        key: `rule ${key}`,
        what: rule?.question ?? key,
        words: rule?.options.find((one) => one.key === option)?.words ?? option,
      };
    }),
    { key: 'note', what: 'Note', words: formula.note ?? 'none' },
  ];
}

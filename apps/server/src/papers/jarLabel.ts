import type { LabelPreview } from '@clear-tally/contract';
import {
  designProblems,
  jarCode,
  LABEL_FIELD_WORDS,
  LABEL_MUST,
  type LabelDesign,
  labelWords,
  layOut,
  symbolContent,
} from '@clear-tally/core';
import { desc, eq } from 'drizzle-orm';
import { type Reader } from '../db/database.js';
import { labelDesign } from '../db/schema/labels.js';
import { refused } from '../journal/refused.js';
import { labelFacts, labelledRun, labelParts, type LabelPart, partWords } from '../lots/labelFacts.js';
import { labelLacks } from '../lots/alongLots.js';
import { refuseUnknownJars, type RunStanding } from '../lots/runs.js';
import type { JarSheet } from './jarSheet.js';
import { measured } from './measure.js';
import { asRead, readBack, symbolModules, symbolSvg } from './symbol.js';

/** A label says one thing: of two sizes, or of heated and unheated jars, it would lie on some. */
function refuseMixed(parts: readonly LabelPart[], first: number, last: number): void {
  const touched = parts.filter((part) => part.first <= last && part.last >= first);
  if (touched.length <= 1) return;
  const say = touched.map((part) => `${part.first} to ${part.last}: ${partWords(part)}`).join('; ');
  throw refused('label.lacks', `These jars are not alike (${say}). Print them apart.`, { field: 'last' });
}

async function laidFor(reader: Reader, run: RunStanding, design: LabelDesign, serial: number) {
  const { facts, because } = await labelFacts(reader, run, design, serial);
  const laid = layOut(design, labelWords(facts), measured);
  const open = await labelLacks(reader, run);
  const empty = labelWords(facts);
  return {
    facts,
    because,
    laid,
    problems: [
      ...designProblems(design),
      ...laid.over.map((key) => ({ field: key, words: `${LABEL_FIELD_WORDS[key]}: does not fit` })),
      ...laid.crossed.map((key) => ({ field: key, words: `${LABEL_FIELD_WORDS[key]}: lies over something else` })),
      ...LABEL_MUST.filter((key) => empty[key].length === 0 && key !== 'producer').map((key) => ({
        field: key,
        words: `${LABEL_FIELD_WORDS[key]}: nothing is known to say`,
      })),
      ...(run.storage === 'ambient' && !facts.heated
        ? [{ field: 'storage', words: `${LABEL_FIELD_WORDS.storage}: kept ambient, and not heated to its process` }]
        : []),
      ...open.map((words) => ({ field: 'ingredients', words })),
    ],
  };
}

/** One label, as it will stand on a jar. Nothing is recorded. */
export async function previewLabel(
  reader: Reader,
  code: string,
  asked: { design: LabelDesign; serial: number; base: string },
): Promise<LabelPreview> {
  const run = await labelledRun(reader, code);
  const { laid, problems, because, facts } = await laidFor(reader, run, asked.design, asked.serial);
  const { symbol: kind, gtin } = asked.design;
  const lacksNumber = problems.some(({ field }) => field === 'symbol');
  const content =
    kind && !lacksNumber
      ? symbolContent(kind.kind, { base: asked.base, run: run.code, jar: facts.code, gtin, until: facts.until })
      : null;
  const symbol = content === null ? null : symbolModules(kind!.kind, content);
  return {
    laid: { ...laid, texts: [...laid.texts], over: [...laid.over], crossed: [...laid.crossed] },
    symbol: symbol && Buffer.from(symbolSvg(symbol)).toString('base64'),
    reads: symbol !== null && asRead((await readBack(kind!.kind, symbol)) ?? '') === asRead(content!),
    problems,
    because,
  };
}

/** What the sheets of these jars are made of; refused while something that must stand there is missing. */
export async function sheetOf(
  reader: Reader,
  code: string,
  asked: { designId: string; first: number; last: number; skip: number; base: string },
): Promise<JarSheet> {
  const run = await labelledRun(reader, code);
  const [kept] = await reader
    .select({ design: labelDesign.design })
    .from(labelDesign)
    .where(eq(labelDesign.designId, asked.designId))
    .orderBy(desc(labelDesign.seq))
    .limit(1);
  if (!kept) throw refused('label.designUnknown', 'This design is not kept in this house.', { field: 'designId' });
  await refuseUnknownJars(reader, run, asked);
  refuseMixed(await labelParts(reader, run), asked.first, asked.last);
  const { laid, problems, facts } = await laidFor(reader, run, kept.design, asked.first);
  if (problems.length > 0)
    throw refused('label.lacks', `${problems[0]!.words}. No label is offered until it is there.`, {
      field: problems[0]!.field,
      facts: { lacks: problems.map(({ words }) => words) },
    });
  const { symbol } = kept.design;
  return {
    design: kept.design,
    laid,
    codeShown: facts.code,
    skip: asked.skip,
    title: `Labels ${run.code}, ${asked.first} to ${asked.last}`,
    jars: Array.from({ length: asked.last - asked.first + 1 }, (_, i) => {
      const jar = jarCode(run.code, asked.first + i).text;
      const of = { base: asked.base, run: run.code, jar, gtin: kept.design.gtin, until: facts.until };
      return { code: jar, content: symbol ? symbolContent(symbol.kind, of) : '' };
    }),
  };
}

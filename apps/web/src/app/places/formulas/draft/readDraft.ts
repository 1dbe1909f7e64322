import { v7 } from 'uuid';
import {
  type Allergen,
  ALLERGENS,
  type DecimalMark,
  formulaHoles,
  type Hole,
  parseNumber,
  proposedAllergens,
  readAmount,
  readRate,
  type ScalableFormula,
  WATER_GRAMS_PER_ML,
} from '@clear-tally/core';
import type { BodyOf, Material } from '@clear-tally/contract';
import type { Draft, DraftLine } from './draft';
import { grainIn, readSalt, saltBase } from './readSalt';

export interface Said {
  readonly say: string | null;
  readonly problem: string | null;
}
type Body = BodyOf<'formula.save'>;

/** What a draft says: the formula it makes, its open holes, and words beside every field. */
export interface ReadDraft {
  /** Null while something stands in the way of keeping it. */
  readonly body: Body | null;
  readonly scalable: ScalableFormula | null;
  readonly holes: readonly Hole[];
  readonly fields: Readonly<Record<string, Said>>;
  /** Names that the house does not know: they are added with the formula. */
  readonly newMaterials: readonly BodyOf<'material.add'>[];
  readonly inTheWay: readonly string[];
}

const NOTHING: Said = { say: null, problem: null };

/** Reads every typed word of a draft once; `idFor` gives new materials ids that stay the same while typing. */
export function readDraft(
  draft: Draft,
  materials: readonly Material[],
  idFor: (name: string) => string,
  decimalMark?: DecimalMark,
): ReadDraft {
  const reading = new Reading(draft, materials, idFor, decimalMark);
  return reading.answer();
}

class Reading {
  private readonly fields: Record<string, Said> = {};
  private readonly inTheWay: string[] = [];
  private readonly added = new Map<string, BodyOf<'material.add'>>();

  constructor(
    private readonly draft: Draft,
    private readonly materials: readonly Material[],
    private readonly idFor: (name: string) => string,
    private readonly decimalMark?: DecimalMark,
  ) {}

  answer(): ReadDraft {
    const { draft } = this;
    if (draft.name.trim() === '') this.stop('name', 'A formula has a name.');
    const produce = this.produce();
    const reference = produce?.reference ?? null;
    const water = this.water(reference);
    const salt = this.salt(reference, water);
    const saltGrams =
      reference !== null && salt !== null && draft.saltBasis !== null
        ? saltBase(draft.saltBasis, reference, (water ?? 0) * reference) *
          (draft.saltBasis === 'ofSolution' ? salt / (1 - salt) : salt)
        : null;
    const lines = draft.lines
      .filter((line) => line.material.trim() !== '' || line.amount.trim() !== '')
      .map((line) => this.line(line, { reference, water: water ?? 0, saltGrams }));
    const numbers = this.numbers();
    const saltMaterial =
      draft.saltMaterial.trim() === '' ? null : this.material(draft.saltMaterial, 'salt', 'saltMaterial');
    const body =
      produce && numbers && this.inTheWay.length === 0
        ? this.body({ produce: produce.parts, reference, water, salt, saltMaterial, lines, numbers })
        : null;
    const scalable =
      produce && numbers ? this.scalable({ produce: produce.parts, reference, water, salt, lines, numbers }) : null;
    return {
      body,
      scalable,
      fields: this.fields,
      inTheWay: this.inTheWay,
      newMaterials: [...this.added.values()],
      holes: scalable ? formulaHoles(scalable) : [],
    };
  }

  private produce(): { parts: Body['produce']; reference: number } | null {
    const rows = this.draft.produce.filter((row) => row.material.trim() !== '' || row.amount.trim() !== '');
    if (rows.length === 0) return this.stop('produce', 'Name the main produce, trimmed.');
    const read = rows.map((row) => {
      const id = this.material(row.material, 'produce', `produce.${row.key}.material`);
      if (row.amount.trim() === '' && rows.length === 1) return { id, grams: 1000 };
      const amount = readAmount({
        text: row.amount,
        defaultUnit: 'kg',
        nationality: this.draft.nationality,
        decimalMark: this.decimalMark,
      });
      if (!amount.ok) return this.stop(`produce.${row.key}.amount`, amount.refusal.message);
      const piece = this.known(row.material)?.details.pieceGrams;
      const grams =
        amount.value.measures === 'mass'
          ? amount.value.least
          : amount.value.measures === 'pieces' && piece
            ? amount.value.count * piece
            : null;
      if (grams === null)
        return this.stop(`produce.${row.key}.amount`, 'Produce is weighed after trimming: type g, kg, oz or lb.');
      return { id, grams };
    });
    const all = read.filter((row): row is { id: string; grams: number } => row !== null);
    if (all.length < read.length) return null;
    const reference = all.reduce((sum, row) => sum + row.grams, 0);
    // The last share takes what rounding leaves, so that the shares add up to one exactly.
    const shares = all.map((row, index) => (index < all.length - 1 ? round(row.grams / reference) : 0));
    shares[shares.length - 1] = round(1 - shares.reduce((sum, share) => sum + share, 0));
    return { reference, parts: all.map((row, index) => ({ materialId: row.id, share: shares[index]! })) };
  }

  private water(reference: number | null): number | null {
    const text = this.draft.water.trim();
    if (text === '') return this.draft.saltBasis === 'ofVegetable' ? 0 : null;
    if (/^(0|none|no|dry)$/i.test(text)) return 0;
    const rate = readRate({
      text: /^[\d.,\s]+$/.test(text) ? `${text} g` : text,
      decimalMark: this.decimalMark,
      scaleBy: 'mainMass',
      baseGrams: reference,
      gramsPerMl: WATER_GRAMS_PER_ML,
      nationality: this.draft.nationality,
      what: 'water',
    });
    if (!rate.ok) return this.open('water', rate.refusal.message);
    this.fields['water'] = { say: rate.value.understood === text ? null : `= ${rate.value.understood}`, problem: null };
    return round(rate.value.amount);
  }

  private salt(reference: number | null, water: number | null): number | null {
    const { draft } = this;
    const details = this.known(draft.saltMaterial)?.details;
    const read = readSalt({
      text: draft.salt,
      decimalMark: this.decimalMark,
      basis: draft.saltBasis,
      saltName: draft.saltMaterial,
      grain: details?.grain ?? null,
      gramsPer15Ml: details?.gramsPer15Ml ?? null,
      waterText: draft.water,
      produceGrams: reference,
      waterPerProduce: water,
      nationality: draft.nationality,
    });
    this.fields['salt'] = { say: read.say, problem: read.problem };
    return read.fraction === null ? null : round(read.fraction);
  }

  private line(
    line: DraftLine,
    base: { reference: number | null; water: number; saltGrams: number | null },
  ): Body['lines'][number] {
    const at = `line.${line.key}`;
    const materialId = this.material(line.material, 'flavouring', `${at}.material`);
    const known = this.known(line.material);
    const pieceGrams = line.pieceGrams ?? known?.details.pieceGrams ?? null;
    const counted =
      /(clove|leaf|leaves|sprig|piece|bulb|head|pod|stalk)s?\b/i.test(line.amount) || line.pieceGrams !== null;
    const baseGrams =
      base.reference === null
        ? null
        : ({
            mainMass: base.reference,
            everything: base.reference * (1 + base.water),
            saltMass: base.saltGrams,
            finishedMass: base.reference,
          }[line.scaleBy as 'mainMass'] ?? null);
    let amount: number | null = null;
    const rateOf = (text: string): ReturnType<typeof readRate> =>
      readRate({
        text,
        decimalMark: this.decimalMark,
        scaleBy: line.scaleBy,
        baseGrams,
        gramsPerMl: known?.details.gramsPerMl,
        pieceGrams,
        nationality: this.draft.nationality,
        what: line.material || 'this',
      });
    if (line.scaleBy !== 'toTaste' && line.amount.trim() !== '') {
      const rate = rateOf(line.amount);
      if (rate.ok) {
        amount = Number(rate.value.amount.toPrecision(9));
        this.fields[`${at}.amount`] = {
          say: rate.value.understood === line.amount.trim() ? null : `= ${rate.value.understood}`,
          problem: null,
        };
      } else this.open(`${at}.amount`, rate.refusal.message);
    }
    // What cannot be weighed is kept with its words, as a hole.
    const written = line.written || (amount === null && line.amount.trim() !== '' ? line.amount.trim() : '');
    return {
      materialId,
      scaleBy: line.scaleBy,
      amount,
      ...(pieceGrams && counted ? { pieceGrams } : {}),
      ...(line.scaleBy === 'jar' ? { perMl: this.number(`${at}.perMl`, line.perMl, 20, 20_000) ?? null } : {}),
      ...(line.exponent.trim() === '' ? {} : { exponent: this.number(`${at}.exponent`, line.exponent, 0.3, 1.5) ?? 1 }),
      ...this.usual(line, at, rateOf),
      ...(line.variants === null || this.draft.variants.length === 0 ? {} : { variants: [...line.variants] }),
      ...(line.note.trim() ? { note: line.note.trim() } : {}),
      ...(written ? { written } : {}),
    };
  }

  /** What usually goes in of a line, each end as it is typed; an end that cannot be read keeps the formula from being kept. */
  private usual(
    line: DraftLine,
    at: string,
    rateOf: (text: string) => ReturnType<typeof readRate>,
  ): { least?: number; most?: number } {
    const end = (key: 'least' | 'most'): number | null => {
      const text = (line[key] ?? '').trim();
      if (text === '' || line.scaleBy === 'toTaste') return null;
      const rate = rateOf(text);
      if (!rate.ok) return this.stop(`${at}.${key}`, rate.refusal.message);
      this.fields[`${at}.${key}`] = {
        say: rate.value.understood === text ? null : `= ${rate.value.understood}`,
        problem: null,
      };
      return Number(rate.value.amount.toPrecision(9));
    };
    const [least, most] = [end('least'), end('most')];
    if (least !== null && most !== null && least > most) {
      this.stop(
        `${at}.most`,
        `The usual range of ${line.material || 'this line'} ends before it begins: the lower end first.`,
      );
      return {};
    }
    return { ...(least === null ? {} : { least }), ...(most === null ? {} : { most }) };
  }

  private numbers() {
    const { draft } = this;
    const share = (key: string, text: string): number | null => {
      const value = this.number(key, text.replace('%', ''), 1, 100);
      return value === null
        ? this.stop(
            key,
            this.fields[key]?.problem ?? `${SHARE_WORDS[key] ?? 'This'}: a share from 1 to 100 % is needed.`,
          )
        : round(value / 100);
    };
    const [trim, ferment, pack, solids] = [
      share('trim', draft.trim),
      share('ferment', draft.ferment),
      share('pack', draft.pack),
      share('solids', draft.solids),
    ];
    const finish = draft.finish.trim() === '' ? undefined : share('finish', draft.finish);
    const usualDays = this.number('usualDays', draft.usualDays, 1, 800);
    if (usualDays === null) this.stop('usualDays', 'Usual days: from 1 to 800.');
    const jars = draft.jars
      .filter((jar) => jar.sizeMl.trim() !== '')
      .map((jar, index) => {
        const [sizeMl, fillGrams] = [
          this.number(`jar.${index}.sizeMl`, jar.sizeMl, 20, 20_000),
          this.number(`jar.${index}.fillGrams`, jar.fillGrams, 1, 30_000),
        ];
        if (sizeMl === null || fillGrams === null)
          return this.stop(`jar.${index}.sizeMl`, 'A jar has a size in mL and a filling in g.');
        const optional = (key: string, text: string): number | undefined =>
          text.trim() === '' ? undefined : (this.number(`jar.${index}.${key}`, text, 0, 1000) ?? undefined);
        const [perCase, packagingCost, price] = [
          optional('perCase', jar.perCase),
          optional('packagingCost', jar.packagingCost),
          optional('price', jar.price),
        ];
        return {
          sizeMl: Math.round(sizeMl),
          fillGrams,
          ...(perCase === undefined ? {} : { perCase: Math.round(perCase) }),
          ...(packagingCost === undefined ? {} : { packagingCost }),
          ...(price === undefined ? {} : { price }),
        };
      });
    if (jars.length === 0) this.stop('jars', 'At least one jar size is needed.');
    if (
      trim === null ||
      ferment === null ||
      pack === null ||
      solids === null ||
      finish === null ||
      usualDays === null ||
      jars.some((jar) => jar === null)
    )
      return null;
    const celsius = this.celsius();
    const heavy = this.heavy();
    return {
      ...(celsius ? { celsius } : {}),
      yields: { trim, ferment, pack, ...(finish === undefined ? {} : { finish }) },
      solidsFraction: solids,
      usualDays: Math.round(usualDays),
      jarSizes: jars.filter((jar): jar is NonNullable<typeof jar> => jar !== null),
      heavy,
    };
  }

  /** Both ends, the lower one under the upper one, or neither. */
  private celsius(): Body['celsius'] {
    const [coolest = '', warmest = ''] = [this.draft.coolest, this.draft.warmest];
    if (coolest.trim() === '' && warmest.trim() === '') return null;
    const [least, most] = [this.number('coolest', coolest, -2, 45), this.number('warmest', warmest, -2, 45)];
    if (least !== null && most !== null && least < most) return { least, most };
    return this.stop('coolest', 'A temperature from and to, such as 11 and 17 °C, or neither.');
  }

  private heavy(): Body['heavy'] {
    const { heavy } = this.draft;
    if (!heavy) return null;
    const [minutes, rinses, litres, drain, wanted] = [
      this.number('heavy.minutes', heavy.minutes, 0, 1440),
      this.number('heavy.rinses', heavy.rinses, 0, 10),
      this.number('heavy.litresPerKg', heavy.litresPerKg, 0, 20),
      this.number('heavy.drain', heavy.drain, 10, 100),
      this.number('heavy.wanted', heavy.wanted, 1.5, 8),
    ];
    if (minutes === null || rinses === null || litres === null || drain === null || wanted === null)
      return this.stop(
        'heavy',
        'The rest, the rinses, the drained share and the salt wanted (1.5 to 8 %) are figures.',
      );
    return {
      minutes,
      cut: heavy.cut,
      rinses: Math.round(rinses),
      litresPerKg: litres,
      drainYield: round(drain / 100),
      wanted: round(wanted / 100),
    };
  }

  private scalable(input: {
    produce: Body['produce'];
    reference: number | null;
    water: number | null;
    salt: number | null;
    lines: Body['lines'];
    numbers: NonNullable<ReturnType<Reading['numbers']>>;
  }): ScalableFormula {
    const byId = new Map([
      ...this.materials.map((one) => [one.id, one] as const),
      ...[...this.added.values()].map(
        (one) => [one.materialId, { ...one, id: one.materialId, details: one.details ?? {} }] as const,
      ),
    ]);
    return {
      saltBasis: this.draft.saltBasis,
      saltFraction: input.salt,
      waterPerProduce: input.water,
      form: this.draft.form,
      referenceGrams: input.reference ?? 1000,
      ...input.numbers,
      heavy: input.numbers.heavy ?? null,
      heated: this.draft.rules['heat'] === 'heat',
      steps: this.draft.steps,
      produce: input.produce.map((part) => ({
        ...part,
        name: byId.get(part.materialId)?.name ?? '',
        waterFraction: byId.get(part.materialId)?.waterFraction,
      })),
      lines: input.lines.map((line) => {
        const one = byId.get(line.materialId);
        return {
          ...line,
          name: one?.name ?? '',
          waterFraction: one?.waterFraction ?? 0,
          saltFraction: one?.saltFraction ?? 0,
          isStarter: one?.kind === 'starter',
        };
      }),
    };
  }

  private body(input: {
    produce: Body['produce'];
    reference: number | null;
    water: number | null;
    salt: number | null;
    saltMaterial: string | null;
    lines: Body['lines'];
    numbers: NonNullable<ReturnType<Reading['numbers']>>;
  }): Body {
    const { draft } = this;
    const fixed = this.number('labourFixed', draft.labourFixed, 0, 2000);
    const perKg = this.number('labourPerKg', draft.labourPerKg, 0, 200);
    const equipment = equipmentNamed(draft.equipment ?? '');
    return {
      formulaId: draft.formulaId,
      number: draft.number,
      version: draft.base + 1,
      name: draft.name.trim(),
      style: draft.style,
      form: draft.form,
      produce: input.produce,
      saltBasis: draft.saltBasis,
      saltFraction: input.salt,
      saltWritten: draft.saltWritten.trim() || null,
      saltMaterialId: input.saltMaterial,
      waterPerProduce: input.water,
      lines: input.lines,
      ...input.numbers,
      note: draft.note.trim() || null,
      referenceGrams: input.reference ?? 1000,
      variants: draft.variants.filter((name) => name.trim() !== ''),
      steps: draft.steps
        .filter((step) => step.words.trim() !== '')
        .map((step) => ({
          words: step.words.trim(),
          minutes: this.number(`step.${step.key}`, step.minutes, 0, 10_000),
          ...(step.irreversible ? { irreversible: true } : {}),
          ...(step.at ? { at: step.at } : {}),
        })),
      checks: draft.checks.map((check) => ({
        ...check,
        rule: check.rule.kind === 'onDays' ? { ...check.rule, days: [...check.rule.days] } : { ...check.rule },
      })),
      ...((draft.windows ?? []).length > 0 ? { windows: draft.windows!.map((one) => ({ ...one })) } : {}),
      ...(equipment.length > 0 ? { equipment } : {}),
      done: draft.done && { ...draft.done, days: draft.done.days && { ...draft.done.days } },
      labour: fixed === null && perKg === null ? null : { fixedMinutes: fixed ?? 0, minutesPerKg: perKg ?? 0 },
      makes: (draft.makes || null) as Body['makes'],
      rules: { ...draft.rules },
    };
  }

  private known(name: string): Material | undefined {
    const key = name.trim().toLowerCase();
    return key === '' ? undefined : this.materials.find((one) => one.name.toLowerCase() === key);
  }

  private material(name: string, kind: BodyOf<'material.add'>['kind'], field: string): string {
    const clean = name.trim();
    if (clean === '') return this.stop(field, 'Name it.') ?? '';
    const known = this.known(clean);
    if (known) return known.id;
    const key = clean.toLowerCase();
    const water = { produce: 0.92, salt: 0, water: 1, flavouring: 0.7, starter: 0.95, packaging: 0 }[kind];
    const grain = kind === 'salt' ? grainIn(clean) : null;
    const added = this.added.get(key) ?? {
      materialId: this.idFor(key),
      name: clean,
      kind,
      waterFraction: water,
      saltFraction: kind === 'salt' ? 1 : 0,
      allergens: proposedAllergens(clean),
      caution: null,
      ...(grain ? { details: { grain } } : {}),
    };
    this.added.set(key, added);
    this.fields[field] = {
      say:
        added.allergens.length > 0
          ? `new here: added with the formula, with ${added.allergens.map((one) => ALLERGENS[one as Allergen].words).join(', ')} by its name`
          : 'new here: added with the formula',
      problem: null,
    };
    return added.materialId;
  }

  private number(field: string, text: string, least: number, most: number): number | null {
    if (text.trim() === '') return null;
    const number = parseNumber({ text, decimalMark: this.decimalMark });
    const problem = !number.ok
      ? number.refusal.message
      : number.value < least || number.value > most
        ? `${text.trim()} was given; ${least} to ${most} is accepted.`
        : null;
    if (problem) return this.stop(field, problem);
    return number.ok ? number.value : null;
  }

  /** Stays a hole: it can be kept, and is shown. */
  private open(field: string, problem: string): null {
    this.fields[field] = { say: null, problem };
    return null;
  }

  /** Keeps the formula from being kept. */
  private stop(field: string, problem: string): null {
    this.fields[field] = { say: null, problem };
    this.inTheWay.push(problem);
    return null;
  }
}

const SHARE_WORDS: Readonly<Record<string, string>> = {
  trim: 'Trim yield',
  ferment: 'Ferment yield',
  pack: 'Pack yield',
  finish: 'Finish yield',
  solids: 'Solids in a jar',
};
const round = (value: number): number => Number(value.toPrecision(9));
export const saidAt = (read: ReadDraft, field: string): Said => read.fields[field] ?? NOTHING;
/** Ids for names that are new: the same while the page lives. */
export function stableIds(): (name: string) => string {
  const ids = new Map<string, string>();
  return (name) => ids.get(name) ?? ids.set(name, v7()).get(name)!;
}

/** "T1, SC2, cabbage plane": what looks like a tag is one, whatever the house has of it now. */
export const equipmentNamed = (text: string): NonNullable<Body['equipment']> =>
  text
    .split(/[,;\n]/)
    .map((part) => part.trim().slice(0, 80))
    .filter((part, index, all) => part !== '' && all.indexOf(part) === index)
    .slice(0, 16)
    .map((words) => ({ tag: /^[A-Z][A-Z0-9]{0,5}$/.test(words) ? words : null, words }));

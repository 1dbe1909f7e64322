import { Component, computed, input, model, signal } from '@angular/core';
import { type DecimalMark, fillWeights, formatGrams, parseNumber } from '@clear-tally/core';
import type { BodyOf, HouseReply, PackableReply, PackingReply } from '@clear-tally/contract';
import { injectDecimalMark } from '../../state/house';
import { injectScale } from '../../state/scale';
import { shown } from '../../state/shown';
import { Choice } from '../../ui/choice';
import { CountInput } from '../../ui/count-input';
import { Mark } from '../../ui/mark';
import { QuantityInput } from '../../ui/quantity-input';
import type { Need } from '../../ui/record-button';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import { WeighedOn } from '../../ui/weighed-on';
import { supplyChoices } from '../make/supply-choices';

type Fill = PackableReply['fills'][number];

/** What stands beside the jars: the line, their weights, jars and lids by lot, what joins, what is retained. */
export interface PackMore {
  readonly cleared: boolean;
  /** Sampled weights by size, as typed: figures with blanks between them. */
  readonly weights: Readonly<Record<number, string>>;
  readonly closures: readonly { readonly lotId: string | null; readonly count: number | null }[];
  readonly keeps: number | null;
  readonly keptIn: string | null;
  readonly keptDays: string;
  readonly weightsOut: Readonly<Record<string, number | null>>;
  readonly weightsReason: string;
  readonly added: Readonly<Record<string, { readonly lotId: string | null; readonly grams: number | null }>>;
}

export const NOTHING_MORE: PackMore = {
  cleared: false,
  weights: {},
  closures: [],
  keeps: null,
  keptIn: null,
  keptDays: '90, 180',
  weightsOut: {},
  weightsReason: '',
  added: {},
};

/** Figures with blanks between them; null where one of them is none. */
export function readFigures(text: string, decimalMark: DecimalMark): number[] | null {
  const read = text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((word) => parseNumber({ text: word.replace(/,$/, ''), decimalMark }))
    .map((one) => (one.ok && one.value > 0 ? one.value : null));
  return read.every((one) => one !== null) ? read : null;
}

/** Whole days, as "90, 180". */
export const readDays = (text: string): number[] | null => {
  const words = text.split(/[\s,;]+/).filter(Boolean);
  return words.length > 0 && words.every((word) => /^\d{1,4}$/.test(word) && Number(word) > 0)
    ? words.map(Number)
    : null;
};

@Component({
  selector: 'ct-pack-more',
  imports: [Choice, CountInput, Mark, QuantityInput, TextField, Tick, WeighedOn],
  templateUrl: './pack-more.html',
  styleUrl: './pack-more.less',
})
export class PackMoreForm {
  readonly taking = input.required<readonly Fill[]>();
  readonly sizes = input.required<readonly { sizeMl: number; fillGrams: number }[]>();
  readonly counts = input.required<Readonly<Record<number, number | null>>>();
  readonly more = model.required<PackMore>();
  private readonly mark = injectDecimalMark();
  protected readonly scale = injectScale('a jar');
  protected readonly packaging = supplyChoices(signal('/api/supplies?kind=packaging'));
  protected readonly flavourings = supplyChoices(signal('/api/supplies?kind=flavouring'));
  private readonly house = shown<HouseReply>(signal('/api/house'));
  protected readonly read = shown<PackingReply>(
    computed(() => (this.taking()[0] ? `/api/packing/${this.taking()[0]!.lotId}` : null)),
  );
  protected readonly mass = (grams: number): string => formatGrams(grams, { stepGrams: 0.1 });
  protected readonly rooms = computed(() =>
    (this.house.data()?.rooms ?? []).map(({ id, name }) => ({ id, label: name })),
  );
  protected readonly jars = computed(() =>
    this.sizes().reduce((sum, { sizeMl }) => sum + (this.counts()[sizeMl] ?? 0), 0),
  );
  protected readonly packed = computed(() => this.sizes().filter(({ sizeMl }) => (this.counts()[sizeMl] ?? 0) > 0));

  /** What of the run before is in it and not in this one. */
  protected readonly carried = computed(() => {
    const { before, allergens } = this.read.data() ?? { before: null, allergens: [] };
    return before ? before.allergens.filter((one) => !allergens.includes(one)) : [];
  });
  /** Others that are better packed before this one, because they carry less. */
  protected readonly earlier = computed(() => {
    const { order = [], allergens = [] } = this.read.data() ?? {};
    if (allergens.length === 0) return [];
    return order.filter((one) => one.allergens.length < allergens.length && one.name !== this.taking()[0]?.name);
  });

  protected readonly sampled = computed(() =>
    this.packed().map(({ sizeMl, fillGrams }) => {
      const text = this.more().weights[sizeMl] ?? '';
      const grams = text.trim() === '' ? [] : readFigures(text, this.mark() ?? 'point');
      return {
        sizeMl,
        text,
        problem: grams === null ? 'Weights in grams are read, a blank between them: 318 322,5 320.' : null,
        says: grams && grams.length > 0 ? fillWeights({ netGrams: fillGrams, sampled: grams }) : null,
      };
    }),
  );
  protected readonly judged = {
    fine: 'as labelled',
    light: 'some are light: weigh more of them',
    short: 'SHORT: fill them up',
  };

  protected readonly weightsShort = computed(() =>
    this.taking().filter(({ lotId, weightsIn }) => {
      const out = this.more().weightsOut[lotId];
      return out !== undefined && out !== null && out < weightsIn;
    }),
  );
  protected readonly daysProblem = computed(() =>
    this.more().keeps && readDays(this.more().keptDays) === null
      ? `“${this.more().keptDays}” was given; days after packing are read, as 90, 180.`
      : null,
  );

  protected set(change: Partial<PackMore>): void {
    this.more.set({ ...this.more(), ...change });
  }

  protected weigh(sizeMl: number, text: string): void {
    this.set({ weights: { ...this.more().weights, [sizeMl]: text } });
  }

  /** The jar that stands on the scale, tared: one tap a jar. */
  protected takeJar(sizeMl: number): void {
    const grams = this.scale.ready()?.grams;
    if (!grams) return;
    const before = this.more().weights[sizeMl]?.trim();
    this.weigh(sizeMl, [before, String(Math.round(grams * 10) / 10)].filter(Boolean).join(' '));
    this.scale.taken();
  }

  protected close(index: number, change: Partial<PackMore['closures'][number]>): void {
    this.set({ closures: this.more().closures.map((one, i) => (i === index ? { ...one, ...change } : one)) });
  }

  protected another(): void {
    this.set({ closures: [...this.more().closures, { lotId: null, count: this.jars() || null }] });
  }

  protected less(index: number): void {
    this.set({ closures: this.more().closures.filter((_, i) => i !== index) });
  }

  protected out(lotId: string, count: number | null): void {
    this.set({ weightsOut: { ...this.more().weightsOut, [lotId]: count } });
  }

  protected add(materialId: string, change: Partial<PackMore['added'][string]>): void {
    const before = this.more().added[materialId] ?? { lotId: null, grams: null };
    this.set({ added: { ...this.more().added, [materialId]: { ...before, ...change } } });
  }
}

/** What of it goes with the run. */
export function packedWith(
  more: PackMore,
  decimalMark: DecimalMark,
  scale: { scaleId?: string },
): Pick<BodyOf<'pack.run'>, 'weights' | 'scaleId' | 'added' | 'closures' | 'retained' | 'cleared' | 'weightsReason'> {
  const weights = Object.entries(more.weights).flatMap(([sizeMl, text]) => {
    const grams = readFigures(text, decimalMark);
    return grams && grams.length > 0 ? [{ sizeMl: Number(sizeMl), grams }] : [];
  });
  const added = Object.values(more.added).flatMap(({ lotId, grams }) =>
    lotId && grams ? [{ fromLotId: lotId, grams }] : [],
  );
  const closures = more.closures.flatMap(({ lotId, count }) => (lotId && count ? [{ lotId, count }] : []));
  const days = readDays(more.keptDays);
  return {
    ...(weights.length > 0 ? { weights, ...scale } : {}),
    ...(added.length > 0 ? { added } : {}),
    ...(closures.length > 0 ? { closures } : {}),
    ...(more.keeps && more.keptIn && days
      ? { retained: { count: more.keeps, roomId: more.keptIn, onDays: days } }
      : {}),
    ...(more.cleared ? { cleared: true as const } : {}),
    ...(more.weightsReason.trim() ? { weightsReason: more.weightsReason.trim() } : {}),
  };
}

/** What is typed and cannot go with the run as it stands, and what is asked of every run. */
export function lacking(
  more: PackMore,
  fills: readonly Fill[],
  emptied: readonly string[],
  decimalMark: DecimalMark,
): Need[] {
  return [
    // Not counted is not there: an emptied vessel shows its weights, or somebody looks for them.
    fills.some(({ lotId, weightsIn }) => weightsIn > 0 && emptied.includes(lotId) && more.weightsOut[lotId] == null) &&
      'the weights, counted out',
    !more.cleared && 'that the line is clear',
    Object.values(more.weights).some((text) => readFigures(text, decimalMark) === null) && 'weights that can be read',
    more.closures.some(({ lotId, count }) => !lotId !== !count) && 'the lot and the count of each closure',
    !!more.keeps && !more.keptIn && 'where retained jars stand',
    !!more.keeps && readDays(more.keptDays) === null && 'the days they are tasted',
    fills.some(({ lotId, weightsIn }) => (more.weightsOut[lotId] ?? weightsIn) < weightsIn) &&
      !more.weightsReason.trim() &&
      'where the weights are',
  ];
}

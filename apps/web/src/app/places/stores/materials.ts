import { Component, computed, effect, signal, untracked } from '@angular/core';
import { RecordButton } from '../../ui/record-button';
import {
  looksRed,
  ALLERGEN_KEYS,
  ALLERGENS,
  type Allergen,
  DOOR_ASK_WORDS,
  DOOR_ASKS,
  type DoorAsk,
  FORM_KEYS,
  FORMS,
  formatPercent,
  GRAIN_KEYS,
  GRAINS,
  PRODUCE_GROUPS,
  STANDS_FOR,
  STANDS_FOR_KEYS,
  undecidedAllergens,
} from '@clear-tally/core';
import type { BodyOf, Material } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { newId, recordingForm } from '../../state/form';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { OwnersOnly } from '../../ui/owners-only';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import { Cell } from '../../ui/table/cell';
import type { Column } from '../../ui/table/column';
import { Table } from '../../ui/table/table';
import { StoresNav } from './stores-nav';
import { Tick } from '../../ui/tick';
import { Select } from '../../ui/select';

type Body = BodyOf<'material.add'>;
type Details = NonNullable<Body['details']>;
const KINDS: readonly [Body['kind'], string][] = [
  ['produce', 'produce'],
  ['salt', 'salt'],
  ['water', 'water'],
  ['flavouring', 'flavouring, liquid, compound'],
  ['starter', 'starter'],
  ['packaging', 'jars, lids, labels: counted'],
];

type Row = Material & { readonly said: string };

const COLUMNS: readonly Column<Row>[] = [
  { key: 'name', head: 'Material', value: ({ name }) => name },
  { key: 'kind', head: 'Kind', value: ({ kind }) => kind, aside: true },
  { key: 'water', head: 'Water', kind: 'percent', places: 0, value: (one) => one.waterFraction, width: '116px' },
  {
    key: 'salt',
    head: 'Salt',
    kind: 'percent',
    value: ({ saltFraction, details }) => details.purity ?? (saltFraction > 0 ? saltFraction : null),
    width: '104px',
  },
  { key: 'allergens', head: 'Allergens', value: ({ allergens }) => allergens.join(', ') },
  {
    key: 'cost',
    head: 'Cost per kg',
    kind: 'number',
    places: 2,
    value: ({ details }) => details.costPerKg ?? null,
    width: '140px',
  },
];

/** What the house knows of everything it works with: water, salt, density, allergens, cost, the weight of a spoon. */
@Component({
  selector: 'ct-materials',
  imports: [
    Cell,
    FigureInput,
    OwnersOnly,
    QuantityInput,
    Refusal,
    StoresNav,
    Table,
    TextField,
    Tick,
    Select,
    RecordButton,
  ],
  templateUrl: './materials.html',
  styles: `
    .top {
      display: flex;
      justify-content: space-between;
      gap: 16px;
      align-items: center;
    }
    .name {
      border: 0;
      background: none;
      padding: 6px 0;
      font-size: 18px;
      text-align: left;
      min-height: 40px;
    }
    .side {
      --figure-width: 150px;
    }
    .ticks {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 0 12px;
    }
    .ticks > .label {
      grid-column: 1 / -1;
    }
    .tick {
      display: inline-flex;
      gap: 8px;
      align-items: center;
      min-height: 36px;
      margin: 0;
      color: var(--ink);
      font-weight: 500;
    }
    .tick input {
      width: 22px;
      height: 22px;
      accent-color: var(--brine);
    }
    @media (min-width: 1001px) {
      .page.with-side {
        grid-template-columns: minmax(0, 1fr) 430px;
      }
    }
    summary {
      min-height: 40px;
      padding: 8px 0;
      cursor: pointer;
      font-weight: 600;
    }
  `,
})
export class Materials {
  private readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly search = signal('');
  protected readonly body = signal<Body | null>(null);
  protected readonly isNew = signal(false);
  protected readonly spoons = signal<number | null>(null);
  protected readonly spoonsWeigh = signal<number | null>(null);
  protected readonly save = recordingForm('material', () => {
    this.said.set(`${this.body()?.name} is kept.`);
    this.isNew.set(false);
  });
  protected readonly said = signal<string | null>(null);
  protected readonly kinds = KINDS;
  protected readonly groups = PRODUCE_GROUPS;
  protected readonly forms = FORM_KEYS.map((key) => ({ key, words: FORMS[key].words }));
  protected readonly grains = GRAIN_KEYS.map((key) => ({
    key,
    words: `${GRAINS[key].words}, about ${GRAINS[key].gramsPer15Ml} g per 15 mL`,
  }));
  protected readonly allergens = ALLERGEN_KEYS.map((key) => ({
    key,
    words: ALLERGENS[key].words,
    us: ALLERGENS[key].us !== null,
  }));
  /** Until somebody says otherwise, the name does. */
  protected readonly looksRed = looksRed;
  protected readonly standsFor = STANDS_FOR_KEYS.map((key) => ({ key, words: STANDS_FOR[key] }));
  protected readonly diets = ['vegan', 'fish', 'honey', 'milk'];
  protected readonly house$ = this.house.house;
  protected readonly rows = computed((): readonly Row[] =>
    (this.house.house()?.materials ?? []).map((one) => ({ ...one, said: this.words(one) })),
  );
  protected readonly columns = COLUMNS;
  protected readonly keyOf = ({ id }: Row): string => id;
  /** From spoons on the scale: grams that 15 mL weigh. */
  protected readonly weighed = computed(() =>
    this.spoons() && this.spoonsWeigh() ? this.spoonsWeigh()! / this.spoons()! : null,
  );
  protected readonly weighedOdd = computed(() =>
    this.weighed() !== null && (this.weighed()! < 2 || this.weighed()! > 40)
      ? 'A 15 mL spoon of a salt weighs 6 to 19 g: look at the count and the unit.'
      : null,
  );

  constructor() {
    effect(() => {
      if (this.body() || this.rows().length === 0) return;
      untracked(() => this.choose(this.rows()[0]!));
    });
  }

  protected choose(one: Material): void {
    const { id, name, kind, waterFraction, saltFraction, allergens, caution, details } = one;
    this.body.set({
      materialId: id,
      name,
      kind,
      waterFraction,
      saltFraction,
      allergens: [...allergens],
      caution,
      details: { ...details },
    });
    this.isNew.set(false);
    this.clear();
  }

  protected begin(): void {
    this.body.set({
      materialId: newId(),
      name: this.search().trim(),
      kind: 'flavouring',
      waterFraction: 0.1,
      saltFraction: 0,
      allergens: [],
      caution: null,
      details: {},
    });
    this.isNew.set(true);
    this.clear();
  }

  protected set(change: Partial<Body>): void {
    this.body.update((body) => body && { ...body, ...change });
    this.save.edited();
    this.said.set(null);
  }

  protected setKind(kind: Body['kind']): void {
    const usual = {
      produce: [0.92, 0],
      salt: [0, 1],
      water: [1, 0],
      flavouring: [0.1, 0],
      starter: [0.95, 0],
      packaging: [0, 0],
    }[kind];
    this.set({ kind, waterFraction: usual[0]!, saltFraction: usual[1]! });
  }

  protected readonly doorAsks = DOOR_ASKS;
  protected readonly doorAskWords = DOOR_ASK_WORDS;
  protected readonly askedAtDoor = (now: readonly DoorAsk[], ask: DoorAsk, on: boolean): DoorAsk[] =>
    DOOR_ASKS.filter((one) => (one === ask ? on : now.includes(one)));

  protected detail(change: Partial<Details>): void {
    this.set({ details: { ...this.body()!.details, ...change } });
  }

  protected tick(list: 'allergens' | 'mayContain' | 'diet', key: string, on: boolean): void {
    const body = this.body()!;
    const now = list === 'allergens' ? body.allergens : (body.details?.[list] ?? []);
    const next = on ? [...new Set([...now, key])] : now.filter((one) => one !== key);
    if (list === 'allergens') this.set({ allergens: next });
    else this.detail({ [list]: next });
  }

  /** What its name speaks of, and nobody has said yes or no to. */
  protected readonly asked = computed(() => {
    const body = this.body();
    return body && this.rights.isOwner()
      ? undecidedAllergens({ ...body, ...body.details }).map((key) => ({ key, words: ALLERGENS[key].words }))
      : [];
  });

  protected answer(key: Allergen, yes: boolean): void {
    if (yes) this.tick('allergens', key, true);
    else this.detail({ notAllergens: [...(this.body()!.details?.notAllergens ?? []), key] });
  }

  protected has(list: 'mayContain' | 'diet', key: string): boolean {
    return this.body()?.details?.[list]?.includes(key) ?? false;
  }

  protected keepSpoon(): void {
    this.detail({ gramsPer15Ml: Math.round(this.weighed()! * 100) / 100, spoonWeighed: true });
    this.spoons.set(null);
    this.spoonsWeigh.set(null);
  }

  protected keep(): void {
    const body = this.body();
    if (!body || body.name.trim() === '') return;
    this.save.record(
      this.save.entry(this.isNew() ? 'material.add' : 'material.change', { ...body, name: body.name.trim() }),
    );
  }

  private clear(): void {
    this.save.edited();
    this.said.set(null);
    this.spoons.set(null);
    this.spoonsWeigh.set(null);
  }

  private words(one: Material): string {
    const { details } = one;
    return [
      one.kind,
      details.form ? FORMS[details.form].words : '',
      details.trimYield ? `trims to ${formatPercent(details.trimYield, 0)}` : '',
      details.gramsPer15Ml
        ? `15 mL weigh ${details.gramsPer15Ml} g${details.spoonWeighed ? ', weighed here' : ''}`
        : details.grain
          ? GRAINS[details.grain].words
          : '',
      details.antiCaking ? 'anti-caking' : '',
      details.iodised ? 'iodised' : '',
      details.pieceGrams ? `${details.pieceGrams} g a piece` : '',
    ]
      .filter(Boolean)
      .join(' · ');
  }
}

import { Component, computed, effect, signal, untracked } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { RouterLink } from '@angular/router';
import type { BodyOf, HouseReply } from '@clear-tally/contract';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { Nothing } from '../../ui/nothing';
import { Choices } from '../../ui/choices';
import { CountInput } from '../../ui/count-input';
import { DayField } from '../../ui/day-field';
import { FigureInput } from '../../ui/figure-input';
import { QuantityInput } from '../../ui/quantity-input';
import { RecordButton } from '../../ui/record-button';
import { OwnersOnly } from '../../ui/owners-only';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { TextField } from '../../ui/text-field';
import { Tick } from '../../ui/tick';
import { TypedBeforeNote } from '../../ui/typed-before';
import { type DrawnVessel, VesselDrawing } from '../../ui/vessel-drawing';
import { OfficeNav } from '../office/office-nav';
import {
  allowedWords,
  isRecordableDay,
  readTags,
  VESSEL_MATERIAL_WORDS,
  VESSEL_MATERIALS,
  type VesselMaterial,
} from '@clear-tally/core';

type Vessel = HouseReply['vessels'][number];
type Shape = BodyOf<'vessel.add'>['shape'];
type Closure = BodyOf<'vessel.add'>['closure'];

const SHAPES: readonly (readonly [Shape, string])[] = [
  ['crock', 'a crock'],
  ['drum', 'a drum'],
  ['glass', 'a glass'],
  ['barrel', 'a barrel'],
  ['bag', 'a bag'],
  ['pan', 'a pan, to finish in'],
];
const CLOSURE_WORDS: Readonly<Record<string, string>> = {
  airlock: 'an airlock',
  valve: 'a valve lid',
  loose: 'a loose lid',
  cloth: 'a cloth',
  sealed: 'sealed',
  vacuum: 'vacuum',
};

type Light = NonNullable<NonNullable<BodyOf<'room.add'>['details']>['light']>;
const LIGHTS: readonly (readonly [Light, string])[] = [
  ['dark', 'dark'],
  ['lit', 'lamps'],
  ['sun', 'daylight'],
];
const OUT: readonly (readonly ['repair' | 'gone', string])[] = [
  ['repair', 'under repair'],
  ['gone', 'gone for good'],
];

/** Where things stand, and what they stand in: rooms in the order of the round, vessels drawn to one scale. */
@Component({
  selector: 'ct-registers',
  imports: [
    OwnersOnly,
    Nothing,
    Choices,
    CountInput,
    DayField,
    FigureInput,
    FormField,
    OfficeNav,
    QuantityInput,
    RecordButton,
    Refusal,
    RouterLink,
    Select,
    TextField,
    Tick,
    TypedBeforeNote,
    VesselDrawing,
  ],
  templateUrl: './registers.html',
  styleUrl: './registers.less',
})
export class Registers {
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  protected readonly what = signal<'vessel' | 'room'>('vessel');
  protected readonly chosen = signal<string | null>(null);
  protected readonly roomId = signal<string | null>(null);
  protected readonly shapes = SHAPES;
  protected readonly closures = Object.entries(CLOSURE_WORDS) as [Closure, string][];
  protected readonly closureWords = CLOSURE_WORDS;
  protected readonly materials = VESSEL_MATERIALS.map((key) => [key, VESSEL_MATERIAL_WORDS[key]] as const);
  protected readonly materialWords = VESSEL_MATERIAL_WORDS;
  protected readonly lights = LIGHTS;
  protected readonly outs = OUT;
  /** What is seldom needed stays folded. */
  protected readonly more = signal(false);
  protected readonly vessel = computed(
    () => this.house.house()?.vessels.find(({ id }) => id === this.chosen()) ?? null,
  );
  protected readonly rooms = computed(() =>
    (this.house.house()?.rooms ?? []).map(({ id, name }) => [id, name] as const),
  );

  protected readonly form = recordingForm('vessel', {
    fields: {
      tags: '',
      shape: 'crock' as Shape,
      litres: null as number | null,
      closure: 'airlock' as Closure,
      roomId: '',
      mostPercent: 90 as number | null,
      leastPercent: 50 as number | null,
      weightMl: 0 as number | null,
      inUse: true,
      reason: '',
      tareGrams: null as number | null,
      mouthMm: null as number | null,
      material: '' as VesselMaterial | '',
      boughtOn: '',
      condition: '',
      out: '' as 'repair' | 'gone' | '',
    },
    about: computed(() => this.chosen() ?? 'new'),
    recorded: () => {
      this.form.values.tags.set('');
      this.form.values.reason.set('');
      this.more.set(false);
      this.chosen.set(null);
    },
  });
  protected readonly roomForm = recordingForm('room.add', {
    fields: {
      name: '',
      celsius: null as number | null,
      position: null as number | null,
      least: null as number | null,
      most: null as number | null,
      light: '' as Light | '',
      logger: '',
    },
    about: computed(() => this.roomId() ?? 'new'),
    recorded: () => this.begin('room'),
  });
  protected readonly room = computed(() => this.form.values.roomId() || this.rooms()[0]?.[0] || '');
  private readonly typed = computed(() => readTags(this.form.values.tags()));
  protected readonly tags = computed(() => this.typed().tags);
  protected readonly tagsProblem = computed(() => {
    const there = this.tags().find((tag) => this.house.house()?.vessels.some((one) => one.tag === tag));
    return this.typed().problem ?? (there ? `There is a vessel ${there} already.` : '');
  });
  protected readonly needs = computed(() => {
    const v = this.form.values;
    return [
      !this.vessel() && this.tags().length === 0 && 'its tag',
      !this.vessel() && this.tagsProblem() && 'a tag that is free',
      !v.litres() && 'how much it holds',
      !this.room() && 'a room for it',
      v.mostPercent() === null && 'how full at most',
      v.boughtOn() !== '' && !isRecordableDay(v.boughtOn()) && 'a day it was bought on',
    ];
  });
  protected readonly drawn = computed((): DrawnVessel => {
    const v = this.form.values;
    const most = (v.mostPercent() ?? 90) / 100;
    return {
      shape: v.shape(),
      closure: v.closure(),
      brimMl: (v.litres() ?? 10) * 1000,
      fill: most,
      hold: false,
      formulaNumber: null,
    };
  });

  constructor() {
    // The form of a vessel that is chosen begins with what is known of it.
    effect(() => {
      const of = this.vessel();
      untracked(() => of && this.fill(of));
    });
  }

  protected vesselsIn(roomId: string): Vessel[] {
    const all = (this.house.house()?.vessels ?? []).filter((vessel) => vessel.roomId === roomId);
    return all.sort((a, b) => a.tag.localeCompare(b.tag, 'en', { numeric: true }));
  }

  protected drawnOf(vessel: Vessel): DrawnVessel {
    return { ...vessel, fill: vessel.takenBy ? vessel.maxFill : 0, hold: false, formulaNumber: null };
  }

  /** Out of use, and why; else how it is. */
  protected stateOf({ inUse, details }: Vessel): string {
    if (!inUse) return details.out === 'gone' ? ', gone' : details.out === 'repair' ? ', under repair' : ', out of use';
    return details.condition ? `, ${details.condition}` : '';
  }

  protected litres = (millilitres: number): string => `${Math.round(millilitres / 100) / 10} L`;
  protected roomWords({ usualCelsius, details }: HouseReply['rooms'][number]): string {
    const { light } = details;
    const allowed = allowedWords(details);
    return [`usually ${usualCelsius} °C`, allowed && `${allowed} allowed`, LIGHTS.find(([key]) => key === light)?.[1]]
      .filter(Boolean)
      .join(', ');
  }

  protected roomOf = (id: string) => this.house.house()?.rooms.find((room) => room.id === id);

  protected begin(what: 'vessel' | 'room'): void {
    this.what.set(what);
    this.chosen.set(null);
    this.roomId.set(null);
    const { name, celsius, position, least, most, light, logger } = this.roomForm.values;
    [name, light, logger].forEach((field) => field.set(''));
    [celsius, position, least, most].forEach((field) => field.set(null));
  }

  protected editVessel(id: string): void {
    this.what.set('vessel');
    this.chosen.set(this.chosen() === id ? null : id);
  }

  protected editRoom(id: string): void {
    const of = this.roomOf(id);
    if (!of) return;
    this.what.set('room');
    this.roomId.set(id);
    const v = this.roomForm.values;
    v.name.set(of.name);
    v.celsius.set(of.usualCelsius);
    v.least.set(of.details.leastCelsius ?? null);
    v.most.set(of.details.mostCelsius ?? null);
    v.light.set(of.details.light ?? '');
    v.logger.set(of.details.logger ?? '');
    v.position.set((this.house.house()?.rooms ?? []).findIndex((room) => room.id === id) + 1);
  }

  private fill(of: Vessel): void {
    const v = this.form.values;
    v.shape.set(of.shape);
    v.litres.set(of.brimMl / 1000);
    v.closure.set(of.closure);
    v.roomId.set(of.roomId);
    v.mostPercent.set(Math.round(of.maxFill * 1000) / 10);
    v.leastPercent.set(Math.round(of.minFill * 1000) / 10);
    v.weightMl.set(of.weightVolumeMl);
    v.inUse.set(of.inUse);
    const { tareGrams, mouthMm, material, boughtOn, condition, out } = of.details;
    v.tareGrams.set(tareGrams ?? null);
    v.mouthMm.set(mouthMm ?? null);
    v.material.set(material ?? '');
    v.boughtOn.set(boughtOn ?? '');
    v.condition.set(condition ?? '');
    v.out.set(out ?? '');
  }

  /** What else is known of it; nothing that was not said. */
  private details(): NonNullable<BodyOf<'vessel.add'>['details']> {
    const v = this.form.values;
    return {
      tareGrams: v.tareGrams(),
      mouthMm: v.mouthMm(),
      material: v.material() || null,
      boughtOn: v.boughtOn() || null,
      condition: v.condition().trim() || null,
      out: v.inUse() ? null : v.out() || null,
    };
  }

  protected keepRoom(): void {
    const v = this.roomForm.values;
    if (!v.name().trim() || v.celsius() === null) return;
    const rooms = this.house.house()?.rooms.length ?? 0;
    const id = this.roomId();
    const body = {
      roomId: id ?? newId(),
      name: v.name().trim(),
      usualCelsius: v.celsius()!,
      position: Math.max(0, (v.position() ?? rooms + 1) - 1),
      details: {
        leastCelsius: v.least(),
        mostCelsius: v.most(),
        light: v.light() || null,
        logger: v.logger().trim() || null,
      },
    };
    this.roomForm.record(this.roomForm.entry(id ? 'room.change' : 'room.add', body));
  }

  protected keepVessel(): void {
    const v = this.form.values;
    const of = this.vessel();
    if (!v.litres() || !this.room() || v.mostPercent() === null) return;
    const body = {
      shape: v.shape(),
      brimMl: Math.round(v.litres()! * 1000),
      maxFill: v.mostPercent()! / 100,
      minFill: Math.min(v.leastPercent() ?? 0, v.mostPercent()!) / 100,
      weightVolumeMl: v.weightMl() ?? 0,
      closure: v.closure(),
      roomId: this.room(),
      details: this.details(),
    };
    if (of) {
      const { id, tag, inner } = of;
      this.form.record(
        this.form.entry('vessel.change', {
          ...body,
          vesselId: id,
          tag,
          inUse: v.inUse(),
          reason: v.reason().trim() || null,
          // Inner measures belong to the capacity they were taken for.
          ...(inner && body.brimMl === of.brimMl ? { inner } : {}),
        }),
      );
      return;
    }
    if (this.tags().length === 0 || this.tagsProblem()) return;
    this.form.record(
      ...this.tags().map((tag) => this.form.entry('vessel.add', { ...body, vesselId: newId(), tag, inUse: true })),
    );
  }
}

import { Component, computed, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import {
  checkFile,
  LINE_ROLES,
  type LineRole,
  NATIONALITIES,
  type Nationality,
  readAmount,
  type ReadLine,
  readNotebook,
  readRecipe,
  undecidedAllergens,
} from '@clear-tally/core';
import { fileFormula, fileMaterial, FORMULA_FORMAT, type BodyOf, type FormulasReply } from '@clear-tally/contract';
import { draftInHand } from '../../state/draft';
import { houseNation, injectHouse } from '../../state/house';
import { newId, recordingForm } from '../../state/form';
import { shown } from '../../state/shown';
import { Choices } from '../../ui/choices';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import type { Draft } from './draft/draft';
import { draftFromFile, draftFromRecipe, type KnownHere } from './draft/draftFrom';
import { takeIn, type TakenIn } from './takeIn';
import { FileField } from '../../ui/file-field';
import { AreaField } from '../../ui/area-field';
import { TypedBeforeNote } from '../../ui/typed-before';
import { keepTyped } from '../../state/typed';
import { NATION_WORDS } from '../../ui/whose-measure';

/** A recipe comes in as it stands: typed line by line, or as a file. What is sound is kept, the rest is marked. */
@Component({
  selector: 'ct-take-in',
  imports: [Choices, Refusal, TextField, FileField, AreaField, TypedBeforeNote],
  template: `
    <div class="page with-side wide">
      <div class="main stack">
        <h1>Take a recipe in</h1>
        <form class="stack" (submit)="$event.preventDefault(); write()">
          <ct-typed-before [typed]="kept" />
          <ct-text label="Name" [value]="name()" (valueChange)="name.set($event)" />
          <ct-area
            label="As it stands in the notebook, a line for each thing"
            [rows]="9"
            [placeholder]="example"
            [(value)]="words"
          />
          <div class="row"><button class="go" [disabled]="lines().length === 0">Write it into the book</button></div>
        </form>
        <section class="rule stack">
          <h2>Or from a file</h2>
          <p class="soft small">
            Clear Tally formulas (JSON) or a schema.org recipe (JSON-LD), up to 2 MB. Nothing in the book is changed by
            reading a file.
          </p>
          <ct-file label="File" accept=".json,.jsonld,application/json,application/ld+json" (chosen)="chosen($event)" />
          <ct-refusal [message]="refused()" />
          @for (found of files(); track $index) {
            <div class="found">
              <div>
                <b>{{ found.name || 'without a name' }}</b>
                @for (mark of found.marks; track mark) {
                  <p class="mustard small">{{ mark }}</p>
                } @empty {
                  <p class="soft small">sound</p>
                }
              </div>
              @if (found.open) {
                <button type="button" (click)="open(found)">Open it in the editor</button>
              }
            </div>
          }
          <ct-refusal [message]="materials.problem()" />
        </section>
      </div>
      <aside class="side stack" aria-label="What was understood">
        <h2>What was understood</h2>
        @if (asksNation()) {
          <div class="stack nation">
            <p>Whose spoons, cups and gallons are these?</p>
            <ct-choices
              label="Whose measures"
              [options]="nations"
              [words]="NATION_WORDS"
              [value]="said()"
              (picked)="said.set($event)"
            />
          </div>
        }
        <ul>
          @for (line of lines(); track $index) {
            <li [class.hole]="line.mark || line.asked || unsure(line)">
              <p>
                <b>{{ line.name }}</b>
                @if (line.amount) {
                  <span class="figure">{{ line.amount }}</span>
                }
              </p>
              <div class="roles" role="group" [attr.aria-label]="'What is ' + line.name + '?'">
                @for (one of roles; track one) {
                  <button type="button" [attr.aria-pressed]="role(line) === one" (click)="become(line, one)">
                    {{ ROLE_WORDS[one] }}
                  </button>
                }
              </div>
              @if (line.asked && role(line) === line.role) {
                <span class="small">{{ line.asked }}</span>
              }
              @if (line.mark && role(line) !== 'step') {
                <span class="small">{{ line.mark }}</span>
              }
              @if (unsure(line)) {
                <span class="small">Is this the main produce? One tap says so.</span>
              }
            </li>
          } @empty {
            <li class="soft">Nothing yet. An amount nobody stated stays open: nothing is invented.</li>
          }
        </ul>
      </aside>
    </div>
  `,
  styles: `
    li {
      border-bottom: 1px solid var(--hair);
      padding: 6px 0;
      display: grid;
    }
    .wide {
      grid-template-columns: minmax(0, 1fr) 560px;
    }
    @media (max-width: 1000px) {
      .wide {
        grid-template-columns: minmax(0, 1fr);
      }
    }
    li p {
      display: flex;
      gap: 12px;
      justify-content: space-between;
    }
    .roles {
      display: flex;
      flex-wrap: wrap;
      gap: 2px;
    }
    .roles button {
      min-height: 40px;
      padding: 0 6px;
      border: 1px solid transparent;
      background: none;
      font-size: 15px;
      font-weight: 400;
      color: var(--soft);
    }
    .roles button[aria-pressed='true'] {
      border-color: var(--ink);
      background: var(--sheet);
      color: var(--ink);
      font-weight: 700;
    }
    .hole {
      border-left: 4px solid var(--mustard);
      padding-left: 10px;
    }
    textarea {
      min-height: 250px;
    }
    .found {
      display: flex;
      gap: 16px;
      justify-content: space-between;
      align-items: center;
      border-bottom: 1px solid var(--hair);
      padding: 8px 0;
    }
    input[type='file'] {
      font: inherit;
      min-height: 48px;
    }
  `,
})
export class TakeIn {
  private readonly router = inject(Router);
  private readonly house = injectHouse();
  private readonly book = shown<FormulasReply>(signal('/api/formulas'));
  private readonly hand = draftInHand<Draft>(signal('formula:new'));
  protected readonly name = signal('');
  protected readonly words = signal('');
  /** What is typed here stays until it is written into the book or thrown away. */
  protected readonly kept = keepTyped(signal('take in'), { name: this.name, words: this.words });
  protected readonly refused = signal<string | null>(null);
  protected readonly files = signal<readonly TakenIn[]>([]);
  protected readonly materials = recordingForm('material.add', () => this.toEditor());
  protected readonly example =
    '2 kg baby turnips\n3 quarts water\n7 tablespoons fine salt\n8 g black pepper\na handful of lemon thyme';
  protected readonly roles = LINE_ROLES;
  protected readonly ROLE_WORDS = ROLE_WORDS;
  protected readonly nations = NATIONALITIES;
  protected readonly NATION_WORDS = NATION_WORDS;
  /** What somebody said a line is, by its words: typing on does not take it back. */
  private readonly became = signal<Readonly<Record<string, LineRole>>>({});
  protected readonly said = signal<Nationality | null>(null);
  protected readonly lines = computed((): ReadLine[] => {
    const decimalMark = this.house.house()?.decimalMark;
    return readNotebook(this.words(), decimalMark ? { decimalMark } : {});
  });
  private readonly houseNation = computed(() => houseNation(this.house.house()?.rules));
  private readonly nation = computed(() => this.said() ?? this.houseNation());
  /** A kitchen measure whose country nobody has said. */
  protected readonly asksNation = computed(
    () => this.houseNation() === null && this.lines().some(({ amount }) => amount !== null && isKitchenMeasure(amount)),
  );
  /** The heaviest of what is nothing else yet, where it may be the main produce: none is, or it weighs a good part of it. */
  private readonly likeliest = computed(() => {
    const weighed = (role: LineRole) =>
      this.lines()
        .filter((line) => this.role(line) === role && line.amount !== null)
        .map((line) => ({ line, grams: gramsOf(line.amount!) }))
        .sort((a, b) => b.grams - a.grams);
    const [most] = weighed('line');
    const produce = this.lines().filter((line) => this.role(line) === 'produce');
    const [main] = weighed('produce');
    if (!most || (produce.length > 0 && most.grams < A_GOOD_PART * (main?.grams ?? Infinity))) return null;
    return most.line;
  });
  private readonly number = computed(
    () => Math.max(0, ...(this.book.data()?.formulas ?? []).map((one) => one.number)) + 1,
  );

  protected role(line: ReadLine): LineRole {
    const said = this.became()[line.written];
    return said ?? (line.role === 'line' && this.isProduce(line.name) ? 'produce' : line.role);
  }

  protected become(line: ReadLine, role: LineRole): void {
    this.became.update((all) => ({ ...all, [line.written]: role }));
  }

  protected unsure(line: ReadLine): boolean {
    return this.likeliest() === line;
  }

  protected write(): void {
    if (this.lines().length === 0) return;
    const draft = draftFromRecipe(
      {
        name: this.name().trim(),
        lines: this.lines().map((line) => ({
          ...line,
          role: this.role(line),
          ...(this.role(line) === 'step' ? { name: line.written } : {}),
        })),
        steps: [],
        note: null,
        marks: [],
      },
      this.number(),
      this.known(),
    );
    this.kept.done();
    this.hand.open({ ...draft, nationality: this.nation() });
    this.toEditor();
  }

  protected async chosen(file: File): Promise<void> {
    this.files.set([]);
    this.refused.set(null);
    const size = checkFile({ name: file.name, bytes: file.size });
    if (!size.ok) return this.refused.set(size.refusal.message);
    const taken = takeIn(await file.text(), { fileFormula, fileMaterial, format: FORMULA_FORMAT, readRecipe });
    if (typeof taken === 'string') this.refused.set(taken);
    else this.files.set(taken);
  }

  /** Materials of the file that this house does not know come in with it, as the file describes them, and with the allergens their names speak of. */
  protected open(found: TakenIn): void {
    const draft = found.formula
      ? draftFromFile(found.formula, this.number())
      : draftFromRecipe(found.recipe!, this.number(), this.known());
    this.hand.open({ ...draft, nationality: this.nation(), marks: found.marks });
    const known = new Set((this.house.house()?.materials ?? []).map((one) => one.name.toLowerCase()));
    const unknown = found.materials.filter((one) => !known.has(one.name.toLowerCase()));
    if (unknown.length === 0) return this.toEditor();
    this.materials.record(
      ...unknown.map((one) =>
        this.materials.entry('material.add', {
          materialId: newId(),
          ...one,
          allergens: [...new Set([...one.allergens, ...undecidedAllergens({ ...one, ...one.details })])],
        } as BodyOf<'material.add'>),
      ),
    );
  }

  private known(): KnownHere {
    const kept = (this.house.house()?.materials ?? []).find(({ details }) => details.standsFor === 'keptBrine');
    return { isProduce: (name) => this.isProduce(name), keptBrine: kept?.name ?? null };
  }

  private isProduce(name: string): boolean {
    const key = name.trim().toLowerCase();
    return (this.house.house()?.materials ?? []).some(
      (one) => one.kind === 'produce' && key.startsWith(one.name.toLowerCase()),
    );
  }

  private toEditor(): void {
    void this.router.navigate(['/formulas/new']);
  }
}

/** A flavouring of this share of the produce is none. */
const A_GOOD_PART = 0.3;

const ROLE_WORDS: Readonly<Record<LineRole, string>> = {
  produce: 'main produce',
  salt: 'salt',
  water: 'water',
  brine: 'brine',
  starter: 'starter',
  line: 'flavouring',
  packaging: 'jars',
  step: 'step',
};

/** It is as much as a country's spoon, cup or gallon holds. */
function isKitchenMeasure(amount: string): boolean {
  const read = readAmount({ text: amount });
  return read.ok && read.value.least !== read.value.most;
}

/** Grams of an amount, to find the heaviest; pieces weigh little beside it. */
function gramsOf(amount: string): number {
  const read = readAmount({ text: amount });
  return read.ok && read.value.measures === 'mass' ? read.value.least : 0;
}

import { Component, computed, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { checkFile, readLine, readRecipe, type ReadLine, undecidedAllergens } from '@clear-tally/core';
import { fileFormula, fileMaterial, FORMULA_FORMAT, type BodyOf, type FormulasReply } from '@clear-tally/contract';
import { draftInHand } from '../../state/draft';
import { injectHouse } from '../../state/house';
import { newId, recordingForm } from '../../state/form';
import { shown } from '../../state/shown';
import { Refusal } from '../../ui/refusal';
import { TextField } from '../../ui/text-field';
import type { Draft } from './draft/draft';
import { draftFromFile, draftFromRecipe, houseNation } from './draft/draftFrom';
import { takeIn, type TakenIn } from './takeIn';
import { FileField } from '../../ui/file-field';
import { AreaField } from '../../ui/area-field';

/** A recipe comes in as it stands: typed line by line, or as a file. What is sound is kept, the rest is marked. */
@Component({
  selector: 'ct-take-in',
  imports: [Refusal, TextField, FileField, AreaField],
  template: `
    <div class="page with-side">
      <div class="main stack">
        <h1>Take a recipe in</h1>
        <form class="stack" (submit)="$event.preventDefault(); write()">
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
        <ul>
          @for (line of lines(); track $index) {
            <li [class.hole]="line.mark">
              <b>{{ roles[role(line)] }}</b> {{ line.name }}
              @if (line.amount) {
                <span class="figure">{{ line.amount }}</span>
              }
              @if (line.mark) {
                <span class="small">{{ line.mark }}</span>
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
  protected readonly refused = signal<string | null>(null);
  protected readonly files = signal<readonly TakenIn[]>([]);
  protected readonly materials = recordingForm('material.add', () => this.toEditor());
  protected readonly example =
    '2 kg baby turnips\n3 quarts water\n7 tablespoons fine salt\n8 g black pepper\na handful of lemon thyme';
  protected readonly roles = { produce: 'main produce', salt: 'salt', water: 'water', line: 'also' };
  protected readonly lines = computed((): ReadLine[] =>
    this.words()
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean)
      .slice(0, 60)
      .map(readLine),
  );
  private readonly nation = computed(() => houseNation(this.house.house()?.rules));
  private readonly number = computed(
    () => Math.max(0, ...(this.book.data()?.formulas ?? []).map((one) => one.number)) + 1,
  );

  protected role(line: ReadLine): ReadLine['role'] {
    return line.role === 'line' && this.isProduce(line.name) ? 'produce' : line.role;
  }

  protected write(): void {
    if (this.lines().length === 0) return;
    const draft = draftFromRecipe(
      { name: this.name().trim(), lines: this.lines(), steps: [], note: null, marks: [] },
      this.number(),
      (name) => this.isProduce(name),
    );
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
      : draftFromRecipe(found.recipe!, this.number(), (name) => this.isProduce(name));
    this.hand.open({ ...draft, nationality: this.nation(), marks: found.marks });
    const known = new Set((this.house.house()?.materials ?? []).map((one) => one.name.toLowerCase()));
    const unknown = found.materials.filter((one) => !known.has(one.name.toLowerCase()));
    if (unknown.length === 0) return this.toEditor();
    this.materials.record(
      ...unknown.slice(0, 20).map((one) =>
        this.materials.entry('material.add', {
          materialId: newId(),
          ...one,
          allergens: [...new Set([...one.allergens, ...undecidedAllergens({ ...one, ...one.details })])],
        } as BodyOf<'material.add'>),
      ),
    );
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

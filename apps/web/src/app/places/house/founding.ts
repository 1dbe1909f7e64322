import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { BodyOf, FormulasReply, LotsReply, PeopleReply } from '@clear-tally/contract';
import { STARTER_MATERIALS, type StarterMaterial } from '@clear-tally/core';
import { newId, recordingForm } from '../../state/form';
import { injectHouse } from '../../state/house';
import { injectRights } from '../../state/person';
import { shown } from '../../state/shown';
import { ShareDone } from '../../ui/share-done';
import { Mark } from '../../ui/mark';
import { RecordButton } from '../../ui/record-button';
import { Refusal } from '../../ui/refusal';
import { Select } from '../../ui/select';
import { Tick } from '../../ui/tick';
import { OfficeNav } from '../office/office-nav';
import { HouseSheetForm } from './house-sheet';
import { firstFormula, STYLES, type StyleKey } from './first-formula';

const KINDS: readonly (readonly [StarterMaterial['kind'], string])[] = [
  ['salt', 'Salt'],
  ['water', 'Water'],
  ['produce', 'Produce'],
  ['flavouring', 'Spices, herbs, sugar, vinegar'],
  ['starter', 'Starters'],
  ['packaging', 'Packaging'],
];

/** Setting a house up: what is there, what is next; left and taken up again at any time. */
@Component({
  selector: 'ct-founding',
  imports: [HouseSheetForm, ShareDone, Mark, OfficeNav, RecordButton, Refusal, RouterLink, Select, Tick],
  template: `
    <div class="page with-side">
      <div class="main stack">
        <ct-office-nav />
        <h1>Setting up {{ house.house()?.name }}</h1>
        <p class="soft">
          In any order, and left at any time: what is there is kept. A first batch needs a room, a vessel, salt, produce
          and a formula.
        </p>
        <ct-share-done label="Set up" [done]="done()" [of]="steps().length" />
        <ol class="walk" aria-label="What a house has">
          @for (step of steps(); track step.words) {
            <li>
              <ct-mark [kind]="step.many > 0 ? 'met' : step.needed ? 'due' : 'later'"
                ><span class="visually-hidden">{{ step.many > 0 ? 'there: ' : 'not yet: ' }}</span
                ><b>{{ step.words }}</b
                ><br /><span class="soft small">{{ step.says }}</span></ct-mark
              >
              <span class="figure">{{ step.many || '' }}</span>
              @if (step.path) {
                <a class="button" [routerLink]="step.path">{{ step.many > 0 ? 'Go on' : 'Begin' }}</a>
              } @else {
                <span></span>
              }
            </li>
          }
        </ol>
        @if (rights.isOwner()) {
          <ct-house-sheet class="rule" />
        }
      </div>
      <aside class="side stack" aria-label="To begin with">
        @if (rights.isOwner()) {
          <section class="stack">
            <h2>Materials to begin with</h2>
            <p class="small soft">
              Water, trim and spoon figures as tables usually give them. Weigh and measure your own; each is changed
              under Stores, Materials.
            </p>
            @for (kind of kinds; track kind[0]) {
              <details [open]="kind[0] === 'salt'">
                <summary>
                  {{ kind[1] }} <span class="figure soft">{{ chosenIn(kind[0]) }}</span>
                </summary>
                @for (one of offered(kind[0]); track one.name) {
                  <ct-tick [value]="picked().has(one.name)" (valueChange)="pick(one.name, $event)"
                    >{{ one.name }}{{ one.allergens.length ? ', ' + one.allergens.join(', ') : '' }}</ct-tick
                  >
                } @empty {
                  <p class="soft small">All of them are in your stores.</p>
                }
              </details>
            }
            <button
              type="button"
              class="go"
              [ctRecord]="materials"
              [needs]="[picked().size === 0 && 'a tick']"
              (click)="take()"
            >
              Take {{ picked().size || '' }} of them
            </button>
            <ct-refusal [message]="materials.problem()" />
          </section>
          <section class="stack rule">
            <h2>A first formula</h2>
            <ct-select label="What it is" [options]="styles" [value]="style()" (valueChange)="style.set($event)" />
            <ct-select label="Of" [options]="produce()" [value]="mainId()" (valueChange)="main.set($event)" />
            <ct-select label="With" [options]="salts()" [value]="saltId()" (valueChange)="salt.set($event)" />
            <button
              type="button"
              [ctRecord]="formula"
              [needs]="[!mainId() && 'produce', !saltId() && 'salt']"
              (click)="write()"
            >
              Write it, to be changed
            </button>
            <p class="small soft">
              A usual salt and nothing else: your spices, your days and your jars come in the editor. Or
              <a routerLink="/formulas/take-in">take one in from your notebook</a>.
            </p>
            <ct-refusal [message]="formula.problem()" />
          </section>
        } @else {
          <p class="soft">An owner of the house sets it up.</p>
        }
      </aside>
    </div>
  `,
  styles: `
    .walk {
      padding: 0;
      list-style: none;
    }
    .walk li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 60px 120px;
      gap: 14px;
      align-items: center;
      padding: 8px 0;
      border-bottom: 1px solid var(--hair);
    }
    .walk .figure {
      font-size: 22px;
      text-align: right;
    }
    summary {
      cursor: pointer;
      min-height: 48px;
      padding: 12px 0;
      font-weight: 600;
    }
  `,
})
export class Founding {
  protected readonly house = injectHouse();
  protected readonly rights = injectRights();
  private readonly people = shown<PeopleReply>(computed(() => (this.rights.isOwner() ? '/api/people' : null)));
  private readonly formulas = shown<FormulasReply>(signal('/api/formulas'));
  private readonly lots = shown<LotsReply>(signal('/api/lots?many=20'));
  protected readonly kinds = KINDS;
  protected readonly picked = signal<ReadonlySet<string>>(new Set());
  private readonly known = computed(
    () => new Set((this.house.house()?.materials ?? []).map(({ name }) => name.toLowerCase())),
  );

  protected readonly done = computed(() => this.steps().filter(({ many }) => many > 0).length);
  protected readonly steps = computed(() => {
    const of = this.house.house();
    const lots = this.lots.data()?.lots ?? [];
    const answered = Object.keys(of?.rules ?? {}).length;
    const step = (words: string, says: string, many: number, path: string | null, needed = true) => ({
      words,
      says,
      many,
      path,
      needed,
    });
    return [
      step(
        'Rooms',
        'where things ferment and where they keep, with their usual temperature',
        of?.rooms.length ?? 0,
        '/vessels',
      ),
      step('Vessels', 'one after the other, or a row of them at once: G1-G8', of?.vessels.length ?? 0, '/vessels'),
      step(
        'People',
        'makers, and who only looks; each with a PIN',
        this.people.data()?.people.length ?? 0,
        '/people',
        false,
      ),
      step(
        'Materials',
        'salt, water, produce, spices; from the list beside this, or your own',
        of?.materials.length ?? 0,
        '/materials',
      ),
      step(
        'Suppliers, and what came',
        'a delivery names its supplier, and a new one is added there',
        of?.suppliers.length ?? 0,
        '/stores/delivery',
      ),
      step(
        'House rules',
        'each question with the stricter answer first; your pH limit',
        answered,
        '/house-rules',
        false,
      ),
      step('Meters', 'what reads pH, and its buffers', 0, '/meters', false),
      step(
        'A formula',
        'from the beginning beside this, your notebook or a file',
        this.formulas.data()?.formulas.length ?? 0,
        '/formulas',
      ),
      step('What stands there already', 'vessels and jars from before this book', 0, '/lots/before-the-ledger', false),
      step('A first batch', 'weigh, salt, fill', lots.filter(({ kind }) => kind === 'batch').length, '/make'),
    ];
  });

  protected offered = (kind: StarterMaterial['kind']): readonly StarterMaterial[] =>
    STARTER_MATERIALS.filter((one) => one.kind === kind && !this.known().has(one.name.toLowerCase()));
  protected chosenIn(kind: StarterMaterial['kind']): string {
    const many = this.offered(kind).filter(({ name }) => this.picked().has(name)).length;
    return many > 0 ? String(many) : '';
  }

  protected pick(name: string, on: boolean): void {
    const next = new Set(this.picked());
    if (on) next.add(name);
    else next.delete(name);
    this.picked.set(next);
  }

  protected readonly materials = recordingForm('founding.materials', () => this.picked.set(new Set()));
  protected take(): void {
    const all = STARTER_MATERIALS.filter(
      ({ name }) => this.picked().has(name) && !this.known().has(name.toLowerCase()),
    );
    if (all.length === 0) return;
    this.materials.record(
      ...all.map(({ allergens, ...one }) =>
        this.materials.entry('material.add', {
          ...one,
          materialId: newId(),
          allergens: [...allergens],
        } as BodyOf<'material.add'>),
      ),
    );
  }

  protected readonly styles = STYLES.map(({ key, words }) => [key, words] as const);
  protected readonly style = signal<StyleKey>('shred');
  protected readonly main = signal<string | null>(null);
  protected readonly salt = signal<string | null>(null);
  private readonly of = (kind: string) =>
    (this.house.house()?.materials ?? []).filter((one) => one.kind === kind).map(({ id, name }) => [id, name] as const);
  protected readonly produce = computed(() => this.of('produce'));
  protected readonly salts = computed(() => this.of('salt'));
  protected readonly mainId = computed(() => this.main() ?? this.produce()[0]?.[0] ?? '');
  protected readonly saltId = computed(() => this.salt() ?? this.salts()[0]?.[0] ?? '');
  protected readonly formula = recordingForm('founding.formula');

  protected write(): void {
    const name = this.produce().find(([id]) => id === this.mainId())?.[1];
    if (!name || !this.saltId()) return;
    const numbers = (this.formulas.data()?.formulas ?? []).map(({ number }) => number);
    this.formula.record(
      this.formula.entry(
        'formula.save',
        firstFormula({
          style: this.style(),
          formulaId: newId(),
          number: Math.max(0, ...numbers) + 1,
          produceId: this.mainId(),
          produceName: name,
          saltId: this.saltId(),
        }),
      ),
    );
  }
}

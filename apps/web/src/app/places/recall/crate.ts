import { Component, computed, input, model } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { RecallReply } from '@clear-tally/contract';
import { formatGrams } from '@clear-tally/core';
import { Mark } from '../../ui/mark';
import { jarsAStroke, Strokes } from './strokes';

type Place = RecallReply['places'][number];

/** The figures that decide: jars, live vessels, who has some, what is open. */
@Component({
  selector: 'ct-crate-figures',
  template: `
    <dl>
      <div>
        <dd class="figure">{{ jars() }}</dd>
        <dt>jars of {{ runs() }} {{ runs() === 1 ? 'run' : 'runs' }}</dt>
      </div>
      <div>
        <dd class="figure">{{ live() }}</dd>
        <dt>live{{ held() }}</dt>
      </div>
      <div>
        <dd class="figure">{{ customers() }}</dd>
        <dt>{{ customers() === 1 ? 'customer' : 'customers' }}</dt>
      </div>
      @if (open() !== null) {
        <div>
          <dd class="figure">{{ jars() - open()! }}</dd>
          <dt>accounted for</dt>
        </div>
        <div [class.beet]="open()! > 0">
          <dd class="figure">{{ open() }}</dd>
          <dt>still open</dt>
        </div>
      }
    </dl>
  `,
  styles: `
    dl {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 30px;
      margin: 0;
      padding-bottom: 10px;
      border-bottom: 2px solid var(--ink);
    }
    dl div {
      display: flex;
      gap: 8px;
      align-items: baseline;
    }
    dd {
      margin: 0;
      font-size: 30px;
      font-weight: 700;
    }
  `,
})
export class CrateFigures {
  readonly jars = input.required<number>();
  readonly runs = input.required<number>();
  readonly customers = input.required<number>();
  readonly lots = input.required<RecallReply['lots']>();
  readonly open = input<number | null>(null);
  private readonly alive = computed(() => this.lots().filter(({ live }) => live));
  protected readonly live = computed(() => this.alive().length);
  protected readonly held = computed(() => {
    const many = this.alive().filter(({ held }) => held).length;
    return many === 0 ? '' : many === this.live() ? ', held' : `, ${many} held`;
  });
}

/** Every place that has jars, drawn as strokes; a row is opened for what is done about it. */
@Component({
  selector: 'ct-crate',
  imports: [Strokes],
  template: `
    <ul aria-label="Jars by where they are" [class.plain]="plain()">
      @for (place of places(); track place.key) {
        <li [class.on]="chosen() === place.key">
          <button
            type="button"
            [attr.aria-pressed]="pickable() ? chosen() === place.key : null"
            [disabled]="!pickable()"
            (click)="chosen.set(chosen() === place.key ? null : place.key)"
          >
            <span
              ><b>{{ place.name }}</b
              ><small>{{ saidOf(place) }}</small></span
            >
            <ct-strokes
              [jars]="place.jars"
              [accounted]="plain() ? 0 : place.accounted"
              [plain]="plain()"
              [each]="each()"
            />
            @if (plain()) {
              <span class="figure">{{ place.jars }}</span>
            } @else {
              <span class="figure" [class.beet]="place.open > 0">{{ place.accounted }} of {{ place.jars }}</span>
            }
          </button>
        </li>
      } @empty {
        <li class="none soft">No jar was packed from it.</li>
      }
    </ul>
    @if (places().length > 0) {
      <p class="small soft">
        A stroke is {{ each() === 1 ? 'a jar' : each() + ' jars'
        }}{{ plain() ? '.' : '; crossed: accounted for; dashed: not yet.' }}
      </p>
    }
  `,
  styles: `
    ul {
      padding: 0;
      margin: 0;
      list-style: none;
    }
    ul.plain {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(min(100%, 460px), 1fr));
      column-gap: 34px;
    }
    .plain button {
      grid-template-columns: minmax(130px, 190px) minmax(0, 1fr) auto;
      color: var(--ink);
    }
    li {
      border-bottom: 1px solid var(--hair);
    }
    li.on {
      background: var(--brine-wash);
    }
    .none {
      padding: 12px 0;
    }
    button {
      display: grid;
      grid-template-columns: minmax(170px, 280px) minmax(0, 1fr) auto;
      gap: 16px;
      width: 100%;
      align-items: center;
      padding: 8px 4px;
      min-height: 56px;
      border: 0;
      background: none;
      text-align: left;
      font-weight: 400;
      color: var(--ink);
    }
    small {
      display: block;
      color: var(--soft);
      font-size: 15px;
    }
    .figure {
      font-size: 19px;
      white-space: nowrap;
    }
  `,
})
export class Crate {
  readonly places = input.required<readonly Place[]>();
  /** Only where they are: nobody asks what is accounted for. */
  readonly plain = input(false);
  /** Whether a row can be opened. */
  readonly pickable = input(false);
  readonly chosen = model<string | null>(null);
  protected readonly each = computed(() => jarsAStroke(Math.max(0, ...this.places().map(({ jars }) => jars))));

  protected saidOf(place: Place): string {
    if (place.kind === 'house') return 'in the house';
    if (this.plain()) return place.kind === 'customer' ? 'has them' : 'gone';
    const answered = place.answers.reduce((sum, { count }) => sum + count, 0);
    if (answered > 0) return `${answered} answered for`;
    if (place.notice) return 'word is sent, no answer yet';
    return place.kind === 'customer' ? 'nobody has written to them yet' : 'known as gone';
  }
}

/** Lots a recall reaches, live ones first. */
@Component({
  selector: 'ct-reached',
  imports: [Mark, RouterLink],
  template: `
    <details>
      <summary>{{ lots().length }} lots it reaches</summary>
      <ul>
        @for (lot of inOrder(); track lot.lotId) {
          <li>
            <a class="figure" [routerLink]="['/lots', lot.code]">{{ lot.code }}</a>
            <span>{{ lot.name }}{{ lot.vesselTag ? ' in ' + lot.vesselTag : '' }}</span>
            @if (lot.held) {
              <ct-mark kind="hold">held</ct-mark>
            }
            @if (lot.carryOver) {
              <span class="mustard">its vessel was not cleaned before it</span>
            }
            @if (lot.live && lot.onHandGrams) {
              <span class="figure soft">{{ mass(lot.onHandGrams) }}</span>
            }
          </li>
        }
      </ul>
    </details>
  `,
  styles: `
    ul {
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 16px;
      align-items: center;
      min-height: 40px;
      border-bottom: 1px solid var(--hair);
    }
    summary {
      cursor: pointer;
      min-height: 48px;
      padding: 12px 0;
      font-weight: 600;
    }
  `,
})
export class Reached {
  readonly lots = input.required<RecallReply['lots']>();
  protected readonly inOrder = computed(() => [...this.lots()].sort((a, b) => Number(b.live) - Number(a.live)));
  protected readonly mass = (grams: number): string => formatGrams(grams);
}

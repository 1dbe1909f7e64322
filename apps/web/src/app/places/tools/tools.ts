import { afterNextRender, Component, inject, Injector, signal } from '@angular/core';
import { BrineVesselTool, HydrometerTool, StrengthTool, TopUpTool } from './brine-tools';
import { FitTool, JarTool } from './count-tools';
import { JoinsTool } from './joins-tool';
import { HeavyTool, SpoonTool, TemperatureTool } from './kitchen-tools';
import { SaltTool } from './salt-tool';

const TOOLS = [
  ['salt', 'Salt for a weight'],
  ['joins', 'Something joins after the salt'],
  ['vessel', 'Brine for a vessel'],
  ['strength', 'Make, thin, strengthen a brine'],
  ['top-up', 'Top up'],
  ['heavy', 'Heavy salt and rinse'],
  ['spoons', 'Spoons and grams'],
  ['hydrometer', 'Hydrometer'],
  ['temperature', 'Celsius and Fahrenheit'],
  ['fit', 'Vessels for a batch'],
  ['jars', 'Jars and bottles'],
] as const;

/** The arithmetic of the bench without a batch, one tool at a time; each stays as it was left. */
@Component({
  selector: 'ct-tools',
  imports: [
    BrineVesselTool,
    FitTool,
    HeavyTool,
    HydrometerTool,
    JarTool,
    JoinsTool,
    SaltTool,
    SpoonTool,
    StrengthTool,
    TemperatureTool,
    TopUpTool,
  ],
  template: `
    <div class="page with-outline">
      <nav class="outline" aria-label="Tools">
        <ol>
          @for (tool of tools; track tool[0]) {
            <li>
              <button type="button" [attr.aria-current]="here() === tool[0] ? 'true' : null" (click)="go(tool[0])">
                {{ tool[1] }}
              </button>
            </li>
          }
        </ol>
      </nav>
      <div class="main all">
        <h1 class="visually-hidden">Quick tools</h1>
        @for (tool of tools; track tool[0]) {
          <section class="stack" [hidden]="here() !== tool[0]" [attr.aria-labelledby]="'head-' + tool[0]">
            <h2 class="head" tabindex="-1" [id]="'head-' + tool[0]">{{ tool[1] }}</h2>
            @switch (tool[0]) {
              @case ('salt') {
                <ct-salt-tool class="stack" />
              }
              @case ('joins') {
                <ct-joins-tool class="stack" />
              }
              @case ('vessel') {
                <ct-brine-vessel-tool class="stack" />
              }
              @case ('strength') {
                <ct-strength-tool class="stack" />
              }
              @case ('top-up') {
                <ct-top-up-tool class="stack" />
              }
              @case ('heavy') {
                <ct-heavy-tool class="stack" />
              }
              @case ('spoons') {
                <ct-spoon-tool class="stack" />
              }
              @case ('hydrometer') {
                <ct-hydrometer-tool class="stack" />
              }
              @case ('temperature') {
                <ct-temperature-tool class="stack" />
              }
              @case ('fit') {
                <ct-fit-tool class="stack" />
              }
              @case ('jars') {
                <ct-jar-tool class="stack" />
              }
            }
          </section>
        }
      </div>
    </div>
  `,
  styles: `
    @media (min-width: 1001px) {
      .page.with-outline {
        grid-template-columns: 268px minmax(0, 1fr);
      }
    }
    li button {
      width: 100%;
      justify-content: flex-start;
      text-align: left;
      border: 0;
      border-bottom: 1px solid var(--hair);
      background: none;
      padding: 0 10px;
    }
    li button[aria-current] {
      background: var(--ink);
      color: #fff;
    }
    section[hidden] {
      display: none;
    }
    .head {
      color: var(--ink);
      font-size: 22px;
      outline: none;
    }
    :host ::ng-deep .answer {
      font-size: 20px;
    }
    :host ::ng-deep .answer .figure {
      font-size: 22px;
    }
    :host {
      --quantity-width: 190px;
    }
    :host ::ng-deep h3 {
      font-size: 17px;
      color: var(--soft);
    }
  `,
})
export class Tools {
  protected readonly tools = TOOLS;
  protected readonly here = signal<string>('salt');
  private readonly injector = inject(Injector);

  protected go(tool: string): void {
    this.here.set(tool);
    afterNextRender(() => document.getElementById(`head-${tool}`)?.focus(), { injector: this.injector });
  }
}

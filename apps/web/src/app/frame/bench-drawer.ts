import { Component, computed, inject, signal } from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import { Store } from '@ngrx/store';
import { formatGrams } from '@clear-tally/core';
import type { DeviceReply } from '@clear-tally/contract';
import { Api, type WireProblem } from '../api/api';
import { devicesFeature, devicesPage, selectSimulated } from '../state/devices';
import { QuantityInput } from '../ui/quantity-input';
import { codeFromImage } from './code-from-image';
import { TextField } from '../ui/text-field';
import { FileField } from '../ui/file-field';

/** What is on the pan, as far as this drawer has put it there. */
const BOWL_GRAMS = 214;

/** The bench where there is none: a person puts a bowl on the scale, spills, jams the printer, shows the scanner a label. */
@Component({
  selector: 'ct-bench-drawer',
  imports: [QuantityInput, TextField, FileField],
  template: `
    <aside aria-label="Simulated bench">
      <header>
        <h2>Simulated bench</h2>
        <button type="button" class="plain" (click)="store.dispatch(close())">Close</button>
      </header>
      <p class="small soft">Not a scale: a stand-in for one, over the same lines a real one speaks.</p>
      @for (device of devices(); track device.id) {
        <section>
          <h3>
            {{ device.name }} <span class="figure">{{ shows(device) }}</span>
          </h3>
          @switch (device.kind) {
            @case ('scale') {
              <svg viewBox="0 0 260 58" aria-hidden="true">
                <path d="M40 46h180M60 46v8h140v-8" fill="none" stroke="var(--ink)" stroke-width="3" />
                @if (gross(device) > 0) {
                  <path [attr.d]="bowl(device)" fill="var(--brine-wash)" stroke="var(--ink)" stroke-width="2" />
                }
              </svg>
              <div class="row">
                <button type="button" (click)="say(device.id, 'SIM put ' + bowlGrams)">Bowl, {{ bowlGrams }} g</button
                ><button type="button" (click)="say(device.id, 'SIM put 100')">+ 100 g</button
                ><button type="button" (click)="say(device.id, 'SIM put 10')">+ 10 g</button
                ><button type="button" (click)="say(device.id, 'SIM put 1')">+ 1 g</button>
              </div>
              <form class="row" (submit)="$event.preventDefault(); put(device.id)">
                <ct-quantity [label]="'Put on ' + device.name" what="it" [(value)]="grams" /><button
                  [disabled]="!grams()"
                >
                  Put
                </button>
              </form>
              <div class="row">
                <button
                  type="button"
                  (click)="say(device.id, 'SIM take ' + spill(device))"
                  [disabled]="spill(device) < 1"
                >
                  Spill {{ spill(device) }} g</button
                ><button type="button" (click)="say(device.id, 'SIM clear')">All off</button
                ><button type="button" (click)="say(device.id, 'UNIT ' + (unitOf(device) === 'g' ? 'oz' : 'g'))">
                  {{ unitOf(device) === 'g' ? 'To ounces' : 'To grams' }}
                </button>
              </div>
              <div class="row small-buttons">
                <button type="button" class="plain" (click)="say(device.id, 'SIM silent')">
                  {{ device.scale?.state === 'silent' ? 'Let it speak' : 'Fall silent' }}</button><button
                  type="button"
                  class="plain"
                  (click)="say(device.id, 'SIM garble')"
                >
                  Garble a line</button
                ><button type="button" class="plain" (click)="cable(device.id)">
                  {{ pulled().includes(device.id) ? 'Plug it in' : 'Pull the cable' }}
                </button>
              </div>
            }
            @case ('printer') {
              @if (paper(); as picture) {
                <img [src]="picture" alt="The last label that came out" />
              }
              <div class="row">
                <button
                  type="button"
                  (click)="say(device.id, device.printer?.state === 'jammed' ? 'SIM clear' : 'SIM jam')"
                >
                  {{ device.printer?.state === 'jammed' ? 'Clear the jam' : 'Jam it' }}</button><button
                  type="button"
                  (click)="say(device.id, device.printer?.labels === 0 ? 'SIM refill' : 'SIM empty')"
                >
                  {{ device.printer?.labels === 0 ? 'New roll' : 'Empty the roll' }}</button
                ><button type="button" class="plain" (click)="cable(device.id)">
                  {{ pulled().includes(device.id) ? 'Plug it in' : 'Pull the cable' }}
                </button>
              </div>
            }
            @case ('phMeter') {
              <div class="row">
                <button type="button" (click)="say(device.id, 'SIM dip 7.00 20')">Buffer 7.00</button
                ><button type="button" (click)="say(device.id, 'SIM dip 4.01 20')">Buffer 4.01</button
                ><button type="button" (click)="say(device.id, 'SIM lift')">Lift it out</button>
              </div>
              <form class="row" (submit)="$event.preventDefault(); dip(device.id)">
                <ct-text class="dip" label="Sample of pH" [(value)]="sample" [figures]="true" />
                <button [disabled]="!sample().trim()">Dip</button>
              </form>
              <div class="row small-buttons">
                <button type="button" class="plain" (click)="say(device.id, 'SIM silent')">
                  {{ device.ph ? 'Fall silent' : 'Let it speak' }}</button><button
                  type="button"
                  class="plain"
                  (click)="cable(device.id)"
                >
                  {{ pulled().includes(device.id) ? 'Plug it in' : 'Pull the cable' }}
                </button>
              </div>
            }
            @case ('thermometer') {
              <div class="row">
                <button type="button" (click)="say(device.id, 'SIM heat 88')">On the fire, to 88 °C</button
                ><button type="button" (click)="say(device.id, 'SIM heat 100')">To the boil</button
                ><button type="button" (click)="say(device.id, 'SIM cool')">Off the fire</button>
              </div>
              <div class="row small-buttons">
                <button type="button" class="plain" (click)="say(device.id, 'SIM silent')">
                  {{ device.celsius === null ? 'Let it speak' : 'Fall silent' }}</button><button
                  type="button"
                  class="plain"
                  (click)="cable(device.id)"
                >
                  {{ pulled().includes(device.id) ? 'Plug it in' : 'Pull the cable' }}
                </button>
              </div>
            }
            @case ('scanner') {
              <form class="row" (submit)="$event.preventDefault(); scan(device.id)">
                <ct-text label="Code to scan" [(value)]="code" />
                <button [disabled]="!code().trim()">Scan</button>
              </form>
              <ct-file
                label="or the symbol on a picture"
                accept="image/png,image/jpeg,image/svg+xml"
                (chosen)="picture(device.id, $event)"
              />
            }
          }
        </section>
      }
      @if (problem(); as said) {
        <p class="watch" role="alert">{{ said }}</p>
      }
    </aside>
  `,
  styles: `
    aside {
      position: fixed;
      right: 0;
      top: 124px;
      bottom: 58px;
      width: 352px;
      overflow: auto;
      background: var(--sheet);
      border-left: 2px solid var(--ink);
      padding: 12px 16px;
      z-index: 15;
      display: grid;
      gap: 12px;
      align-content: start;
    }
    header {
      display: flex;
      justify-content: space-between;
      align-items: center;
    }
    section {
      border-top: 2px solid var(--ink);
      padding-top: 8px;
      display: grid;
      gap: 8px;
    }
    h3 {
      display: flex;
      justify-content: space-between;
      font-size: 18px;
    }
    .row {
      gap: 8px;
    }
    .row button {
      padding: 0 10px;
      min-height: 44px;
      font-size: 16px;
    }
    svg {
      width: 100%;
      height: 58px;
    }
    img {
      width: 100%;
      border: 1px solid var(--hair);
      background: #fff;
    }
    ct-quantity {
      --quantity-width: 180px;
    }
    .dip {
      width: 150px;
    }
  `,
})
export class BenchDrawer {
  protected readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly sanitizer = inject(DomSanitizer);
  protected readonly devices = this.store.selectSignal(selectSimulated);
  protected readonly close = devicesPage.drawerToggled;
  protected readonly bowlGrams = BOWL_GRAMS;
  protected readonly grams = signal<number | null>(null);
  protected readonly code = signal('');
  protected readonly sample = signal('');
  protected readonly pulled = signal<readonly string[]>([]);
  protected readonly problem = signal<string | null>(null);
  private readonly last = this.store.selectSignal(devicesFeature.selectPaper);
  /** A picture in an <img> runs no script, whatever is in it. */
  protected readonly paper = computed(() =>
    this.last() ? this.sanitizer.bypassSecurityTrustUrl(`data:image/svg+xml;base64,${this.last()!.svg}`) : null,
  );

  protected say(id: string, line: string): void {
    this.problem.set(null);
    this.api.device(id, line).subscribe({ error: (refusal: WireProblem) => this.problem.set(refusal.detail) });
  }

  protected cable(id: string): void {
    const out = this.pulled().includes(id);
    this.pulled.update((ids) => (out ? ids.filter((one) => one !== id) : [...ids, id]));
    this.say(id, out ? 'SIM plug' : 'SIM drop');
  }

  protected put(id: string): void {
    if (this.grams()) this.say(id, `SIM put ${this.grams()}`);
  }

  protected dip(id: string): void {
    this.say(id, `SIM dip ${this.sample().trim().replace(',', '.')}`);
  }

  protected scan(id: string): void {
    this.say(id, `SIM scan ${this.code().trim()}`);
    this.code.set('');
  }

  protected async picture(id: string, file: File): Promise<void> {
    const found = await codeFromImage(file);
    if (found === null) this.problem.set('No code symbol is found on this picture. Hold it flat, with its white edge.');
    else this.say(id, `SIM scan ${found}`);
  }

  protected gross(device: DeviceReply): number {
    return device.scale?.state === 'reading' ? device.scale.reading.grams + device.scale.reading.tareGrams : 0;
  }
  protected spill = (device: DeviceReply): number =>
    Math.round(device.scale?.state === 'reading' ? Math.max(0, device.scale.reading.grams) * 0.05 : 0);
  protected unitOf = (device: DeviceReply): string =>
    device.scale?.state === 'reading' ? device.scale.reading.unit : 'g';
  protected bowl(device: DeviceReply): string {
    const half = 26 + Math.min(40, this.gross(device) / 120);
    return `M${130 - half} 18h${half * 2}l-12 27h-${half * 2 - 24}z`;
  }
  protected shows(device: DeviceReply): string {
    if (device.kind === 'printer')
      return `${device.printer?.labels ?? 0} labels${device.printer?.state === 'jammed' ? ', jammed' : ''}`;
    if (device.kind === 'thermometer') return device.celsius === null ? 'silent' : `${device.celsius.toFixed(1)} °C`;
    if (device.kind === 'phMeter')
      return device.ph ? `pH ${device.ph.ph.toFixed(2)}${device.ph.settled ? '' : ' …'}` : 'silent';
    if (device.scale?.state === 'reading')
      return device.scale.reading.unit === 'g'
        ? formatGrams(device.scale.reading.value)
        : `${device.scale.reading.value} ${device.scale.reading.unit}`;
    return device.scale?.state ?? '';
  }
}

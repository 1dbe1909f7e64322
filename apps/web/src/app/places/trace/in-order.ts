import { Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type {
  CustomersReply,
  MetersReply,
  RunsReply,
  ShelfReply,
  SuppliesReply,
  TalliesReply,
} from '@clear-tally/contract';
import { counted } from '@clear-tally/core';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { Mark } from '../../ui/mark';
import { Waiting } from '../../ui/waiting';
import { RUN_STATES } from '../release/runs';
import { DeskNav } from './desk-nav';

const SHOWN = 8;

/** The house in the order somebody from outside asks: what, where from, where to, which checks, what is missing. */
@Component({
  selector: 'ct-in-order',
  imports: [DeskNav, Mark, RouterLink, Waiting],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-desk-nav />
        <h1>{{ house.house()?.name }}, in order</h1>
        <p class="soft">
          For whoever looks from outside: five questions, each with its list and its file. Any code on this page leads
          to its whole way, back to every ingredient and forward to every jar.
        </p>
        <section class="stack rule" aria-labelledby="what">
          <h2 id="what">1 · What is made here</h2>
          <ul>
            @for (run of runs(); track run.lotId) {
              <li>
                <a class="figure" [routerLink]="['/trace', run.code]">{{ run.code }}</a>
                <span
                  >{{ run.name }}, {{ counted(run.jars, 'jar') }}, packed {{ house.dates().day(run.packedAt) }}</span
                >
                <span>{{ run.hold ? 'on hold' : states[run.state] }}</span>
                <span class="files"
                  ><a [routerLink]="['/runs', run.code, 'dossier']">Dossier</a>
                  <a [href]="'/api/runs/' + run.code + '/dossier.pdf'" target="_blank" rel="noopener">PDF</a></span
                >
              </li>
            } @empty {
              <li class="soft">No jar is packed yet.</li>
            }
          </ul>
          <p class="row">
            <a class="button" routerLink="/runs">All runs</a>
            <a class="button" routerLink="/lots">All lots</a>
            <a class="button" href="/api/records/transformation.xlsx" download>What was made, XLSX</a>
          </p>
        </section>
        <section class="stack rule" aria-labelledby="from">
          <h2 id="from">2 · Where from</h2>
          <ul>
            @for (lot of supplies(); track lot.lotId) {
              <li>
                <a class="figure" [routerLink]="['/trace', lot.code]">{{ lot.code }}</a>
                <span>{{ lot.materialName }} from {{ lot.supplierName }}, their lot {{ lot.supplierLotCode }}</span>
                <span>came {{ house.dates().day(lot.receivedAt) }}</span>
                <span></span>
              </li>
            } @empty {
              <li class="soft">Nothing has come yet.</li>
            }
          </ul>
          <p class="row"><a class="button" href="/api/records/receiving.xlsx" download>What came, XLSX</a></p>
        </section>
        <section class="stack rule" aria-labelledby="to">
          <h2 id="to">3 · Where to</h2>
          <ul>
            @for (one of customers(); track one.customerId) {
              <li>
                <a [routerLink]="['/trace-by', 'customer', one.customerId]">{{ one.name }}</a>
                <span>{{ counted(one.jars, 'jar') }}</span>
                <span>{{ one.lastAt ? 'last ' + house.dates().day(one.lastAt) : '' }}</span>
                <span></span>
              </li>
            } @empty {
              <li class="soft">Nobody has jars yet.</li>
            }
          </ul>
          <p class="row">
            <a class="button" href="/api/records/shipping.xlsx" download>What was sent, XLSX</a>
            <a class="button" routerLink="/recalls">Recalls and drills</a>
          </p>
        </section>
        <section class="stack rule" aria-labelledby="checks">
          <h2 id="checks">4 · Which checks</h2>
          <ul>
            @for (meter of meters(); track meter.meterId) {
              <li>
                <a [routerLink]="['/trace-by', 'meter', meter.meterId]">{{ meter.tag }}</a>
                <span>{{ meter.name }}</span>
                <span>
                  <ct-mark [kind]="meter.fit ? 'met' : 'watch'">{{
                    meter.fit ? 'fit for release' : 'not fit: ' + meter.reasons.join('; ')
                  }}</ct-mark>
                </span>
                <span></span>
              </li>
            }
          </ul>
          <p class="row">
            <a class="button" href="/api/records/readings.xlsx" download>Readings, XLSX</a>
            <a class="button" href="/api/records/cleaning.xlsx" download>Cleaning, XLSX</a>
            <a class="button" routerLink="/house-rules">House rules and limits</a>
          </p>
        </section>
        <section class="stack rule" aria-labelledby="missing">
          <h2 id="missing">5 · What is missing</h2>
          <ul>
            @for (one of missing(); track one.words) {
              <li>
                <a [routerLink]="one.path">{{ one.what }}</a>
                <span class="wide">{{ one.words }}</span>
              </li>
            } @empty {
              <li><ct-mark kind="clear">Nothing stands open.</ct-mark></li>
            }
          </ul>
        </section>
        <ct-waiting [loading]="runsRead.loading()" [problem]="runsRead.problem()" (again)="runsRead.again()" />
      </div>
    </div>
  `,
  styles: `
    li {
      display: grid;
      grid-template-columns: 190px minmax(0, 1fr) 220px 150px;
      gap: 4px 16px;
      align-items: baseline;
      padding: 7px 0;
      border-bottom: 1px solid var(--hair);
    }
    .wide {
      grid-column: 2 / -1;
    }
    .files {
      display: flex;
      gap: 16px;
    }
    h2 {
      color: var(--ink);
    }
    @media (max-width: 900px) {
      li {
        display: flex;
        flex-wrap: wrap;
      }
    }
  `,
})
export class InOrder {
  protected readonly house = injectHouse();
  protected readonly states = RUN_STATES;
  protected readonly counted = counted;
  protected readonly runsRead = shown<RunsReply>(signal('/api/runs'));
  private readonly stock = shown<SuppliesReply>(signal('/api/supplies'));
  private readonly who = shown<CustomersReply>(signal('/api/customers'));
  private readonly fitness = shown<MetersReply>(signal('/api/meters'));
  private readonly tallies = shown<TalliesReply>(signal('/api/tallies'));
  private readonly shelf = shown<ShelfReply>(signal('/api/shelf'));

  protected readonly runs = computed(() =>
    [...(this.runsRead.data()?.runs ?? [])].sort((a, b) => b.packedAt.localeCompare(a.packedAt, 'en')).slice(0, SHOWN),
  );
  protected readonly supplies = computed(() =>
    [...(this.stock.data()?.lots ?? [])].sort((a, b) => b.receivedAt.localeCompare(a.receivedAt, 'en')).slice(0, SHOWN),
  );
  protected readonly customers = computed(() => (this.who.data()?.customers ?? []).filter(({ jars }) => jars > 0));
  protected readonly meters = computed(() => this.fitness.data()?.meters ?? []);

  protected readonly missing = computed(() => [
    ...(this.shelf.data()?.vessels ?? [])
      .filter(({ hold }) => hold !== null)
      .map(({ code, hold }) => ({ what: code, words: `on hold: ${hold}`, path: ['/lots', code] })),
    ...(this.runsRead.data()?.runs ?? [])
      .filter(({ hold }) => hold !== null)
      .map(({ code, hold }) => ({ what: code, words: `on hold: ${hold}`, path: ['/runs', code] })),
    ...(this.runsRead.data()?.runs ?? [])
      .filter(({ state, open, hold }) => state === 'waits' && open > 0 && hold === null)
      .map(({ code, open }) => ({
        what: code,
        words: `waits for release, ${counted(open, 'condition')} open`,
        path: ['/runs', code],
      })),
    ...(this.tallies.data()?.lots ?? []).map(({ code, tally }) => ({
      what: code,
      words: `its tally does not close${tally.likelySlip ? `: ${tally.likelySlip}` : ''}`,
      path: ['/lots', code],
    })),
  ]);
}

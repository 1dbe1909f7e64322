import { Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterLink, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { filter, map } from 'rxjs';
import { House } from '../state/house';
import { sessionFeature, signInPage } from '../state/session';
import { devicesFeature, devicesPage, selectSimulated } from '../state/devices';
import { Lock } from '../state/lock';
import { Timers } from '../state/timers';
import { When } from '../state/when';
import { Unsaved } from '../state/unsaved';
import { Bell } from './bell';
import { BenchDrawer } from './bench-drawer';
import { CodeBox } from './code-box';
import { FocusKeeper } from './focus-keeper';
import { Locked } from './locked';
import { Keys } from './keys';
import { RecordedNote } from './recorded-note';
import { Shelf } from './shelf';

const PLACES = [
  { path: '/floor', name: 'Floor', also: ['/cleaning'] },
  { path: '/make', name: 'Make', also: [] },
  { path: '/pack', name: 'Pack', also: ['/finish', '/heat', '/runs', '/dispatch', '/customers'] },
  { path: '/lots', name: 'Lots', also: ['/correct'] },
  { path: '/trace', name: 'Trace', also: ['/shared-cause', '/complaints', '/recalls', '/tallies', '/records'] },
  { path: '/formulas', name: 'Formulas', also: [] },
  { path: '/tools', name: 'Tools', also: [] },
  { path: '/stores', name: 'Stores', also: ['/materials'] },
  { path: '/guide', name: 'Guide', also: [] },
  {
    path: '/house-rules',
    name: 'Office',
    also: [
      '/house-rules',
      '/vessels',
      '/equipment',
      '/rights',
      '/founding',
      '/meters',
      '/people',
      '/other-devices',
      '/the-book',
      '/the-record',
    ],
  },
] as const;

/** Whether a page belongs to a place: at its address, or below it. */
const belongs = (url: string, path: string): boolean => url === path || url.startsWith(`${path}/`);

/** Shelf on top, the page in the middle, the places as words along the bottom edge where thumbs are. */
@Component({
  selector: 'ct-frame',
  imports: [Bell, BenchDrawer, CodeBox, Keys, Locked, RecordedNote, RouterLink, RouterOutlet, Shelf],
  providers: [FocusKeeper, House, Lock, Timers],
  template: `
    <a class="skip" href="#page" (click)="skip($event)">To the page</a>
    <header>
      <a class="name" routerLink="/floor" aria-label="Clear Tally, start"
        >Clear<br />Tally
        @if (house.house()?.demo) {
          <small class="demo">demo house</small>
        } @else if (house.house() && simulated().length > 0) {
          <small class="demo">simulated bench</small>
        }
      </a>
      <div class="shelf">
        @if (house.shelf(); as shelf) {
          @if (shelf.vessels.length > 0) {
            <ct-shelf [shelf]="shelf" />
          } @else {
            <p class="soft empty">No vessel is filled. The shelf shows every live vessel once one is.</p>
          }
        } @else if (house.shelfProblem(); as problem) {
          <p class="beet empty">{{ problem.detail }}</p>
        }
      </div>
      <div class="desk">
        <ct-code-box />
        @if (simulated().length > 0) {
          <button
            type="button"
            class="plain small"
            [attr.aria-expanded]="drawer()"
            aria-label="Simulated bench"
            (click)="store.dispatch(toggle())"
          >
            Bench <span class="key" aria-hidden="true">b</span>
          </button>
        }
      </div>
      <div class="person">
        <button
          type="button"
          class="initials"
          [attr.aria-expanded]="open()"
          [attr.aria-label]="'Signed in as ' + person()?.name"
          (click)="open.set(!open())"
        >
          {{ person()?.initials }}
        </button>
        @if (open()) {
          <div class="who">
            <p>
              <b>{{ person()?.name }}</b><br /><span class="soft">{{ roleWords() }}</span>
            </p>
            <button type="button" (click)="open.set(false); lock.lock()">Hand it over</button>
            <button type="button" (click)="leave()">Sign out</button>
          </div>
        }
      </div>
    </header>
    @if (past(); as then) {
      <p class="past" role="status">
        <span
          >What is recorded here is of <b class="figure">{{ then }}</b></span
        ><button type="button" (click)="when.choose(null)">Back to now</button>
      </p>
    }
    <div class="notices">
      @if (offline()) {
        <p class="watch" role="status">
          No connection. What you type stays in its field; nothing is recorded until the connection is back.
        </p>
      }
      <ct-bell />
    </div>
    <main id="page" tabindex="-1" [inert]="lock.locked()" [class.beside]="drawer() && simulated().length > 0">
      <router-outlet />
    </main>
    <ct-recorded-note />
    <nav aria-label="Places">
      @for (place of places; track place.path; let i = $index) {
        <a
          [routerLink]="place.path"
          [class.here]="here() === place.path"
          [attr.aria-current]="here() === place.path ? 'page' : null"
          >{{ place.name }}<span class="key" aria-hidden="true">{{ (i + 1) % 10 }}</span></a
        >
      }
    </nav>
    <ct-keys />
    @if (lock.locked() && person()) {
      <ct-locked />
    }
    @if (drawer() && simulated().length > 0) {
      @defer (on immediate) {
        <ct-bench-drawer />
      }
    }
  `,
  host: {
    '(window:online)': 'offline.set(false)',
    '(window:offline)': 'offline.set(true)',
    '(document:keydown)': 'key($event)',
  },
  styleUrl: './frame.less',
})
export class Frame {
  protected readonly house = inject(House);
  private readonly unsaved = inject(Unsaved);
  protected readonly store = inject(Store);
  protected readonly simulated = this.store.selectSignal(selectSimulated);
  protected readonly drawer = this.store.selectSignal(devicesFeature.selectDrawer);
  protected readonly toggle = devicesPage.drawerToggled;
  private readonly router = inject(Router);
  protected readonly when = inject(When);
  /** A past moment that somebody chose, in words: on every page, so that nobody forgets it. */
  protected readonly past = computed(() => {
    const at = this.when.at();
    return at === null ? null : this.house.dates().moment(new Date(at).toISOString());
  });
  protected readonly places = PLACES;
  private readonly url = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map(() => this.router.url),
    ),
    { initialValue: this.router.url },
  );
  /** The place this page belongs to. */
  protected readonly here = computed(() => {
    const url = this.url().replace(/[?#].*$/, '');
    return PLACES.find(({ path, also }) => [path, ...also].some((one) => belongs(url, one)))?.path ?? null;
  });
  protected readonly person = this.store.selectSignal(sessionFeature.selectPerson);
  protected readonly lock = inject(Lock);
  protected readonly open = signal(false);
  protected readonly offline = signal(!navigator.onLine);
  protected readonly roleWords = computed(
    () =>
      ({ owner: 'Owner and reviewer', maker: 'Maker', inspector: 'Inspector: reads everything, records nothing' })[
        this.person()?.role ?? 'maker'
      ],
  );

  constructor() {
    inject(FocusKeeper);
  }

  protected leave(): void {
    this.store.dispatch(signInPage.signOutAsked());
  }

  protected skip(event: Event): void {
    event.preventDefault();
    document.getElementById('page')?.focus();
  }

  protected key(event: KeyboardEvent): void {
    if (this.lock.locked()) return;
    if (event.key === 'Escape') this.open.set(false);
    if (!busyIn(event) && event.key === 'b' && !event.ctrlKey && !event.metaKey && this.simulated().length > 0)
      this.later(() => this.store.dispatch(devicesPage.drawerToggled()));
    const place = /^[0-9]$/.test(event.key) ? PLACES[(Number(event.key) + 9) % 10] : undefined;
    // Alone only: a figure that begins a scanner's burst is followed at once.
    if (busyIn(event) || this.unsaved.any() || !place || event.ctrlKey || event.metaKey || event.altKey || event.repeat)
      return;
    this.later(() => void this.router.navigateByUrl(place.path));
  }

  private later(act: () => void): void {
    clearTimeout(this.waiting);
    this.waiting = window.setTimeout(act, 120);
    const other = (): void => clearTimeout(this.waiting);
    document.addEventListener('keydown', other, { once: true, capture: true });
    document.addEventListener('pointerdown', other, { once: true, capture: true });
  }

  private waiting = 0;
}

const busyIn = (event: KeyboardEvent): boolean =>
  event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);

import { Component } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';

/** From the packing table to the customer. */
@Component({
  selector: 'ct-pack-nav',
  imports: [RouterLink, RouterLinkActive],
  template: `<nav aria-label="Packing and after">
    <a routerLink="/finish" routerLinkActive="here" ariaCurrentWhenActive="page">Finish</a
    ><a routerLink="/pack" routerLinkActive="here" ariaCurrentWhenActive="page">Pack</a
    ><a routerLink="/heat" routerLinkActive="here" ariaCurrentWhenActive="page">Heat</a
    ><a routerLink="/runs" routerLinkActive="here" ariaCurrentWhenActive="page">Runs, release</a
    ><a routerLink="/dispatch" routerLinkActive="here" ariaCurrentWhenActive="page">Dispatch</a
    ><a routerLink="/customers" routerLinkActive="here" ariaCurrentWhenActive="page">Customers</a>
  </nav>`,
  styles:
    'nav { display: flex; flex-wrap: wrap; gap: 6px 26px; } a { padding: 8px 0; font-weight: 700; font-size: 18px; color: var(--soft); text-decoration: none; border-bottom: 3px solid transparent; } a.here { color: var(--ink); border-color: var(--ink); }',
})
export class PackNav {}

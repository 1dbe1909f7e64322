import { Component } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';

/** The rooms of the stores. */
@Component({
  selector: 'ct-stores-nav',
  imports: [RouterLink, RouterLinkActive],
  template: `<nav aria-label="Stores">
    <a
      routerLink="/stores"
      routerLinkActive="here"
      [routerLinkActiveOptions]="{ exact: true }"
      ariaCurrentWhenActive="page"
      >Stock</a
    ><a routerLink="/stores/delivery" routerLinkActive="here" ariaCurrentWhenActive="page">A delivery</a
    ><a routerLink="/materials" routerLinkActive="here" ariaCurrentWhenActive="page">Materials</a>
  </nav>`,
  styles:
    'nav { display: flex; gap: 26px; } a { padding: 8px 0; font-weight: 700; font-size: 18px; color: var(--soft); text-decoration: none; border-bottom: 3px solid transparent; } a.here { color: var(--ink); border-color: var(--ink); }',
})
export class StoresNav {}

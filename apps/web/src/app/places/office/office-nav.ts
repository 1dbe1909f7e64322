import { Component } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { injectRights } from '../../state/person';

/** The pages of the office. */
@Component({
  selector: 'ct-office-nav',
  imports: [RouterLink, RouterLinkActive],
  template: `<nav aria-label="Office">
    <a routerLink="/house-rules" routerLinkActive="here">House rules</a
    ><a routerLink="/meters" routerLinkActive="here">Meters</a
    ><a routerLink="/people" routerLinkActive="here">Who comes in</a
    ><a routerLink="/the-book" routerLinkActive="here">Everything recorded</a>
    @if (rights.isOwner()) {
      <a routerLink="/the-record" routerLinkActive="here">The record</a>
    }
  </nav>`,
  styles:
    'nav { display: flex; gap: 20px; } a { padding: 10px 2px; font-weight: 600; } a.here { color: var(--ink); text-decoration: none; border-bottom: 3px solid var(--ink); }',
})
export class OfficeNav {
  protected readonly rights = injectRights();
}

import { Component } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';

/** The pages of the guide. */
@Component({
  selector: 'ct-guide-nav',
  imports: [RouterLink, RouterLinkActive],
  template: `<nav aria-label="Guide">
    <a routerLink="/guide" routerLinkActive="here" [routerLinkActiveOptions]="{ exact: true }">Judging</a
    ><a routerLink="/guide/above-the-limit" routerLinkActive="here">Above the limit</a
    ><a routerLink="/guide/cautions" routerLinkActive="here">Cautions</a
    ><a routerLink="/guide/reminders" routerLinkActive="here">Reminders</a>
  </nav>`,
  styles:
    'nav { display: flex; flex-wrap: wrap; gap: 4px 20px; } a { padding: 10px 2px; font-weight: 600; } a.here { color: var(--ink); text-decoration: none; border-bottom: 3px solid var(--ink); }',
})
export class GuideNav {}

import { Component, input } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';

export interface PlaceLink {
  readonly path: string;
  readonly words: string;
  /** Here only at this very address, not at those below it. */
  readonly exact?: boolean;
}

/** The pages of a place, one beside the other. */
@Component({
  selector: 'ct-place-nav',
  imports: [RouterLink, RouterLinkActive],
  template: `<nav [attr.aria-label]="label()">
    @for (link of links(); track link.path) {
      <a
        [routerLink]="link.path"
        routerLinkActive="here"
        [routerLinkActiveOptions]="{ exact: link.exact ?? false }"
        ariaCurrentWhenActive="page"
        >{{ link.words }}</a
      >
    }
  </nav>`,
  styles: `
    nav {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 26px;
    }
    a {
      padding: 8px 0;
      font-weight: 700;
      font-size: 18px;
      color: var(--soft);
      text-decoration: none;
      border-bottom: 3px solid transparent;
    }
    a.here {
      color: var(--ink);
      border-color: var(--ink);
    }
  `,
})
export class PlaceNav {
  readonly label = input.required<string>();
  readonly links = input.required<readonly PlaceLink[]>();
}

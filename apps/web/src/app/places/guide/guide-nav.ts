import { Component } from '@angular/core';
import { type PlaceLink, PlaceNav } from '../../ui/place-nav';

const LINKS: readonly PlaceLink[] = [
  { path: '/guide', words: 'Judging', exact: true },
  { path: '/guide/above-the-limit', words: 'Above the limit' },
  { path: '/guide/cautions', words: 'Cautions' },
  { path: '/guide/reminders', words: 'Reminders' },
];

/** The pages of the guide. */
@Component({
  selector: 'ct-guide-nav',
  imports: [PlaceNav],
  template: '<ct-place-nav label="Guide" [links]="links" />',
})
export class GuideNav {
  protected readonly links = LINKS;
}

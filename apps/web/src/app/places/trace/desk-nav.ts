import { Component } from '@angular/core';
import { type PlaceLink, PlaceNav } from '../../ui/place-nav';

const LINKS: readonly PlaceLink[] = [
  { path: '/trace', words: 'Trace' },
  { path: '/trace-by', words: 'By customer, day …' },
  { path: '/shared-cause', words: 'Shared cause' },
  { path: '/complaints', words: 'Complaints' },
  { path: '/recalls', words: 'Recall' },
  { path: '/tallies', words: 'Tallies' },
  { path: '/records', words: 'Records' },
  { path: '/in-order', words: 'In order' },
];

/** The trace desk. */
@Component({
  selector: 'ct-desk-nav',
  imports: [PlaceNav],
  template: '<ct-place-nav label="Trace desk" [links]="links" />',
})
export class DeskNav {
  protected readonly links = LINKS;
}

import { Component } from '@angular/core';
import { type PlaceLink, PlaceNav } from '../../ui/place-nav';

const LINKS: readonly PlaceLink[] = [
  { path: '/stores', words: 'Stock', exact: true },
  { path: '/stores/delivery', words: 'A delivery' },
  { path: '/materials', words: 'Materials' },
];

/** The rooms of the stores. */
@Component({
  selector: 'ct-stores-nav',
  imports: [PlaceNav],
  template: '<ct-place-nav label="Stores" [links]="links" />',
})
export class StoresNav {
  protected readonly links = LINKS;
}

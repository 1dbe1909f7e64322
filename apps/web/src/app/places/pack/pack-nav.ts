import { Component } from '@angular/core';
import { type PlaceLink, PlaceNav } from '../../ui/place-nav';

const LINKS: readonly PlaceLink[] = [
  { path: '/finish', words: 'Finish' },
  { path: '/pack', words: 'Pack' },
  { path: '/heat', words: 'Heat' },
  { path: '/runs', words: 'Runs, release' },
  { path: '/dispatch', words: 'Dispatch' },
  { path: '/customers', words: 'Customers' },
];

/** From the packing table to the customer. */
@Component({
  selector: 'ct-pack-nav',
  imports: [PlaceNav],
  template: '<ct-place-nav label="Packing and after" [links]="links" />',
})
export class PackNav {
  protected readonly links = LINKS;
}

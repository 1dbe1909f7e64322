import { Component, computed } from '@angular/core';
import { injectRights } from '../../state/person';
import { type PlaceLink, PlaceNav } from '../../ui/place-nav';

const LINKS: readonly PlaceLink[] = [
  { path: '/house-rules', words: 'House rules' },
  { path: '/vessels', words: 'Rooms, vessels' },
  { path: '/equipment', words: 'Equipment' },
  { path: '/meters', words: 'Meters' },
  { path: '/people', words: 'Who comes in' },
  { path: '/other-devices', words: 'Other devices' },
  { path: '/the-book', words: 'Everything recorded' },
];
const OF_OWNERS: readonly PlaceLink[] = [
  ...LINKS,
  { path: '/founding', words: 'Setting up' },
  { path: '/the-record', words: 'The record' },
];

/** The pages of the office. */
@Component({
  selector: 'ct-office-nav',
  imports: [PlaceNav],
  template: '<ct-place-nav label="Office" [links]="links()" />',
})
export class OfficeNav {
  private readonly rights = injectRights();
  protected readonly links = computed(() => (this.rights.isOwner() ? OF_OWNERS : LINKS));
}

import { signal } from '@angular/core';
import { untilChosen } from './until-chosen';

describe('what is proposed until somebody chooses', () => {
  it('a proposal that comes late does not take the place of a choice', () => {
    const last = signal<string | null>(null);
    const sample = untilChosen(() => last() ?? 'blended');
    expect(sample()).toBe('blended');
    last.set('brine');
    expect(sample()).toBe('brine');
    sample.set('blended');
    last.set('other');
    expect(sample()).toBe('blended');
    sample.update((now) => `${now}!`);
    last.set('brine');
    expect(sample()).toBe('blended!');
  });
  it('about something else it is proposed anew', () => {
    const lot = signal('a');
    const held = signal('soft');
    const reason = untilChosen(held, lot);
    reason.set('glass');
    held.set('mold');
    expect(reason()).toBe('glass');
    lot.set('b');
    expect(reason()).toBe('mold');
  });
});

import { Component, provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { within } from '../state/testing';
import { DayField } from './day-field';

@Component({
  selector: 'ct-host',
  imports: [DayField],
  template: '<ct-day label="Filled on" latest="2026-11-25" [(value)]="day" />',
})
class Host {
  readonly day = signal('');
}

describe('a field for a day', () => {
  const open = async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(Host);
    await fixture.whenStable();
    return { ...within(fixture), host: fixture.componentInstance };
  };
  it('says at once what a year is, and keeps what was typed', async () => {
    const page = await open();
    await page.type('Filled on', '0026-11-25');
    expect(page.text()).toContain('its year in four figures');
    expect(page.field('Filled on').getAttribute('aria-invalid')).toBe('true');
    expect(page.host.day()).toBe('0026-11-25');
    await page.type('Filled on', '2026-11-24');
    expect(page.text()).not.toContain('four figures');
    expect(page.field('Filled on').getAttribute('aria-invalid')).toBeNull();
  });
  it('nothing later than it may be, nothing earlier than any record', async () => {
    const page = await open();
    await page.type('Filled on', '2026-11-26');
    expect(page.text()).toContain('still to come');
    expect([page.field('Filled on').min, page.field('Filled on').max]).toEqual(['1950-01-01', '2026-11-25']);
  });
});

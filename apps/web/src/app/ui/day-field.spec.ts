import { Component, provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { within } from '../state/testing';
import { DayField } from './day-field';
import { provideWords } from './locale';

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
    TestBed.configureTestingModule({ providers: [provideWords(), provideZonelessChangeDetection()] });
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
  it('takes a day as people write it, says what it understood, and asks where it could be two', async () => {
    const page = await open();
    await page.type('Filled on', '24.11.2026');
    expect(page.host.day()).toBe('2026-11-24');
    expect(page.text()).toContain('= 24 Nov 2026');
    await page.type('Filled on', '3/4/2026');
    expect(page.text()).toContain('can be 3 Apr or 4 Mar');
    expect(page.field('Filled on').value).toBe('3/4/2026');
    expect(page.host.day()).toBe('3/4/2026');
  });
  it('shows a day from outside as the house writes it, and the calendar puts one in', async () => {
    const page = await open();
    page.host.day.set('2026-11-03');
    await page.settle();
    expect(page.field('Filled on').value).toBe('3 Nov 2026');
    page.button('').click();
    await page.settle();
    const cell = [...document.querySelectorAll<HTMLElement>('.ct-day-calendar .ant-picker-cell-in-view')].find(
      (one) => one.textContent!.trim() === '12',
    )!;
    cell.click();
    await page.settle();
    expect(page.host.day()).toBe('2026-11-12');
    expect(page.field('Filled on').value).toBe('12 Nov 2026');
    expect(document.querySelector('.ct-day-calendar')).toBeNull();
  });
  it('nothing later than it may be, nothing earlier than any record', async () => {
    const page = await open();
    await page.type('Filled on', '2026-11-26');
    expect(page.text()).toContain('still to come');
    await page.type('Filled on', '1.1.1949');
    expect(page.text()).toContain('a day from 1950-01-01 on');
  });
});

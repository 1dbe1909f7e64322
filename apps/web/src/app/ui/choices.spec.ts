import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Choices } from './choices';

@Component({
  imports: [Choices],
  template: `<ct-choices
    label="Sample"
    [options]="ways"
    [loose]="loose()"
    [disabled]="disabled()"
    [value]="value()"
    (letGo)="value.set(null)"
    (picked)="take($event)"
  />`,
})
class Page {
  readonly ways = [
    ['blended', 'Blended'],
    ['brine', 'Brine only'],
    { key: 'jars', words: 'Jars', figure: 12 },
  ] as const;
  readonly loose = signal(false);
  readonly disabled = signal(false);
  readonly value = signal<'blended' | 'brine' | 'jars' | null>('blended');
  readonly said: unknown[] = [];

  take(way: 'blended' | 'brine' | 'jars'): void {
    this.said.push(way);
    this.value.set(way);
  }
}

describe('a few ways side by side', () => {
  const open = async () => {
    const fixture = TestBed.createComponent(Page);
    await fixture.whenStable();
    const radios = [...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLInputElement>('input[type=radio]')];
    return { fixture, page: fixture.componentInstance, radios, group: fixture.nativeElement.querySelector('[role]') };
  };

  it('are radios of one group with a name, so that arrows go from one to the next', async () => {
    const { radios, group } = await open();
    expect(group.getAttribute('role')).toBe('radiogroup');
    expect(group.getAttribute('aria-label')).toBe('Sample');
    expect(new Set(radios.map(({ name }) => name)).size).toBe(1);
    expect(radios.map(({ checked }) => checked)).toEqual([true, false, false]);
    expect(radios[2]!.closest('label')!.textContent!.replace(/\s+/g, ' ').trim()).toBe('Jars 12');
  });

  it('say what was picked, and nothing when the chosen one is touched again', async () => {
    const { fixture, page, radios } = await open();
    radios[1]!.click();
    await fixture.whenStable();
    radios[1]!.click();
    await fixture.whenStable();
    expect(page.said).toEqual(['brine']);
    expect(radios.map(({ checked }) => checked)).toEqual([false, true, false]);
  });

  it('let go of the chosen one where nothing may be chosen', async () => {
    const { fixture, page, radios } = await open();
    page.loose.set(true);
    await fixture.whenStable();
    radios[0]!.click();
    await fixture.whenStable();
    expect(page.value()).toBeNull();
    expect(radios.some(({ checked }) => checked)).toBeFalse();
    radios[0]!.click();
    await fixture.whenStable();
    expect(page.value()).toBe('blended');
  });

  it('take nothing while they are disabled', async () => {
    const { fixture, page, radios } = await open();
    page.disabled.set(true);
    await fixture.whenStable();
    radios[1]!.click();
    await fixture.whenStable();
    expect(page.said).toEqual([]);
  });

  it('are as tall as a wet thumb', async () => {
    document.documentElement.style.setProperty('--touch', '48px');
    const { fixture } = await open();
    for (const way of (fixture.nativeElement as HTMLElement).querySelectorAll('label'))
      expect(way.getBoundingClientRect().height).toBeGreaterThanOrEqual(48);
  });
});

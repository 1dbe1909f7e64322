import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { FakeApi, inHouse } from '../state/testing';
import { Choice } from './choice';
import { Select } from './select';

@Component({
  imports: [Choice],
  template: `<ct-choice label="From lot" [options]="options" [(value)]="value" />`,
})
class Page {
  readonly options = [
    { id: 'a', label: 'CG-0001', detail: 'Kohlrabi' },
    { id: 'b', label: 'CG-0002', detail: 'Celeriac' },
    { id: 'c', label: 'CG-0003', detail: 'spent', disabled: true },
  ];
  readonly value = signal<string | null>('a');
}

@Component({
  imports: [Select],
  template: `<ct-select label="Check" [options]="options" [value]="value()" (valueChange)="value.set($event)" />`,
})
class Long {
  readonly options = Array.from({ length: 14 }, (_, i) => [`k${i}`, `check ${i}`] as const);
  readonly value = signal('k0');
}

describe('a list, for those who listen', () => {
  const open = async () => {
    inHouse(new FakeApi());
    const fixture = TestBed.createComponent(Page);
    await fixture.whenStable();
    const field = (fixture.nativeElement as HTMLElement).querySelector('input')!;
    const settle = async (): Promise<void> => {
      await fixture.whenStable();
      await new Promise((resolve) => setTimeout(resolve, 60));
      await fixture.whenStable();
    };
    const press = async (key: string, keyCode: number): Promise<void> => {
      field.dispatchEvent(new KeyboardEvent('keydown', { key, keyCode, bubbles: true } as KeyboardEventInit));
      await settle();
    };
    const lines = (): HTMLElement[] => [...document.querySelectorAll<HTMLElement>('[role=listbox] [role=option]')];
    return { fixture, field, settle, press, lines, page: fixture.componentInstance };
  };

  it('the field is a combobox, says what is chosen, and that it is shut', async () => {
    const { field, fixture, page } = await open();
    const label = (fixture.nativeElement as HTMLElement).querySelector<HTMLLabelElement>('label')!;
    expect(label.htmlFor).toBe(field.id);
    expect([field.getAttribute('role'), field.getAttribute('aria-expanded')]).toEqual(['combobox', 'false']);
    expect(field.getAttribute('aria-description')).toBe('CG-0001');
    page.value.set('b');
    await fixture.whenStable();
    expect(field.getAttribute('aria-description')).toBe('CG-0002');
  });
  it('open, its lines are options of a list by its name; chosen and barred ones say so, and where the arrows stand', async () => {
    const { field, press, lines, settle, fixture } = await open();
    (fixture.nativeElement as HTMLElement).querySelector<HTMLElement>('.ant-select-selector')!.click();
    await settle();
    expect(field.getAttribute('aria-expanded')).toBe('true');
    const list = document.getElementById(field.getAttribute('aria-controls')!)!;
    expect([list.getAttribute('role'), list.getAttribute('aria-label')]).toEqual(['listbox', 'From lot']);
    expect(lines().map((one) => one.textContent!.replace(/\s+/g, ' ').trim())).toEqual([
      'CG-0001 Kohlrabi',
      'CG-0002 Celeriac',
      'CG-0003 spent',
    ]);
    expect(lines().map((one) => one.getAttribute('aria-selected'))).toEqual(['true', 'false', 'false']);
    expect(lines()[2]!.getAttribute('aria-disabled')).toBe('true');
    await press('ArrowDown', 40);
    expect(field.getAttribute('aria-activedescendant')).toBe(lines()[1]!.id);
    await press('Enter', 13);
    expect([field.getAttribute('aria-expanded'), field.getAttribute('aria-description')]).toEqual(['false', 'CG-0002']);
    expect(field.hasAttribute('aria-activedescendant')).toBeFalse();
  });
  it('one longer than its window goes by the arrows to its end, each line told by its own id', async () => {
    inHouse(new FakeApi());
    const fixture = TestBed.createComponent(Long);
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const field = host.querySelector('input')!;
    const settle = async (): Promise<void> => {
      await fixture.whenStable();
      await new Promise((resolve) => setTimeout(resolve, 40));
    };
    const press = async (key: string, keyCode: number): Promise<void> => {
      field.dispatchEvent(new KeyboardEvent('keydown', { key, keyCode, bubbles: true } as KeyboardEventInit));
      await settle();
    };
    host.querySelector<HTMLElement>('.ant-select-selector')!.click();
    await settle();
    const told: string[] = [];
    for (let turn = 0; turn < 13; turn += 1) {
      await press('ArrowDown', 40);
      told.push(document.getElementById(field.getAttribute('aria-activedescendant')!)!.textContent!.trim());
    }
    expect(told).toEqual(Array.from({ length: 13 }, (_, i) => `check ${i + 1}`));
    await press('Enter', 13);
    expect(fixture.componentInstance.value()).toBe('k13');
  });
});

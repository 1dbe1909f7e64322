import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { within } from '../state/testing';
import { FigureInput, type FigureKind } from './figure-input';

@Component({
  selector: 'ct-holder',
  imports: [FigureInput],
  template:
    '<ct-figure label="Figure" [kind]="kind()" [unit]="unit()" [least]="least()" [most]="most()" [(value)]="value" />',
})
class Holder {
  readonly kind = signal<FigureKind>('number');
  readonly unit = signal<string | undefined>(undefined);
  readonly least = signal(-Infinity);
  readonly most = signal(Infinity);
  readonly value = signal<number | null>(null);
}

describe('a figure', () => {
  const open = async (kind: FigureKind, bounds: { least?: number; most?: number } = {}) => {
    const fixture = TestBed.createComponent(Holder);
    const holder = fixture.componentInstance;
    holder.kind.set(kind);
    holder.least.set(bounds.least ?? -Infinity);
    holder.most.set(bounds.most ?? Infinity);
    await fixture.whenStable();
    return { ...within(fixture), holder, fixture };
  };
  it('a share is held as a fraction, with or without its sign', async () => {
    const page = await open('percent');
    for (const text of ['2.6', '2,6', '2.6 %', '2.6 per cent']) {
      await page.type('Figure', text);
      expect(page.holder.value()).withContext(text).toBeCloseTo(0.026, 12);
      expect(page.field('Figure').value).toBe(text);
    }
  });
  it('litres ask whose quart is meant, and never take a litre for it', async () => {
    const page = await open('litres');
    await page.type('Figure', '3 quarts');
    expect(page.holder.value()).toBeNull();
    expect(page.text()).toContain('A quart is 946.4 to 1136.5 mL');
    await page.press('imperial');
    expect(page.holder.value()).toBeCloseTo(3 * 1136.5225, 2);
    expect(page.button('imperial')).toBeUndefined();
    await page.type('Figure', '15');
    expect(page.holder.value()).toBe(15_000);
  });
  it('a volume in another unit than its field’s is taken all the same, and held in the field’s', async () => {
    const page = await open('number');
    page.holder.unit.set('L');
    await page.fixture.whenStable();
    for (const [text, litres] of [
      ['15', 15],
      ['15 L', 15],
      ['1500 ml', 1.5],
    ] as const) {
      await page.type('Figure', text);
      expect(page.holder.value()).withContext(text).toBeCloseTo(litres, 9);
    }
    await page.type('Figure', '5 gal');
    expect(page.holder.value()).toBeNull();
    await page.press('US');
    expect(page.holder.value()).toBeCloseTo(18.927, 3);
    page.holder.unit.set('mL');
    await page.fixture.whenStable();
    await page.type('Figure', '0.5 L');
    expect(page.holder.value()).toBeCloseTo(500, 9);
  });
  it('Fahrenheit is understood', async () => {
    const page = await open('celsius');
    await page.type('Figure', '86 F');
    expect(page.holder.value()).toBeCloseTo(30, 9);
  });
  it('beyond its bounds it says what was given and what is accepted, and keeps what was typed', async () => {
    const page = await open('percent', { least: 0.01, most: 1 });
    await page.type('Figure', '120');
    expect(page.text()).toContain('120 was given; 1 to 100 is accepted.');
    expect(page.field('Figure').value).toBe('120');
    expect(page.holder.value()).toBeNull();
    page.holder.most.set(Infinity);
    await page.type('Figure', '0');
    expect(page.text()).toContain('1 or more is accepted');
  });
  it('a value from outside shows as its figure; nothing is nothing', async () => {
    const page = await open('litres');
    page.holder.value.set(30_000);
    await page.fixture.whenStable();
    expect(page.field('Figure').value).toBe('30');
    await page.type('Figure', '');
    expect(page.holder.value()).toBeNull();
    expect(page.text()).not.toContain('given');
  });
});

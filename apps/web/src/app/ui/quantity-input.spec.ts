import { Component, provideZonelessChangeDetection, signal, viewChild } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { QuantityInput } from './quantity-input';

@Component({
  selector: 'ct-host',
  imports: [QuantityInput],
  template:
    '<ct-quantity label="Salt" what="salt" [unit]="unit()" [zero]="zero()" [refusal]="refusal()" [planned]="planned()" [gramsPerMl]="density()" [(value)]="grams" />',
})
class Host {
  readonly unit = signal<'g' | 'kg'>('g');
  readonly zero = signal(false);
  readonly refusal = signal<string | null>(null);
  readonly grams = signal<number | null>(null);
  readonly planned = signal<number | null>(null);
  readonly density = signal<number | undefined>(undefined);
  readonly field = viewChild.required(QuantityInput);
}

describe('a mass as people type it', () => {
  let fixture: ComponentFixture<Host>;
  const input = (): HTMLInputElement => (fixture.nativeElement as HTMLElement).querySelector('input')!;
  const said = (): string => (fixture.nativeElement as HTMLElement).querySelector('.say')!.textContent!.trim();
  const type = async (text: string): Promise<void> => {
    input().value = text;
    input().dispatchEvent(new Event('input'));
    await fixture.whenStable();
  };
  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    fixture = TestBed.createComponent(Host);
    await fixture.whenStable();
  });

  it('“1,5 kg” is 1,500 g, and it says so', async () => {
    await type('1,5 kg');
    expect(fixture.componentInstance.grams()).toBe(1500);
    expect(said()).toBe('= 1,500 g');
  });
  it('refuses millilitres of salt, keeps what was typed, and gives no mass', async () => {
    await type('60 ml');
    expect(fixture.componentInstance.grams()).toBeNull();
    expect(said()).toContain('is a volume');
    expect(input().value).toBe('60 ml');
    expect(input().getAttribute('aria-invalid')).toBe('true');
  });
  it('a figure a thousand times off its plan is asked about before it is used, and taken as it was meant', async () => {
    const press = async (words: string): Promise<void> => {
      const buttons = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')];
      buttons.find((one) => one.textContent!.trim() === words)!.click();
      await fixture.whenStable();
    };
    fixture.componentInstance.unit.set('kg');
    fixture.componentInstance.planned.set(5714);
    await fixture.whenStable();
    await type('1714');
    expect(fixture.componentInstance.grams()).toBeNull();
    expect(said()).toBe('1,714 kg, where 5,714 g is planned: was 1,714 g meant?');
    await press('1,714 g');
    expect([fixture.componentInstance.grams(), input().value]).toEqual([1714, '1.714']);
    expect((fixture.nativeElement as HTMLElement).querySelector('button')).toBeNull();
    await type('1700');
    await press('It is 1,700 kg');
    expect([fixture.componentInstance.grams(), input().value]).toEqual([1_700_000, '1700']);
    // Beyond what is accepted at all it is refused, with the same way out.
    await type('5714');
    expect(said()).toContain('Up to 2000 kg is accepted');
    await press('5,714 g');
    expect(fixture.componentInstance.grams()).toBe(5714);
    await type('1701');
    expect(fixture.componentInstance.grams()).withContext('another figure is asked about anew').toBeNull();
  });
  it('a liquid by the quart asks whose quart it is, right there', async () => {
    fixture.componentInstance.density.set(1);
    await fixture.whenStable();
    await type('2 qt');
    expect(fixture.componentInstance.grams()).toBeNull();
    expect(said()).toContain('differs from country to country');
    [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')]
      .find((one) => one.textContent!.trim() === 'US')!
      .click();
    await fixture.whenStable();
    expect(fixture.componentInstance.grams()).toBeCloseTo(1892.7, 1);
    expect((fixture.nativeElement as HTMLElement).querySelector('ct-whose-measure')).toBeNull();
  });
  it('a bare figure is in the unit shown', async () => {
    fixture.componentInstance.unit.set('kg');
    await fixture.whenStable();
    await type('7.2');
    expect(fixture.componentInstance.grams()).toBe(7200);
  });
  it('takes nought only where nought is an answer', async () => {
    await type('0');
    expect(said()).toContain('more than zero');
    fixture.componentInstance.zero.set(true);
    await fixture.whenStable();
    await type('0 g');
    expect(fixture.componentInstance.grams()).toBe(0);
  });
  it('shows the server’s refusal at the field', async () => {
    fixture.componentInstance.refusal.set('12 g was to be taken from SP-0001, which held 4 g');
    await fixture.whenStable();
    expect(said()).toContain('SP-0001');
  });
  it('is empty after its figure is recorded', async () => {
    await type('850');
    fixture.componentInstance.field().clear();
    await fixture.whenStable();
    expect(input().value).toBe('');
    expect(fixture.componentInstance.grams()).toBeNull();
  });
});

import { Component, provideZonelessChangeDetection, signal, viewChild } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { QuantityInput } from './quantity-input';

@Component({
  selector: 'ct-host',
  imports: [QuantityInput],
  template:
    '<ct-quantity label="Salt" what="salt" [unit]="unit()" [zero]="zero()" [refusal]="refusal()" [(value)]="grams" />',
})
class Host {
  readonly unit = signal<'g' | 'kg'>('g');
  readonly zero = signal(false);
  readonly refusal = signal<string | null>(null);
  readonly grams = signal<number | null>(null);
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

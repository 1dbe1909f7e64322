import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { tally } from '@clear-tally/core';
import { TallyView } from './tally-view';

async function render(countedGrams: number): Promise<HTMLElement> {
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  const fixture = TestBed.createComponent(TallyView);
  fixture.componentRef.setInput(
    'tally',
    tally({ stage: 'upToFilling', inGrams: 42_600, outGrams: 0, lossGrams: 1120, countedGrams, byDifference: 'gas' }),
  );
  await fixture.whenStable();
  return fixture.nativeElement as HTMLElement;
}

describe('the tally, shown', () => {
  it('W13: clear, ruled off, with the gas by difference named', async () => {
    const element = await render(41_190);
    expect(element.textContent).toContain('Clear');
    expect(element.textContent).toContain('gas, by difference');
    expect(element.querySelector('.ruled')!.textContent).toContain('0 g');
  });
  it('W13: not clear, with the unexplained grams and the likely slip', async () => {
    const element = await render(40_600);
    expect(element.textContent).toContain('Not clear');
    expect(element.textContent).toContain('454 g');
    expect(element.textContent).toContain('a loss not recorded');
  });
});

import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { VesselDrawing, type DrawnVessel } from './vessel-drawing';

async function level(vessel: Partial<DrawnVessel>): Promise<{ y: number; height: number; hatched: boolean }> {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  const fixture = TestBed.createComponent(VesselDrawing);
  fixture.componentRef.setInput('vessel', {
    shape: 'drum',
    closure: 'airlock',
    brimMl: 15_000,
    fill: 0.8,
    hold: false,
    formulaNumber: 2,
    ...vessel,
  });
  await fixture.whenStable();
  const element = fixture.nativeElement as HTMLElement;
  const rects = element.querySelectorAll('g rect');
  return {
    y: Number(rects[1]!.getAttribute('y')),
    height: Number(element.querySelector('svg')!.getAttribute('height')),
    hatched: rects.length === 4,
  };
}

describe('a vessel in profile', () => {
  it('stands higher the fuller it is, and never above its brim', async () => {
    const [half, full, over] = [await level({ fill: 0.5 }), await level({ fill: 0.95 }), await level({ fill: 1.4 })];
    expect(full.y).toBeLessThan(half.y);
    expect(over.y).toBe(10);
  });
  it('is drawn to one scale: 60 L is larger than 5 L', async () =>
    expect((await level({ brimMl: 60_000 })).height).toBeGreaterThan((await level({ brimMl: 5000 })).height));
  it('is hatched when on hold', async () => {
    expect((await level({ hold: true })).hatched).toBeTrue();
    expect((await level({})).hatched).toBeFalse();
  });
});

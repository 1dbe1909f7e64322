import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { saltAtScale } from '@clear-tally/core';
import { Beam } from './beam';
import { SaltRuler } from './salt-ruler';
import { TallyStrokes } from './tally-strokes';

async function render(component: Type<unknown>, inputs: Record<string, unknown>): Promise<HTMLElement> {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  const fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  return fixture.nativeElement as HTMLElement;
}

describe('salt on one ruler', () => {
  const place = async (now: number): Promise<number> =>
    Number(/M([\d.]+) 14/.exec((await render(SaltRuler, { now })).innerHTML)![1]);
  it('stronger stands further right, and what is off the ruler stands at its end', async () => {
    const [weak, usual, off] = [await place(0.014), await place(0.026), await place(0.3)];
    expect(weak).toBeLessThan(usual);
    expect(off).toBe(800);
  });
  it('says the band in words', async () =>
    expect((await render(SaltRuler, { now: 0.0143 })).querySelector('svg')!.getAttribute('aria-label')).toBe(
      'Salt in the water phase: this batch 1.43 %, weak',
    ));
  it('marks the last lots', async () =>
    expect(
      (await render(SaltRuler, { now: 0.026, past: [0.025, 0.026, 0.027] })).querySelectorAll(
        'path[stroke-width="1.6"]',
      ).length,
    ).toBe(4));
});

describe('the beam', () => {
  const tilt = async (saltGrams: number): Promise<number> =>
    Number(
      /rotate\((-?[\d.]+)deg/.exec(
        (await render(Beam, { at: saltAtScale({ saltGrams, targetGrams: 200 }) })).innerHTML,
      )![1],
    );
  it('leans to the light side when there is too little, to the heavy side when too much, and lies level when in', async () => {
    expect(await tilt(150)).toBeGreaterThan(1);
    expect(await tilt(230)).toBeLessThan(-1);
    expect(Math.abs(await tilt(200))).toBeLessThan(0.01);
  });
  it('writes the band less what is in already', async () => {
    const element = await render(Beam, { at: saltAtScale({ saltGrams: 120, targetGrams: 200 }), already: 120 });
    expect(element.querySelector('.band')!.textContent).toBe('74 g – 86 g');
  });
});

describe('tally strokes', () => {
  it('seven are five crossed and two', async () =>
    expect((await render(TallyStrokes, { count: 7 })).querySelectorAll('path').length).toBe(7));
  it('a crowd is written as a figure', async () =>
    expect((await render(TallyStrokes, { count: 40 })).textContent).toContain('40'));
});

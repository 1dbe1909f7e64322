import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { ShelfReply, ShelfVessel } from '@clear-tally/contract';
import { Shelf } from './shelf';

const vessel = (tag: string, more: Partial<ShelfVessel> = {}): ShelfVessel => ({
  lotId: `018f6b1e-0000-7000-8000-0000000000${tag.length}${tag.charCodeAt(1)}`,
  code: `NY26-300-A-${tag}`,
  name: 'Baby turnips',
  vesselTag: tag,
  shape: 'glass',
  closure: 'airlock',
  roomId: 'r1',
  brimMl: 5000,
  maxFill: 0.9,
  fillGrams: 4000,
  filledAt: '2026-11-01T09:00:00Z',
  day: 3,
  lastPh: 4.5,
  lastPhAt: null,
  phCounts: true,
  readings: 3,
  hold: null,
  seen: null,
  batchCode: 'NY26-300-A',
  formulaNumber: 2,
  due: 0,
  late: 0,
  ...more,
});

async function render(vessels: ShelfVessel[]): Promise<HTMLElement> {
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), provideRouter([])] });
  const fixture = TestBed.createComponent(Shelf);
  fixture.componentRef.setInput('shelf', {
    now: '2026-11-04T09:00:00Z',
    rooms: [
      { id: 'r1', name: 'Net loft', celsius: 19.6 },
      { id: 'r2', name: 'Cold store', celsius: null },
    ],
    vessels,
    faults: [],
  } satisfies ShelfReply);
  await fixture.whenStable();
  return fixture.nativeElement as HTMLElement;
}

describe('the shelf', () => {
  it('draws every live vessel as a link with its words', async () => {
    const element = await render([vessel('G1'), vessel('G2', { hold: 'film', lastPh: 5.12, phCounts: false })]);
    const links = [...element.querySelectorAll('a')].map((link) => link.getAttribute('aria-label'));
    expect(links).toEqual([
      'G1, Baby turnips, day 3, pH 4.50',
      'G2, Baby turnips, day 3, pH 5.12, does not count, on hold: film',
    ]);
  });
  it('says what is due and what is late', async () => {
    const element = await render([vessel('G1', { due: 3, late: 1 }), vessel('G2', { due: 2 })]);
    expect(
      [...element.querySelectorAll('a')].map((link) => link.getAttribute('aria-label')!.split(', ').at(-1)),
    ).toEqual(['1 late', '2 due']);
    expect(element.querySelectorAll('svg.late, svg.due').length).toBe(2);
  });
  it('leaves out a room without vessels', async () =>
    expect((await render([vessel('G1')])).textContent).not.toContain('Cold store'));
  it('draws two hundred vessels smaller, and says how many stand beyond its edge', async () => {
    const one = await render([vessel('G1')]);
    const width = Number(one.querySelector('ct-vessel-drawing svg')!.getAttribute('width'));
    TestBed.resetTestingModule();
    const many = await render(
      Array.from({ length: 200 }, (_, i) =>
        vessel('G1', { lotId: `018f6b1e-0000-7000-8000-${String(i).padStart(12, '0')}` }),
      ),
    );
    const drawn = many.querySelectorAll('ct-vessel-drawing').length;
    expect(many.querySelector('.beyond')!.getAttribute('aria-label')).toBe(
      `${200 - drawn} more in Net loft: the floor shows all`,
    );
    expect(Number(many.querySelector('ct-vessel-drawing svg')!.getAttribute('width'))).toBeLessThan(width);
  });
});

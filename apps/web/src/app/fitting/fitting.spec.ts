import { TestBed } from '@angular/core/testing';
import { fitVessels } from '@clear-tally/core';
import { FakeApi, inHouse, within } from '../state/testing';
import { Fitting } from './fitting';
import { type HouseVessel, VesselFit } from './vessel-fit';

const vessel = (tag: string, litres: number, closure: HouseVessel['closure'] = 'airlock'): HouseVessel => ({
  id: tag,
  tag,
  shape: 'crock',
  brimMl: litres * 1000,
  maxFill: 0.85,
  minFill: 0.7,
  closure,
  roomId: '',
  inUse: true,
  takenBy: null,
  cleanedAt: null,
  cleanedWith: null,
  usedSince: false,
  weightVolumeMl: 0,
  inner: null,
  details: {},
});
const FIVE = [vessel('C1', 30), vessel('C2', 30), vessel('C3', 15), vessel('G1', 10), vessel('G2', 5, 'sealed')];

describe('vessels for a batch', () => {
  it('W4 in the worker gives what core gives', async () => {
    const fit = await TestBed.inject(Fitting).fit(41_000, FIVE);
    expect(fit).toEqual(fitVessels({ batchMl: 41_000, vessels: FIVE }));
  });
  it('shows the best set with its windows, the alternatives, and what a sealed one asks', async () => {
    inHouse(new FakeApi());
    const fixture = TestBed.createComponent(VesselFit);
    fixture.componentRef.setInput('fit', fitVessels({ batchMl: 41_000, vessels: FIVE }));
    fixture.componentRef.setInput('vessels', FIVE);
    fixture.componentRef.setInput('choosable', true);
    const used: string[][] = [];
    fixture.componentInstance.used.subscribe((ids) => used.push(ids));
    await fixture.whenStable();
    const page = within(fixture);
    expect(page.text()).toContain('C1 + C3 + G2 · nothing left over');
    expect(page.text()).toContain('full to 82 %, window 70 % to 85 %');
    expect(page.text()).toContain('burp every');
    await page.press('C1 + C3 + G1');
    await page.press('Use these vessels');
    expect(used).toEqual([['C1', 'C3', 'G1']]);
  });
  it('says what would fit when nothing does', async () => {
    inHouse(new FakeApi());
    const fixture = TestBed.createComponent(VesselFit);
    fixture.componentRef.setInput('fit', fitVessels({ batchMl: 2000, vessels: [vessel('G9', 4)] }));
    fixture.componentRef.setInput('vessels', [vessel('G9', 4)]);
    await fixture.whenStable();
    expect(within(fixture).text()).toContain('another 800 g of filling would reach the next set of vessels');
  });
});

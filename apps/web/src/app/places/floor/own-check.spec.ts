import { TestBed } from '@angular/core/testing';
import { FakeApi, inHouse, within } from '../../state/testing';
import { check } from './floor.testing';
import { OwnCheck } from './own-check';

describe('a check in the house’s own words', () => {
  let api: FakeApi;
  const open = async (asks: NonNullable<ReturnType<typeof check>['asks']>, mark: 'point' | 'comma' = 'point') => {
    api = new FakeApi();
    inHouse(api, { decimalMark: mark });
    const fixture = TestBed.createComponent(OwnCheck);
    fixture.componentRef.setInput('lotId', '018f6b1e-0000-7000-8000-000000000077');
    fixture.componentRef.setInput('check', check('own', 'due', { words: 'damp', name: 'damp', key: 'own:damp', asks }));
    await fixture.whenStable();
    return within(fixture);
  };
  const body = () => api.sent[0]![0]!.body as { figure: number | null; note: string | null; quiet: boolean };

  it('takes its figure in the house’s manner and unit', async () => {
    const page = await open({ kind: 'figure', unit: '%', least: 60, most: 80 }, 'comma');
    expect(page.text()).toContain('missing: its figure');
    await page.type('damp', '71,5');
    await page.press('Record');
    expect([body().figure, body().note, body().quiet]).toEqual([71.5, null, true]);
  });

  it('outside what is usual it asks what was done, before it is recorded', async () => {
    const page = await open({ kind: 'figure', unit: '%', least: 60, most: 80 });
    await page.type('damp', '91');
    expect(page.text()).toContain('That is over what is usual here: 60 to 80.');
    expect(page.text()).toContain('missing: what was done');
    await page.type('What was done about it', 'cloth changed');
    await page.press('Record');
    expect([body().figure, body().note, body().quiet]).toEqual([91, 'cloth changed', false]);
  });

  it('takes words where words are wanted', async () => {
    const page = await open({ kind: 'words' });
    expect(page.text()).toContain('missing: what was seen');
    await page.type('damp, in words', 'like a cellar');
    await page.press('Record');
    expect([body().figure, body().note]).toEqual([null, 'like a cellar']);
  });
});

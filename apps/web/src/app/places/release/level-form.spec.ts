import { TestBed } from '@angular/core/testing';
import { jarCode } from '@clear-tally/core';
import { FakeApi, inHouse, within } from '../../state/testing';
import { LevelForm } from './level-form';

const RUN = 'NY26-327-A-01';

describe('bottles that settled', () => {
  const open = async () => {
    const api = new FakeApi();
    inHouse(api);
    const fixture = TestBed.createComponent(LevelForm);
    fixture.componentRef.setInput('runLotId', 'run-1');
    fixture.componentRef.setInput('code', RUN);
    await fixture.whenStable();
    return { ...within(fixture), api };
  };
  const bottle = (page: { api: FakeApi }): unknown =>
    (page.api.sent.at(-1)![0]!.body as unknown as Record<string, unknown>)['bottle'];

  it('are topped up from one of their own, by its number or its code', async () => {
    const page = await open();
    await page.type('Topped up from jar', '147');
    await page.press('All levelled and closed');
    expect(bottle(page)).toBe(147);
    await page.type('Topped up from jar', jarCode(RUN, 96).text);
    await page.press('Levelled only');
    expect(bottle(page)).toBe(96);
  });
  it('need none where none is short', async () => {
    const page = await open();
    await page.press('All levelled and closed');
    expect(bottle(page)).toBeNull();
  });
  it('take nothing of another run', async () => {
    const page = await open();
    await page.type('Topped up from jar', jarCode('NY26-327-B-02', 96).text);
    expect(page.text()).toContain('nothing else goes into its bottles');
    expect(page.button('All levelled and closed').disabled).toBeTrue();
  });
});

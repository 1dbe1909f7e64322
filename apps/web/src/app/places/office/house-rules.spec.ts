import { ApplicationRef } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { FakeApi, inHouse, ODILE, within } from '../../state/testing';
import { HouseRules } from './house-rules';

describe('house rules', () => {
  let api: FakeApi;
  const open = async () => {
    api = new FakeApi();
    inHouse(api, { rules: { starter: 'kept' } }, ODILE);
    const fixture = TestBed.createComponent(HouseRules);
    await fixture.whenStable();
    return within(fixture);
  };
  const pick = async (page: Awaited<ReturnType<typeof open>>, words: string): Promise<void> => {
    [...page.element.querySelectorAll('label')]
      .find((label) => label.textContent!.includes(words))!
      .querySelector('input')!
      .click();
    await TestBed.inject(ApplicationRef).whenStable();
  };
  it('takes a limit of the house’s own, up to 4.6', async () => {
    const page = await open();
    await page.press('What pH must a lot reach?');
    await page.type('Or its own limit', '4.8');
    expect(page.text()).toContain('2.5 to 4.6 is accepted');
    await page.type('Or its own limit', '4.1');
    await page.press('Make this the house rule');
    expect(api.sent[0]![0]!.body).toEqual({ rule: 'acidLimit', option: '4.1', reason: null });
  });
  it('keeps salt bands by form of product', async () => {
    const page = await open();
    await page.press('What pH must a lot reach?');
    await page.type('from', '2');
    await page.type('to', '3.5');
    await page.press('Keep these bands');
    expect(api.sent[0]![0]!.body).toEqual({
      saltBands: { wholeSmall: { on: 'waterPhase', least: 0.02, most: 0.035 } },
    });
  });
  it('shows every question with the house’s answer, or the careful way', async () => {
    const page = await open();
    expect(page.text()).toContain('How does a batch start?With kept brine');
    expect(page.text()).toContain('What happens to white film?Held, and decided by the reviewer');
  });
  it('a riskier way says what it asks, and is kept with how the house does it', async () => {
    const page = await open();
    await page.press('What happens to white film?');
    expect(page.text()).toContain('In exchange: Only flat white film');
    await pick(page, 'Skimmed');
    expect(page.button('Make this the house rule').disabled).toBeTrue();
    await page.type('How this house does that', 'Odile decides');
    await page.press('Make this the house rule');
    expect(api.sent[0]![0]!.body).toEqual({ rule: 'film', option: 'skim', reason: 'Odile decides' } as never);
  });
  it('a careful way asks nothing', async () => {
    const page = await open();
    await page.press('How does a batch start?');
    await pick(page, 'Wild');
    await page.press('Make this the house rule');
    expect(api.sent[0]![0]!.body).toEqual({ rule: 'starter', option: 'wild', reason: null } as never);
  });
  it('keeps figures of the house', async () => {
    const page = await open();
    await page.type('Work costs per hour', '21.5');
    await page.press('Keep these');
    expect(api.sent[0]![0]!.body).toEqual({ labourPerHour: 21.5 } as never);
  });
});

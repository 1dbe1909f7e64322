import { TestBed } from '@angular/core/testing';
import type { HouseReply } from '@clear-tally/contract';
import { FakeApi, inHouse, ODILE, within } from '../../state/testing';
import { Materials } from './materials';

const house: Partial<HouseReply> = {
  materials: [
    {
      id: '018f6b1e-0000-7000-8000-0000000000a1',
      name: 'Celeriac',
      kind: 'produce',
      waterFraction: 0.88,
      saltFraction: 0,
      allergens: ['celery'],
      caution: null,
      details: { trimYield: 0.74 },
    },
    {
      id: '018f6b1e-0000-7000-8000-0000000000a2',
      name: 'Coarse pan salt',
      kind: 'salt',
      waterFraction: 0,
      saltFraction: 1,
      allergens: [],
      caution: null,
      details: { grain: 'coarse' },
    },
  ],
};

describe('materials', () => {
  let api: FakeApi;
  const open = async (of = house) => {
    api = new FakeApi();
    inHouse(api, of, ODILE);
    const fixture = TestBed.createComponent(Materials);
    await fixture.whenStable();
    return within(fixture);
  };
  it('are found by name, kind and allergen', async () => {
    const page = await open();
    await page.type('Find', 'celery');
    expect(page.element.querySelectorAll('tbody tr').length).toBe(1);
    await page.type('Find', 'nutmeg');
    expect(page.text()).toContain('Nothing fits what is asked for.');
  });
  it('the house weighs its own spoon once, and it is kept', async () => {
    const page = await open();
    await page.press('Coarse pan salt');
    await page.type('Spoons', '5');
    await page.type('weigh together', '76');
    await page.press('A spoon is 15.20 g');
    await page.press('Keep Coarse pan salt');
    expect(api.sent[0]![0]).toEqual(
      jasmine.objectContaining({
        kind: 'material.change',
        body: jasmine.objectContaining({
          details: jasmine.objectContaining({ gramsPer15Ml: 15.2, spoonWeighed: true }),
        }) as never,
      }),
    );
  });
  it('a spoon that weighs like a stone is asked about', async () => {
    const page = await open();
    await page.press('Coarse pan salt');
    await page.type('Spoons', '1');
    await page.type('weigh together', '76');
    expect(page.text()).toContain('look at the count and the unit');
  });
  it('a new one comes in with its allergens', async () => {
    const page = await open();
    await page.press('New material');
    await page.type('Name', 'Soy sauce');
    // Its name speaks of two: each is confirmed or denied.
    expect(page.button('Add Soy sauce').disabled).toBeTrue();
    await page.press('It has soy');
    await page.press('It has none');
    await page.type('Salt in it', '17');
    await page.press('Add Soy sauce');
    expect(api.sent[0]![0]).toEqual(
      jasmine.objectContaining({
        kind: 'material.add',
        body: jasmine.objectContaining({
          allergens: ['soy'],
          saltFraction: 0.17,
          details: jasmine.objectContaining({ notAllergens: ['gluten'] }),
        }) as never,
      }),
    );
  });
  it('says that none is known yet', async () =>
    expect((await open({ materials: [] })).text()).toContain('No material is known yet.'));
});

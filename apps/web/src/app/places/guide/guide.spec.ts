import { TestBed } from '@angular/core/testing';
import { FINDING_KEYS } from '@clear-tally/core';
import type { JudgeReply, LotReply } from '@clear-tally/contract';
import { floor, vessel } from '../floor/floor.testing';
import { FakeApi, inHouse, INSPECTOR, ODILE, within } from '../../state/testing';
import { AboveLimit } from './above-limit';
import { Cautions } from './cautions';
import { DRAWN } from './finding-drawing';
import { Judging } from './judging';
import { Reminders } from './reminders';

const LOT = {
  lotId: '018f6b1e-0000-7000-8000-0000000000c2',
  code: 'NY26-300-A-C2',
  kind: 'fill',
  name: 'Shred',
  closed: false,
} as LotReply;
const judged = (verdict: JudgeReply['verdict']): JudgeReply => ({
  verdict,
  reasons: ['White film: it eats acid while it lives.', 'pH 3.70, steady, in time.'],
  todo: ['Skim it'],
  facts: {
    ageDays: 19,
    ph: 3.7,
    phCounts: true,
    trend: 'steady',
    celsius: 14.1,
    waterPhaseSalt: 0.0239,
    closure: 'loose',
  },
});

describe('the judging guide', () => {
  let api: FakeApi;
  const open = async (
    inputs: { lot?: string; finding?: string },
    person?: typeof ODILE | typeof INSPECTOR,
    verdict: JudgeReply['verdict'] = 'act',
  ) => {
    api = new FakeApi({
      '/api/lots/NY26-300-A-C2': LOT,
      [`/api/judge?lotId=${LOT.lotId}&finding=film&place=surface`]: judged(verdict),
    });
    inHouse(api, {}, person as typeof ODILE);
    const fixture = TestBed.createComponent(Judging);
    for (const [key, value] of Object.entries(inputs)) fixture.componentRef.setInput(key, value);
    await fixture.whenStable();
    return within(fixture);
  };
  it('every finding that is seen has a drawing of its own', () =>
    expect(FINDING_KEYS.filter((key) => !DRAWN.includes(key))).toEqual([]));
  it('shows the wall of pictures first, and says that looks alone give no verdict', async () =>
    expect((await open({})).text()).toContain('Looks alone give no verdict'));
  it('lays a finding beside its double', async () => {
    const page = await open({ finding: 'film' });
    expect(page.text()).toContain('Nothing stands up from it');
    expect(page.text()).toContain('Not this: Raised or fuzzy');
    expect(page.element.querySelector('.verdict')).toBeNull();
  });
  it('gives verdict, reasons and facts once vessel and place are known', async () => {
    const page = await open({ lot: LOT.code, finding: 'film' });
    expect(page.element.querySelector('.verdict')!.textContent).toContain('Act');
    expect(page.text()).toContain('day 19 · pH 3.70, steady · 2.39 % salt in the water · 14.1 °C · loose');
    await page.press('Record: Act');
    expect(api.sent[0]![0]!.body).toEqual({
      lotId: LOT.lotId,
      finding: 'film',
      place: 'surface',
      verdict: 'act',
      reason: null,
      note: null,
      photo: null,
    });
  });
  it('a hold is recorded with the grave button, never with both colours', async () => {
    const page = await open({ lot: LOT.code, finding: 'film' }, undefined, 'hold');
    expect(page.button('Record: Hold').className).toBe('records stern');
    await page.press('Throw out');
    expect(page.button('Record: Throw out').className).toBe('records stern');
  });
  it('asks where it is seen when it can be in several places', async () => {
    const page = await open({ lot: LOT.code, finding: 'blueGreenIn' });
    expect(page.text()).toContain('Say where it is seen');
    expect(page.button('Record')).toBeUndefined();
  });
  it('a milder verdict asks for its reason', async () => {
    const page = await open({ lot: LOT.code, finding: 'film' }, ODILE);
    await page.press('Fine');
    await page.type('Why milder than the guide', 'starch, not film');
    await page.press('Record: Fine');
    expect(api.sent[0]![0]!.body).toEqual(jasmine.objectContaining({ verdict: 'fine', reason: 'starch, not film' }));
  });
  it('an inspector reads the verdict and records nothing', async () =>
    expect((await open({ lot: LOT.code, finding: 'film' }, INSPECTOR)).button('Record')).toBeUndefined());
});

describe('beside the guide', () => {
  const open = async <T>(component: new (...args: never[]) => T, api: FakeApi, person?: typeof ODILE) => {
    inHouse(api, {}, person);
    const fixture = TestBed.createComponent(component as never);
    await fixture.whenStable();
    return { page: within(fixture), settle: () => fixture.whenStable() };
  };
  it('W14: 17.9 °C and 116 h are late by degree-hours, 120 h by the table', async () => {
    const { page } = await open(
      AboveLimit,
      new FakeApi({
        '/api/floor': floor([
          vessel('D8', {
            trend: { direction: 'steady', ph: 5.1, at: 0, rise: 0, sample: 'blended', counts: null },
            lateness: { state: 'late', deadline: 0, reachedAt: null, words: '', hours: 120, unread: false },
          }),
          vessel('C1'),
        ]),
      }),
    );
    expect(page.text()).toContain('D8 Baby turnips');
    expect(page.text()).not.toContain('C1 Baby turnips');
    await page.type('Mean temperature', '17.9');
    await page.type('Hours since filling', '116');
    expect(page.text()).toContain('1,612 degree-hours: where that was read, already late');
    await page.type('Hours since filling', '120');
    expect(page.text()).toContain('Past the deadline');
    await page.type('Mean temperature', '20');
    await page.type('Hours since filling', '90');
    expect(page.text()).toContain('In time: 30 h are left');
  });
  it('says never to add acid, and whom to ask', async () =>
    expect((await open(AboveLimit, new FakeApi())).page.text()).toContain('Vinegar does not save it'));
  it('all cautions stand on one page; the owner writes the contacts', async () => {
    const api = new FakeApi();
    const { page } = await open(Cautions, api, ODILE);
    expect(page.element.querySelectorAll('dt').length).toBe(16);
    await page.type('For what', 'Food authority');
    await page.type('Who, and how to reach them', 'the office on the quay');
    await page.press('Add this contact');
    expect(api.sent[0]![0]!.body).toEqual({ contacts: [{ what: 'Food authority', who: 'the office on the quay' }] });
  });
  it('a calendar address is shown once, and taken back', async () => {
    const api = new FakeApi({ '/api/calendar': { made: '2026-11-20T08:00:00Z' } });
    const { page, settle } = await open(Reminders, api);
    await page.press('Make a new address');
    expect(page.text()).toContain('http://house/calendar/abc.ics');
    await page.press('Take it back');
    await settle();
    expect(page.text()).not.toContain('abc.ics');
    expect(api.said).toEqual(['calendar make', 'calendar revoke']);
  });
});

import { TestBed } from '@angular/core/testing';
import type { AskedByReply } from '@clear-tally/contract';
import { FakeApi, inHouse, within } from '../../state/testing';
import { AskedByPage } from './asked-by';

const reply: AskedByReply = {
  by: 'day',
  id: '2026-11-22',
  title: '2026-11-22',
  lots: [],
  more: false,
  places: [],
  runs: 2,
  jars: 48,
  milliseconds: 3,
};

describe('what a day touched', () => {
  it('says the day that was asked for, wherever the house stands', async () => {
    for (const timeZone of ['Pacific/Auckland', 'America/New_York']) {
      TestBed.resetTestingModule();
      inHouse(new FakeApi({ '/api/asked-by/day/2026-11-22': reply }), { timeZone });
      const fixture = TestBed.createComponent(AskedByPage);
      fixture.componentRef.setInput('by', 'day');
      fixture.componentRef.setInput('id', '2026-11-22');
      await fixture.whenStable();
      await fixture.whenStable();
      const { element } = within(fixture);
      expect(element.querySelector('h2')?.textContent).withContext(timeZone).toBe('22 Nov 2026');
    }
  });
});

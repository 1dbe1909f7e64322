import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Events } from './events';
import { Facts } from './facts';
import { Nothing } from './nothing';
import { ShareDone } from './share-done';
import { Sure } from './sure';
import { Tabs } from './tabs';
import { Waiting } from './waiting';

@Component({
  imports: [Events, Facts, Nothing, ShareDone, Sure, Tabs, Waiting],
  template: `
    <ct-tabs label="Beside it" [leaves]="leaves" [keep]="true" [(open)]="open">
      <ng-template let-leaf><input [attr.aria-label]="leaf" /></ng-template>
    </ct-tabs>
    <ct-facts [facts]="[{ what: 'Salt', says: '20 g', figure: true }]" />
    <ct-nothing says="No order waits."><button>Take one</button></ct-nothing>
    <ct-share-done label="Set up" [done]="3" [of]="4" />
    <ct-events
      [events]="[
        { what: 'Word came', when: 'today 9:12' },
        { what: 'Closed', when: 'not yet', open: true },
      ]"
    />
    <ct-sure asks="It is gone for good." yes="Delete it" (sure)="done.set(done() + 1)">Delete</ct-sure>
    <ct-waiting [loading]="true" />
  `,
})
class Page {
  readonly leaves = [
    ['why', 'Why'],
    ['plan', 'Plan'],
  ] as const;
  readonly open = signal<'why' | 'plan'>('why');
  readonly done = signal(0);
}

describe('parts that stand on every page', () => {
  const open = async () => {
    const fixture = TestBed.createComponent(Page);
    await fixture.whenStable();
    const element = fixture.nativeElement as HTMLElement;
    return { fixture, page: fixture.componentInstance, element, of: (one: string) => element.querySelector(one)! };
  };
  const words = (element: Element): string => element.textContent!.replace(/\s+/g, ' ').trim();

  it('tabs keep what was typed on a leaf that is left', async () => {
    const { fixture, page, element, of } = await open();
    (of('input[aria-label=why]') as HTMLInputElement).value = 'half written';
    const tabs = [...element.querySelectorAll<HTMLElement>('[role=tab]')];
    expect(tabs.map((tab) => words(tab))).toEqual(['Why', 'Plan']);
    tabs[1]!.click();
    await fixture.whenStable();
    expect(page.open()).toBe('plan');
    expect(of('input[aria-label=plan]')).toBeTruthy();
    expect((of('input[aria-label=why]') as HTMLInputElement).value).toBe('half written');
  });

  it('a tab and its leaf have ids of their own, and know each other, also when it is opened later', async () => {
    const { fixture, element, of } = await open();
    expect(of('[role=tablist]').getAttribute('aria-label')).toBe('Beside it');
    for (const tab of element.querySelectorAll<HTMLElement>('[role=tab]')) {
      tab.click();
      await fixture.whenStable();
      const leaf = element.querySelector(`[role=tabpanel][id="${tab.getAttribute('aria-controls')!}"]`)!;
      expect(leaf.getAttribute('aria-labelledby')).toBe(tab.id);
      const ids = [...element.querySelectorAll('ct-tabs [id]')].map(({ id }) => id);
      expect(new Set(ids).size).toBe(ids.length);
    }
  });

  it('what cannot be taken back asks first, and does nothing when it is left', async () => {
    const { fixture, page, of } = await open();
    const dialog = (): HTMLElement | null => document.querySelector('.ant-popover');
    const press = async (said: string): Promise<void> => {
      [...dialog()!.querySelectorAll('button')].find((one) => words(one) === said)!.click();
      await fixture.whenStable();
    };
    (of('ct-sure button') as HTMLElement).click();
    await fixture.whenStable();
    expect(words(dialog()!)).toContain('It is gone for good.');
    await press('Leave it');
    expect(page.done()).toBe(0);
    (of('ct-sure button') as HTMLElement).click();
    await fixture.whenStable();
    await press('Delete it');
    expect(page.done()).toBe(1);
  });

  it('say what is known, done, happened, missing and read', async () => {
    const { of } = await open();
    expect(words(of('ct-facts'))).toBe('Salt 20 g');
    expect(words(of('ct-nothing'))).toContain('No order waits.');
    expect(of('ct-nothing button')).toBeTruthy();
    expect(of('[role=progressbar]').getAttribute('aria-valuenow')).toBe('3');
    expect(words(of('ct-share-done'))).toContain('3 of 4');
    expect(words(of('ct-events'))).toContain('Closed');
    expect(words(of('ct-waiting [role=status]'))).toContain('Reading');
  });
});

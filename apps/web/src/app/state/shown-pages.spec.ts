import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { shownPages } from './shown-pages';
import { FakeApi, inHouse } from './testing';

@Component({ template: '{{ words() }}' })
class Page {
  readonly url = signal('/api/lots?kind=fill');
  readonly read = shownPages<{ lots: string[]; next: string | null }>(this.url);
  protected words(): string {
    return `${this.read.pages().flatMap(({ lots }) => lots)} ${this.read.reading() ? 'reading' : 'all'}`;
  }
}

describe('a list that comes in pages', () => {
  const open = async (replies: Record<string, object>) => {
    const api = new FakeApi(replies);
    inHouse(api);
    const fixture = TestBed.createComponent(Page);
    for (let turn = 0; turn < 5; turn += 1) await fixture.whenStable();
    return { api, fixture, text: () => (fixture.nativeElement as HTMLElement).textContent!.trim() };
  };
  it('is asked for page by page, by the key the one before ended with, until all are here', async () => {
    const page = await open({
      '/api/lots?kind=fill': { lots: ['a', 'b'], next: '7' },
      '/api/lots?kind=fill&before=7': { lots: ['c'], next: '3' },
      '/api/lots?kind=fill&before=3': { lots: ['d'], next: null },
    });
    expect(page.text()).toBe('a,b,c,d all');
  });
  it('shows what came before a page that is refused, and says why', async () => {
    const page = await open({ '/api/lots?kind=fill': { lots: ['a'], next: '7' } });
    expect(page.text()).toBe('a all');
    expect(page.fixture.componentInstance.read.problem()!.detail).toContain('before=7');
  });
  it('of another address begins anew', async () => {
    const page = await open({
      '/api/lots?kind=fill': { lots: ['a'], next: null },
      '/api/lots?kind=run': { lots: ['r'], next: null },
    });
    page.fixture.componentInstance.url.set('/api/lots?kind=run');
    for (let turn = 0; turn < 5; turn += 1) await page.fixture.whenStable();
    expect(page.text()).toBe('r all');
  });
});

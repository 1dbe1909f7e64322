import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { TypedBeforeNote } from '../ui/typed-before';
import { FakeApi, inHouse, INES, ODILE, within } from './testing';
import { keepTyped } from './typed';

@Component({ imports: [TypedBeforeNote], template: '<ct-typed-before [typed]="typed" />{{ reason() }}' })
class AForm {
  readonly about = signal<string | null>('hold A');
  readonly reason = signal('');
  readonly typed = keepTyped(this.about, { reason: this.reason });
}

describe('what was typed and not recorded', () => {
  beforeEach(() => localStorage.removeItem('ct.typed'));
  const open = async (about = 'hold A') => {
    const fixture = TestBed.createComponent(AForm);
    fixture.componentInstance.about.set(about);
    await fixture.whenStable();
    return { form: fixture.componentInstance, fixture, ...within(fixture) };
  };
  const typedOnce = async (): Promise<void> => {
    const { form, fixture } = await open();
    form.reason.set('smells of glue');
    await fixture.whenStable();
    fixture.destroy();
  };

  it('is offered to the same person in the same form, and put back only when they say so', async () => {
    inHouse(new FakeApi());
    await typedOnce();
    const page = await open();
    expect(page.text()).toContain('Typed a moment ago, and not recorded.');
    expect(page.form.reason()).toBe('');
    await page.press('Take it up again');
    expect(page.form.reason()).toBe('smells of glue');
    expect(page.text()).not.toContain('not recorded');
  });
  it('is not offered of another vessel, once thrown away, or once recorded', async () => {
    inHouse(new FakeApi());
    await typedOnce();
    expect((await open('hold B')).text()).not.toContain('Typed');
    const page = await open();
    await page.press('Throw it away');
    expect((await open()).text()).not.toContain('Typed');
    await typedOnce();
    (await open()).form.typed.done();
    expect((await open()).text()).not.toContain('Typed');
  });
  it('a form that turns to another vessel keeps nothing of the first under its name', async () => {
    inHouse(new FakeApi());
    const page = await open();
    page.form.reason.set('smells of glue');
    await page.settle();
    page.form.about.set('hold B');
    await page.settle();
    page.form.reason.set('');
    await page.settle();
    expect((await open('hold B')).text()).not.toContain('Typed');
    expect((await open('hold A')).text()).toContain('Typed');
  });
  it('what is emptied by hand does not wait', async () => {
    inHouse(new FakeApi());
    const page = await open();
    page.form.reason.set('smells of glue');
    await page.settle();
    page.form.reason.set('');
    await page.settle();
    expect((await open()).text()).not.toContain('Typed');
  });
  it('is nobody else’s', async () => {
    inHouse(new FakeApi(), {}, INES);
    await typedOnce();
    TestBed.resetTestingModule();
    inHouse(new FakeApi(), {}, ODILE);
    expect((await open()).text()).not.toContain('Typed');
  });
});

import { Component, signal } from '@angular/core';
import { FormField } from '@angular/forms/signals';
import { TestBed } from '@angular/core/testing';
import { firstValueFrom, NEVER, throwError } from 'rxjs';
import type { Entry } from '@clear-tally/contract';
import { QuantityInput } from '../ui/quantity-input';
import { RecordButton } from '../ui/record-button';
import { TextField } from '../ui/text-field';
import { TypedBeforeNote } from '../ui/typed-before';
import { checked } from './checked';
import { recordingForm } from './form';
import { FakeApi, inHouse, within } from './testing';

const LOT = '0193a8f0-0000-7000-8000-000000000001';

@Component({
  imports: [FormField, QuantityInput, RecordButton, TextField, TypedBeforeNote],
  template: `<form (submit)="$event.preventDefault(); record()">
    <ct-typed-before [typed]="form.typed" />
    <ct-quantity label="Lost" [formField]="form.fields.grams" />
    <ct-text label="Why" [formField]="form.fields.reason" />
    <button class="go" [ctRecord]="form" [needs]="[!grams() && 'how much', !reason().trim() && 'the reason']">
      Record it
    </button>
  </form>`,
})
class AForm {
  protected readonly form = recordingForm('a form', {
    fields: { grams: null as number | null, reason: '' },
    recorded: () => this.grams.set(null),
  });
  readonly grams = this.form.values.grams;
  readonly reason = this.form.values.reason;
  record(): void {
    this.form.record(
      this.form.entry('hold.place', { lotId: LOT, reason: `${this.reason()} ${this.grams()}` } as never),
    );
  }
}

@Component({
  imports: [RecordButton],
  template: `@for (tag of tags(); track tag) {
    <button [ctRecord]="form" (click)="clean(tag)">{{ tag }}</button>
  }`,
})
class AButtonEach {
  readonly tags = signal(['C1', 'C2', 'C3']);
  protected readonly form = recordingForm('vessel.clean');
  clean(tag: string): void {
    this.form.record(this.form.entry('vessel.clean', { vesselId: LOT, agent: tag } as never));
  }
}

describe('a form with a button each', () => {
  it('says “recorded” at the one that was pressed, and at no other; where that one is gone, at whichever is left', async () => {
    const api = new FakeApi();
    inHouse(api);
    const fixture = TestBed.createComponent(AButtonEach);
    const page = within(fixture);
    await fixture.whenStable();
    page.button('C2').click();
    await fixture.whenStable();
    const says = () => ['C1', 'C2', 'C3'].map((tag) => page.button(tag)?.textContent?.trim());
    expect(says()).toEqual(['C1', 'C2recorded', 'C3']);
    page.button('C3').click();
    await fixture.whenStable();
    expect(says()).toEqual(['C1', 'C2', 'C3recorded']);
    fixture.componentInstance.tags.set(['C1']);
    await fixture.whenStable();
    expect(page.button('C1').textContent!.trim()).toBe('C1recorded');
  });
});

describe('a form that records', () => {
  const open = async (api = new FakeApi()) => {
    inHouse(api);
    const fixture = TestBed.createComponent(AForm);
    await fixture.whenStable();
    return { api, fixture, ...within(fixture) };
  };

  it('says at its greyed button what is missing, in words', async () => {
    const page = await open();
    expect(page.button('Record it').textContent!.trim()).toBe('Record it missing: how much, the reason');
    expect(page.button('Record it').disabled).toBeTrue();
    await page.type('Lost', '250');
    expect(page.button('Record it').textContent).toContain('missing: the reason');
    await page.type('Why', 'spilled');
    expect(page.button('Record it').textContent!.trim()).toBe('Record it');
    expect(page.button('Record it').disabled).toBeFalse();
  });
  it('says before the work that whoever is there lacks the training this house asks for it', async () => {
    inHouse(new FakeApi(), {}, undefined, [], {
      'hold.place': 'Your training in “Judging what is seen” is not on record: somebody trained records this.',
    });
    @Component({ imports: [RecordButton], template: `<button [ctRecord]="form">Hold it</button>` })
    class Asked {
      protected readonly form = recordingForm('hold.place');
    }
    const fixture = TestBed.createComponent(Asked);
    await fixture.whenStable();
    expect(within(fixture).button('Hold it').textContent).toContain('is not on record: somebody trained records this');
  });
  it('says there that it is sent, that no answer came, and that it was recorded', async () => {
    const page = await open();
    await page.type('Lost', '250');
    await page.type('Why', 'spilled');
    spyOn(page.api, 'record').and.returnValue(NEVER);
    await page.press('Record it');
    expect(page.button('Record it').textContent).toContain('recording …');
    expect(page.button('Record it').getAttribute('aria-busy')).toBe('true');
    page.fixture.destroy();
  });
  it('no answer: pressed again it may be; what was typed stands', async () => {
    const page = await open();
    await page.type('Lost', '250');
    await page.type('Why', 'spilled');
    const record = spyOn(page.api, 'record').and.returnValue(
      throwError(() => ({ code: 'offline', detail: 'The server does not answer.' })),
    );
    await page.press('Record it');
    for (let i = 0; i < 40 && !page.text().includes('no answer yet'); i += 1) {
      await new Promise((done) => setTimeout(done, 100));
      await page.settle();
    }
    expect(page.button('Record it').textContent).toContain('no answer yet: press again');
    expect(page.field('Why').value).toBe('spilled');
    record.and.callThrough();
    await page.press('Record it');
    expect(page.button('Record it').textContent).toContain('recorded');
    expect(page.api.sent.length).toBe(1);
  });
  it('what was typed is offered when the form opens again, and not after it was recorded', async () => {
    const page = await open();
    await page.type('Lost', '250');
    page.fixture.destroy();
    const again = within(TestBed.createComponent(AForm));
    await again.settle();
    expect(again.text()).toContain('Typed a moment ago');
    expect(again.field('Lost').value).toBe('');
    await again.press('Take it up again');
    expect(again.field('Lost').value).toBe('250');
    await again.type('Why', 'spilled');
    await again.press('Record it');
    // The reason stays standing for the next, and nobody typed it anew.
    const third = within(TestBed.createComponent(AForm));
    await third.settle();
    expect(third.text()).not.toContain('Typed');
  });
});

describe('entries before they travel', () => {
  const entry = (body: object): Entry =>
    ({
      id: LOT,
      kind: 'hold.place',
      happenedAt: '2026-11-26T08:00:00.000Z',
      by: LOT,
      device: 'a tablet',
      body,
    }) as unknown as Entry;
  const said = (body: object): Promise<unknown> =>
    firstValueFrom(checked([entry(body)])).then(
      () => 'nothing',
      (problem: unknown) => problem,
    );

  it('are read by the schemas of the server, which name the field', async () => {
    expect(await said({ lotId: LOT, reason: 'smells of glue' })).toBe('nothing');
    expect(await said({ lotId: LOT, reason: '' })).toEqual(
      jasmine.objectContaining({ code: 'shape.invalid', field: 'reason' }),
    );
    expect(await said({ lotId: LOT })).toEqual(jasmine.objectContaining({ detail: 'Reason: it is missing.' }));
  });
});

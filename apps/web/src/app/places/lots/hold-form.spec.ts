import { TestBed } from '@angular/core/testing';
import { FakeApi, inHouse, within } from '../../state/testing';
import { HoldForm } from './hold-form';

const LOT = '018f6b1e-0000-7000-8000-0000000000aa';

describe('hold and lift', () => {
  for (const [held, opens, label, press, kind] of [
    [false, 'Hold …', 'Why it is put on hold', 'Hold C2', 'hold.place'],
    [true, 'Lift the hold …', 'Why the hold can be lifted', 'Lift the hold', 'hold.lift'],
  ] as const) {
    it(`${kind} asks for a reason first`, async () => {
      const api = new FakeApi();
      inHouse(api);
      const fixture = TestBed.createComponent(HoldForm);
      fixture.componentRef.setInput('lotId', LOT);
      fixture.componentRef.setInput('code', 'C2');
      fixture.componentRef.setInput('held', held);
      await fixture.whenStable();
      const page = within(fixture);
      await page.press(opens);
      expect(page.button(press).disabled).toBeTrue();
      await page.type(label, '  film, pH rising ');
      await page.press(press);
      expect(api.sent[0]![0]!.kind).toBe(kind);
      expect(api.sent[0]![0]!.body).toEqual({ lotId: LOT, reason: 'film, pH rising' });
    });
  }
});

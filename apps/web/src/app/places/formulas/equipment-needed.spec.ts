import { TestBed } from '@angular/core/testing';
import type { EquipmentReply } from '@clear-tally/contract';
import { FakeApi, inHouse, within } from '../../state/testing';
import { aPiece } from '../house/equipment.testing';
import { equipmentNamed } from './draft/readDraft';
import { EquipmentNeeded } from './equipment-needed';

describe('equipment of a formula', () => {
  it('is named between commas, by tag or in words, each once', () => {
    expect(equipmentNamed('T1, SC2; cabbage plane,, T1 ,tAG')).toEqual([
      { tag: 'T1', words: 'T1' },
      { tag: 'SC2', words: 'SC2' },
      { tag: null, words: 'cabbage plane' },
      { tag: null, words: 'tAG' },
    ]);
    expect(equipmentNamed('  ')).toEqual([]);
  });

  it('is seen before a batch starts, with what is due of it', async () => {
    const api = new FakeApi({
      '/api/equipment': {
        now: '2026-11-27T09:00:00Z',
        rooms: [],
        mixes: [],
        equipment: [
          aPiece('T1'),
          aPiece('SC2', { kind: 'scale', name: 'Floor scale', due: 'old' }),
          aPiece('T3', { name: 'Press', inUse: false }),
          aPiece('SC1', { kind: 'scale', name: 'Bench scale', due: 'failed' }),
        ],
      } satisfies EquipmentReply,
    });
    inHouse(api);
    const fixture = TestBed.createComponent(EquipmentNeeded);
    fixture.componentRef.setInput('needs', equipmentNamed('T1, SC2, T3, SC1, T9, cabbage plane'));
    await fixture.whenStable();
    const page = within(fixture);
    expect([...page.element.querySelectorAll('li')].map((one) => one.textContent!.trim())).toEqual([
      'T1, Shredder',
      'SC2, Floor scale: to be looked at first',
      'T3, Press: out of use',
      'SC1, Bench scale: not in order when it was looked at last',
      'T9, not in the register',
      'cabbage plane',
    ]);
    expect(page.text()).toContain('before you begin');
  });
});

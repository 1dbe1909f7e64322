import { TestBed } from '@angular/core/testing';
import type { VerificationReply } from '@clear-tally/contract';
import { FakeApi, inHouse, ODILE, within } from '../../state/testing';
import { TheRecord } from './the-record';

const never: VerificationReply = {
  state: 'never',
  words: null,
  startedAt: null,
  finishedAt: null,
  entries: null,
  photos: null,
  ends: null,
  newestEnd: null,
  faults: [],
};
const done: VerificationReply = {
  ...never,
  state: 'done',
  finishedAt: '2026-11-25T12:00:00Z',
  entries: 1105,
  photos: 3,
  ends: 2,
  newestEnd: { seq: 1100, at: '2026-11-24T12:00:00Z' },
};

describe('the record, looked at', () => {
  let api: FakeApi;
  const open = async (reply: VerificationReply) => {
    api = new FakeApi({ '/api/verification': reply });
    inHouse(api, {}, ODILE);
    const fixture = TestBed.createComponent(TheRecord);
    for (let i = 0; i < 3; i += 1) await fixture.whenStable();
    return within(fixture);
  };
  it('is started by an owner, and says how far it is', async () => {
    const page = await open(never);
    await page.press('Look at the whole house');
    expect(api.said).toEqual(['verify null']);
    const running =
      TestBed.resetTestingModule() && (await open({ ...never, state: 'running', words: '400 entries recorded anew' }));
    expect(running.text()).toContain('400 entries recorded anew');
    expect(running.button('Looking').disabled).toBeTrue();
    TestBed.resetTestingModule();
  });
  it('says that everything stands, and against which end', async () => {
    const page = await open(done);
    expect(page.text()).toContain('Everything stands as it was recorded.');
    expect(page.text()).toContain('Against 2 ends kept outside, the newest at entry 1100');
  });
  it('names what is wrong, and what to do', async () => {
    const page = await open({
      ...done,
      newestEnd: null,
      ends: 0,
      faults: [
        {
          where: 'movement',
          seq: 1053,
          words: 'movement (1053000): “milligrams” is 618000; entry 1053 recorded 578000.',
        },
      ],
    });
    expect(page.text()).toContain('One thing is not as it was recorded.');
    expect(page.text()).toContain('entry 1053 recorded 578000');
    expect(page.text()).toContain('Change nothing now');
    expect(page.text()).toContain('would not be noticed');
  });
  it('takes an end that was kept elsewhere, and refuses another file in words', async () => {
    const page = await open(done);
    const field = page.element.querySelector<HTMLInputElement>('input[type=file]')!;
    /** A file is read in its own time: until it is said. */
    const bring = async (text: string, says?: string): Promise<void> => {
      const carried = new DataTransfer();
      carried.items.add(new File([text], 'kept.json'));
      field.files = carried.files;
      field.dispatchEvent(new Event('change'));
      for (let turn = 0; turn < 100 && (turn === 0 || (says && !page.text().includes(says))); turn += 1) {
        await new Promise((resolve) => setTimeout(resolve, 20));
        await page.settle();
      }
    };
    await bring('a shopping list', 'is no end of a chain');
    expect(page.text()).toContain('“kept.json” is no end of a chain');
    await bring('{"seq":1100,"hash":"x"}', 'With the end of entry 1100');
    await page.press('Look at the whole house');
    expect(api.said).toEqual(['verify {"seq":1100,"hash":"x"}']);
  });
});

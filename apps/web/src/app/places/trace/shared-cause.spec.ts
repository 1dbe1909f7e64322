import { TestBed } from '@angular/core/testing';
import type { CauseReply } from '@clear-tally/contract';
import { of, throwError } from 'rxjs';
import { FakeApi, inHouse, INES, within } from '../../state/testing';
import { SharedCause } from './shared-cause';

const reply: CauseReply = {
  bad: [
    { code: 'NY26-280-A-01', run: 'NY26-280-A-01', name: 'Baby turnips' },
    { code: 'NY26-304-A-01', run: 'NY26-304-A-01', name: 'Baby turnips' },
  ],
  good: 30,
  days: 120,
  compared: 71,
  causes: [
    {
      traits: [
        { kind: 'supply', words: 'Mustard seed, Low Mill', code: 'LM-0003' },
        { kind: 'vessel', words: 'D7', code: null },
      ],
      badWith: 2,
      bad: 2,
      goodWith: 1,
      good: 30,
      p: 1 / 165,
      says: 'hardlyChance',
    },
    {
      traits: [{ kind: 'filledOn', words: '2026-10-07', code: null }],
      badWith: 2,
      bad: 2,
      goodWith: 20,
      good: 30,
      p: 0.52,
      says: 'mayBeChance',
    },
  ],
  milliseconds: 40,
};

describe('what bad jars share', () => {
  const open = async (answer = () => of(reply), bad?: string) => {
    TestBed.resetTestingModule();
    const api = new FakeApi({});
    const asked: (readonly string[])[] = [];
    Object.assign(api, {
      sharedCause: (codes: readonly string[]) => {
        asked.push(codes);
        return answer();
      },
    });
    inHouse(api, {}, INES);
    const fixture = TestBed.createComponent(SharedCause);
    fixture.componentRef.setInput('bad', bad);
    await fixture.whenStable();
    await fixture.whenStable();
    return { ...within(fixture), asked };
  };
  it('codes a line, each once; counts and chance in words, the most telling first', async () => {
    const page = await open();
    await page.type('Bad jars, a code a line', 'NY26-280-A-01\n NY26-304-A-01, NY26-280-A-01\n');
    await page.press('Compare 2');
    expect(page.asked).toEqual([['NY26-280-A-01', 'NY26-304-A-01']]);
    expect(page.text()).toContain('2 of 2 bad');
    expect(page.text()).toContain('1 of 30 others');
    expect(page.text()).toContain('by chance alone one in 165');
    expect(page.text()).toContain('most would have it anyway');
    expect(page.text()).toContain('7 Oct 2026');
  });
  it('asks by itself what it was opened with; a refusal keeps what was typed', async () => {
    const page = await open(
      () => throwError(() => ({ code: 'code.unknown', detail: 'Nothing has this code.' })) as never,
      'A,B',
    );
    expect(page.asked).toEqual([['A', 'B']]);
    expect(page.text()).toContain('Nothing has this code.');
    expect(page.field('Bad jars, a code a line').value).toBe('A\nB');
  });
});

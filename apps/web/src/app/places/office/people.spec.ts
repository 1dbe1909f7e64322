import { TestBed } from '@angular/core/testing';
import type { PeopleReply } from '@clear-tally/contract';
import { FakeApi, INES, inHouse, ODILE, within } from '../../state/testing';
import { People } from './people';

const TOMASZ = {
  id: '018f6b1e-0000-7000-8000-0000000000aa',
  name: 'Tomasz Reyk',
  initials: 'TR',
  role: 'maker' as const,
};
const everybody: PeopleReply = {
  people: [
    { ...ODILE, leftAt: null, lastDay: null, hasPin: true, signedIn: 2, devices: 1, trainings: [] },
    { ...INES, leftAt: null, lastDay: null, hasPin: false, signedIn: 0, devices: 0, trainings: [] },
    { ...TOMASZ, leftAt: null, lastDay: null, hasPin: true, signedIn: 1, devices: 3, trainings: [] },
    {
      id: '018f6b1e-0000-7000-8000-0000000000bb',
      name: 'Gone Person',
      initials: 'GP',
      role: 'maker',
      leftAt: '2026-10-01T08:00:00Z',
      lastDay: null,
      hasPin: false,
      signedIn: 0,
      devices: 0,
      trainings: [],
    },
  ],
  locks: [{ personId: TOMASZ.id, until: '2026-11-25T12:05:00Z', here: true }],
};

describe('who comes in', () => {
  let api: FakeApi;
  const VERA = { id: '018f6b1e-0000-7000-8000-0000000000cc', name: 'Vera Lindqvist', initials: 'VL' };
  const open = async (person: typeof ODILE | typeof INES = ODILE, more: PeopleReply['people'] = []) => {
    api = new FakeApi({
      '/api/people': { ...everybody, people: [...everybody.people, ...more] },
      [`/api/people/${VERA.id}/looks`]: { looks: [{ at: '2026-11-26T08:05:00Z', what: 'trace/NY26-300-A-01' }] },
    });
    inHouse(api, {}, person);
    const fixture = TestBed.createComponent(People);
    for (let i = 0; i < 3; i += 1) await fixture.whenStable();
    return within(fixture);
  };
  const rowOf = (page: Awaited<ReturnType<typeof open>>, name: string): HTMLElement =>
    [...page.element.querySelectorAll('tr')].find((row) => row.textContent!.includes(name))!;
  const pressIn = async (page: Awaited<ReturnType<typeof open>>, name: string, words: string): Promise<void> => {
    [...rowOf(page, name).querySelectorAll('button')].find((button) => button.textContent!.trim() === words)!.click();
    await page.settle();
  };

  it('shows an owner who is signed in where, who is kept out, and who has left', async () => {
    const page = await open();
    expect(rowOf(page, 'Odile Marr').textContent).toContain('on 2 tablets; one device knows them');
    expect(rowOf(page, 'Ines Calloway').textContent).toContain('has no PIN yet');
    expect(rowOf(page, 'Tomasz Reyk').textContent).toContain('at one address until');
    expect(rowOf(page, 'Gone Person').textContent).toContain('left');
  });
  it('an inspector has a last day, and what they looked at is opened at their line', async () => {
    const row = {
      ...VERA,
      role: 'inspector' as const,
      leftAt: null,
      hasPin: true,
      signedIn: 0,
      devices: 0,
      trainings: [],
    };
    const page = await open(ODILE, [{ ...row, lastDay: '2020-03-01' }]);
    expect(rowOf(page, 'Vera Lindqvist').textContent).toMatch(/inspector\s+ended 1 Mar 2020/);
    await pressIn(page, 'Vera Lindqvist', 'Looked at');
    expect(page.text()).toContain('Trace NY26-300-A-01');
    await pressIn(page, 'Vera Lindqvist', 'Change');
    const form = rowOf(page, 'Change Vera Lindqvist');
    const field = [...form.querySelectorAll('input')].find((one) => one.placeholder === '29 Nov 2026')!;
    field.value = '24 Dec 2099';
    field.dispatchEvent(new Event('input'));
    await page.settle();
    [...form.querySelectorAll('button')].find((one) => one.textContent!.includes('Keep it so'))!.click();
    await page.settle();
    expect(api.sent[0]![0]!.body).toEqual(jasmine.objectContaining({ role: 'inspector', lastDay: '2099-12-24' }));
  });
  it('a colleague leaves, with the reason, after being asked', async () => {
    const page = await open();
    await pressIn(page, 'Tomasz Reyk', 'Has left');
    expect(page.text()).toContain('goes dark');
    expect(api.sent).toEqual([]);
    await page.type('Why', 'Moved to the coast');
    await page.press('Tomasz Reyk has left');
    expect(api.sent[0]![0]).toEqual(
      jasmine.objectContaining({
        kind: 'person.leave',
        body: { personId: TOMASZ.id, left: true, reason: 'Moved to the coast' },
      }) as never,
    );
  });
  it('and comes back', async () => {
    const page = await open();
    await pressIn(page, 'Gone Person', 'Is back');
    await page.press('Gone Person is back');
    expect(api.sent[0]![0]!.body).toEqual({ personId: everybody.people[3]!.id, left: false, reason: null });
  });
  it('an owner ends a lock and gives a PIN, to others only', async () => {
    const page = await open();
    await pressIn(page, 'Tomasz Reyk', 'End it');
    await pressIn(page, 'Ines Calloway', 'Give a PIN');
    await page.type('A PIN for Ines', ' 5173 ');
    await page.press('Give Ines Calloway this PIN');
    expect(api.said).toEqual([`locks of ${TOMASZ.id}`, `pin of ${INES.id}: 5173`]);
    expect(rowOf(page, 'Odile Marr').textContent).not.toContain('Give a PIN');
  });
  it('a PIN that is refused stays typed, with what is accepted beside it', async () => {
    const page = await open();
    await pressIn(page, 'Ines Calloway', 'Give a PIN');
    await page.type('A PIN for Ines', '1234');
    api.refusal = {
      code: 'shape.invalid',
      detail: 'This PIN is the first that anybody would try. Choose another.',
    } as never;
    await page.press('Give Ines Calloway this PIN');
    expect(page.element.querySelector('form.ask')!.textContent).toContain('first that anybody would try');
    expect(page.field('A PIN for Ines').value).toBe('1234');
  });
  it('a maker sees nobody, and changes their own PIN when both say the same', async () => {
    const page = await open(INES);
    expect(page.text()).not.toContain('Tomasz');
    expect(api.asked).not.toContain('/api/people');
    await page.type('The one you have now', '1963');
    await page.type('A new PIN', '864213');
    await page.type('Once more', '86421');
    expect(page.button('Change it').disabled).toBeTrue();
    await page.type('Once more', '864219');
    expect(page.text()).toContain('not the same yet');
    await page.type('Once more', '864213');
    await page.press('Change it');
    expect(api.said).toEqual(['pin 1963 to 864213']);
    expect(page.text()).toContain('you are no longer');
    expect(page.field('The one you have now').value).toBe('');
  });

  it('what somebody was taught stands at their line, and is written down there', async () => {
    const trainings: PeopleReply['people'][number]['trainings'] = [
      {
        id: '018f6b1e-0000-7000-8000-0000000000d1',
        task: 'cleaning',
        words: null,
        taughtBy: 'Odile Marr',
        on: '2020-01-02',
        until: '2021-01-01',
      },
    ];
    const LENA = { ...VERA, name: 'Lena Maas', initials: 'LM', role: 'maker' as const };
    const page = await open(ODILE, [
      { ...LENA, leftAt: null, lastDay: null, hasPin: true, signedIn: 0, devices: 0, trainings },
    ]);
    await pressIn(page, 'Lena Maas', 'Training');
    expect(page.text()).toContain('2 Jan 2020, by Odile Marr, ended 1 Jan 2021');
    await page.select('Taught in', 'heating');
    expect(page.text()).toContain('missing: who taught it');
    await page.type('By', 'A college');
    await page.type('Until the end of', '1 Jan 2020');
    expect(page.text()).toContain('missing: a last day after that');
    await page.type('Until the end of', '');
    await page.press('Write it down');
    expect(api.sent[0]![0]!.body).toEqual(
      jasmine.objectContaining({ personId: LENA.id, task: 'heating', taughtBy: 'A college', until: null }),
    );
  });

  it('what asks for a training is ticked, and who has none yet is named before it is kept', async () => {
    const page = await open();
    const line = [...page.element.querySelectorAll('ct-trained-tasks ct-tick')].find((one) =>
      one.textContent!.includes('Salt and brine'),
    )!;
    line.querySelector('input')!.click();
    await page.settle();
    expect(line.textContent!.replace(/\s+/g, ' ')).toContain('not yet: Odile Marr, Ines Calloway, Tomasz Reyk');
    const keep = page.element.querySelector<HTMLButtonElement>('ct-trained-tasks button')!;
    keep.click();
    await page.settle();
    expect(api.sent[0]![0]!.body).toEqual({ trainedTasks: ['salting'] });
  });

  it('of whom a passphrase is asked on other devices is chosen here, and kept only when it is another answer', async () => {
    const page = await open();
    const keep = () => page.element.querySelector<HTMLButtonElement>('ct-network-secret button')!;
    expect(keep().disabled).toBeTrue();
    await page.select('A passphrase is asked', 'owners');
    keep().click();
    await page.settle();
    expect(api.sent[0]![0]!.body).toEqual({ passphraseFor: 'owners' });
  });
});

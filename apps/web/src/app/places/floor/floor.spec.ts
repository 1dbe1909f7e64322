import { TestBed } from '@angular/core/testing';
import type { FloorReply, MetersReply } from '@clear-tally/contract';
import { FakeApi, inHouse, INSPECTOR, within } from '../../state/testing';
import { Scans } from '../../state/scans';
import { Floor } from './floor';
import { check, floor, NOW, vessel } from './floor.testing';
import { openChecks, roundOf, trendWords, whenWords } from './round';

const METER: MetersReply = {
  meters: [
    {
      meterId: '018f6b1e-0000-7000-8000-00000000eeee',
      tag: 'M2',
      name: 'Bench meter',
      kind: 'meter',
      fit: true,
      reasons: [],
      since: '2026-11-23T06:12:00Z',
      until: '2026-11-24T06:12:00Z',
      calibrations: [],
    },
  ],
};

describe('the order of a round', () => {
  const walk = [
    vessel('A1', { checks: [check('look', 'due')] }),
    vessel('A2'),
    vessel('A3', { checks: [check('ph', 'late'), check('look', 'due')] }),
  ];
  it('what is late comes first, what has nothing due is left out', () =>
    expect(roundOf(walk).map(({ vesselTag }) => vesselTag)).toEqual(['A3', 'A1']));
  it('what waits or comes later is not due', () =>
    expect(openChecks(vessel('B1', { checks: [check('taste', 'waits'), check('ph', 'later')] }))).toEqual([]));
  it('says when', () => {
    expect(whenWords(check('ph', 'late'), NOW, () => '')).toBe('late 5 h');
    expect(whenWords(check('ph', 'late', { due: NOW - 72 * 3_600_000 }), NOW, () => '')).toBe('late 3 days');
    expect(whenWords(check('ph', 'due'), NOW, (iso) => iso.slice(11, 16))).toBe('by 12:00');
  });
  it('says where the pH goes', () => {
    expect(trendWords(vessel('C1'), () => 'Sat 21 Nov')).toBe('last 3.70 on Sat 21 Nov, falling');
    expect(
      trendWords(
        vessel('C1', { trend: { direction: 'none', ph: null, at: null, rise: 0, sample: null, counts: null } }),
        () => '',
      ),
    ).toBe('no pH yet');
  });
});

describe('the floor', () => {
  let api: FakeApi;
  const open = async (reply: FloorReply, person?: typeof INSPECTOR) => {
    api = new FakeApi({ '/api/floor': reply, '/api/meters': METER });
    inHouse(api, {}, person);
    const fixture = TestBed.createComponent(Floor);
    await fixture.whenStable();
    return { page: within(fixture), settle: () => fixture.whenStable() };
  };
  const two = () =>
    floor([
      vessel('D1', { checks: [check('look', 'late'), check('level', 'due')] }),
      vessel('D2', { roomId: 'r2', checks: [check('level', 'due')], hold: 'pink top' }),
    ]);

  it('counts what is due and late, and opens the first', async () => {
    const { page } = await open(two());
    expect(page.text()).toContain('3 due, 1 late');
    expect(page.element.querySelector('li.now')!.textContent).toContain('D1');
  });
  it('one tap says all quiet on a vessel', async () => {
    const { page } = await open(two());
    await page.press('All quiet: look, level');
    expect(api.sent[0]![0]!.kind).toBe('round.quiet');
    expect((api.sent[0]![0]!.body as { lots: { checks: object[] }[] }).lots[0]!.checks.length).toBe(2);
  });
  it('several at once, what is held left out', async () => {
    const { page } = await open(
      floor([
        vessel('D1', { checks: [check('look', 'due')] }),
        vessel('D2', { checks: [check('look', 'due')] }),
        vessel('D3', { checks: [check('look', 'due')], hold: 'film' }),
      ]),
    );
    await page.press('All quiet on several');
    await page.press('All quiet on 2');
    expect((api.sent[0]![0]!.body as { lots: object[] }).lots.length).toBe(2);
  });
  it('gas wants its own word, swelling its figure', async () => {
    const { page } = await open(
      floor([
        vessel('V1', {
          closure: 'vacuum',
          checks: [check('swelling', 'due', { name: 'swelling of the bag' }), check('burp', 'due')],
        }),
      ]),
    );
    expect(page.button('All quiet')).toBeUndefined();
    await page.press('3');
    await page.press('no gas');
    expect(
      api.sent.map(([entry]) => [
        (entry!.body as { figure?: number }).figure,
        (entry!.body as { quiet: boolean }).quiet,
      ]),
    ).toEqual([
      [3, false],
      [null as never, true],
    ]);
  });
  it('says when a temperature wants something done, and where a check has its own page', async () => {
    const { page } = await open(
      floor([
        vessel('D1', {
          temperature: { verdict: 'act', words: 'above 32 °C for 14 h: cool it, read its pH' },
          checks: [check('salt', 'due'), check('move', 'due'), check('photo', 'due')],
        }),
      ]),
    );
    expect(page.text()).toContain('Act: above 32 °C for 14 h');
    expect(
      [...page.element.querySelectorAll('a.button')]
        .map((link) => link.getAttribute('href'))
        .filter((href) => href?.includes('do=')),
    ).toEqual(['/lots/NY26-300-A-D1?do=measure', '/lots/NY26-300-A-D1?do=move']);
    expect(page.button('Keep it').disabled).toBeTrue();
  });
  it('one thermometer serves the room', async () => {
    const { page } = await open(
      floor([
        vessel('D1', { checks: [check('temperature', 'due')] }),
        vessel('D2', { checks: [check('temperature', 'late')] }),
      ]),
    );
    await page.type('Temperature of Net loft', '66.2 °F');
    await page.press('Record 19.0 °C');
    expect(api.sent[0]!.map(({ kind, body }) => [kind, (body as { celsius: number }).celsius])).toEqual([
      ['temperature.read', 19],
      ['temperature.read', 19],
    ]);
  });
  it('a reading names the meter in hand', async () => {
    const { page } = await open(floor([vessel('D1', { checks: [check('ph', 'due')] })]));
    await page.type('pH', '3.68');
    expect(page.text()).toContain('fit for release until');
    await page.press('Record pH 3.68');
    expect(api.sent[0]![0]!.body).toEqual(
      jasmine.objectContaining({ ph: 3.68, sample: 'blended', meterId: METER.meters[0]!.meterId }),
    );
  });
  it('a figure off the trend is asked about, and taken to the sister it fits', async () => {
    const { page, settle } = await open(floor([vessel('D1', { checks: [check('ph', 'due')] }), vessel('D2')]));
    api.refusal = {
      type: '',
      title: '',
      status: 422,
      code: 'ph.jump',
      detail: 'pH 4.40 was given; 3.30 to 4.10 was expected.',
      field: 'ph',
      facts: { fits: ['D2'] },
    };
    await page.type('pH', '4.40');
    await page.press('Record pH 4.4');
    expect(page.text()).toContain('3.30 to 4.10 was expected');
    await page.press('It was D2');
    await settle();
    expect(page.element.querySelector('li.now')!.textContent).toContain('D2');
    expect(page.field('pH').value).toBe('4.40');
    api.refusal = null;
    await page.press('Record pH 4.4');
    expect((api.sent[0]![0]!.body as { confirmedJump?: boolean }).confirmedJump).toBeUndefined();
  });
  it('what stays off the trend is recorded all the same', async () => {
    const { page } = await open(floor([vessel('D1', { checks: [check('ph', 'due')] })]));
    api.refusal = {
      type: '',
      title: '',
      status: 422,
      code: 'ph.jump',
      detail: 'off',
      field: 'ph',
      facts: { fits: [] },
    };
    await page.type('pH', '4.40');
    await page.press('Record pH 4.4');
    api.refusal = null;
    await page.press('It stays so: record 4.40');
    expect((api.sent[0]![0]!.body as { confirmedJump?: boolean }).confirmedJump).toBeTrue();
  });
  it('a scanned label brings its vessel into hand', async () => {
    const { page, settle } = await open(two());
    expect(TestBed.inject(Scans).offer('ny26-300-a-d2')).toBeTrue();
    await settle();
    expect(page.element.querySelector('li.now')!.textContent).toContain('D2');
    expect(page.text()).toContain('On hold: pink top');
    expect(TestBed.inject(Scans).offer('SOMETHING ELSE')).toBeFalse();
  });
  it('goes on to the next vessel', async () => {
    const { page } = await open(two());
    await page.press('Next vessel');
    expect(page.element.querySelector('li.now')!.textContent).toContain('D2');
  });
  it('says when the round is done, and when nothing stands there', async () => {
    expect((await open(floor([vessel('D1')]))).page.text()).toContain('The round is done.');
    TestBed.resetTestingModule();
    expect((await open(floor([]))).page.text()).toContain('No vessel is filled');
  });
  it('offers an inspector nothing to record', async () => {
    const { page } = await open(two(), INSPECTOR);
    expect(page.button('All quiet')).toBeUndefined();
    expect(page.button('Next vessel')).toBeUndefined();
  });
  it('draws two hundred vessels smaller', async () => {
    const { page } = await open(floor(Array.from({ length: 200 }, (_, index) => vessel(`Z${index}`))));
    expect(page.element.querySelectorAll('.shelves .room li').length).toBe(200);
  });
});

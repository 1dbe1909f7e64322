import { TestBed } from '@angular/core/testing';
import type { ComplaintsReply, RecallAheadReply, RecallReply, RecallsReply } from '@clear-tally/contract';
import { FakeApi, inHouse, INES, ODILE, within } from '../../state/testing';
import { Complaints } from './complaints';
import { Recall } from './recall';
import { Recalls } from './recalls';
import { jarsAStroke } from './strokes';

const LOT = '11111111-1111-4111-8111-111111111111';
const SHOP = '22222222-2222-4222-8222-222222222222';
const place = (more: Partial<RecallReply['places'][number]>): RecallReply['places'][number] => ({
  key: 'packed',
  kind: 'house',
  name: 'In the house, where it was packed',
  jars: 16,
  accounted: 16,
  open: 0,
  unanswered: 0,
  stretches: [
    {
      run: 'NY26-280-A-01',
      name: 'Baby turnips',
      sizeMl: 330,
      first: 'NY26-280-A-01-00001-T',
      last: 'NY26-280-A-01-00016-K',
      count: 16,
    },
  ],
  contact: null,
  address: null,
  notice: null,
  answers: [],
  ...more,
});
const ahead: RecallAheadReply = {
  subject: {
    lotId: LOT,
    code: 'LM-0002',
    kind: 'supply',
    name: 'Black pepper',
    supplier: 'Low Mill',
    supplierLotCode: 'P/0311',
  },
  lots: [],
  places: [
    place({}),
    place({
      key: SHOP,
      kind: 'customer',
      name: 'A grocer',
      jars: 5,
      accounted: 0,
      open: 5,
      unanswered: 5,
      contact: 'shop@grocer.example',
    }),
  ],
  jars: 21,
  runs: 1,
  customers: 1,
  already: null,
  milliseconds: 4,
};
const list: RecallsReply = {
  recalls: [],
  drillDue: '2026-12-20T09:00:00.000Z',
  drillLate: false,
  supplies: [{ lotId: LOT, code: 'LM-0002', name: 'Black pepper', supplier: 'Low Mill', theirs: 'P/0311' }],
};
const recall: RecallReply = {
  ...ahead,
  recallId: '33333333-3333-4333-8333-333333333333',
  code: 'R26-01',
  drill: false,
  scope: 'descendants',
  carryOver: false,
  reason: 'metal in it',
  source: null,
  heardAt: '2026-11-26T09:00:00.000Z',
  openedAt: '2026-11-26T09:04:00.000Z',
  by: 'TR',
  accounted: 16,
  open: 5,
  closed: null,
};

describe('a recall', () => {
  const start = async () => {
    TestBed.resetTestingModule();
    const api = new FakeApi({
      '/api/recalls': list,
      '/api/recall-ahead?code=LM-0002&scope=descendants&carryOver=no': ahead,
      '/api/recall-ahead?code=LM-0002&scope=shared&carryOver=no': { ...ahead, jars: 99 },
    });
    inHouse(api, {}, INES);
    const fixture = TestBed.createComponent(Recalls);
    await fixture.whenStable();
    await fixture.whenStable();
    return { ...within(fixture), api };
  };
  const open = async (of: RecallReply = recall, person: typeof INES | typeof ODILE = ODILE) => {
    TestBed.resetTestingModule();
    const api = new FakeApi({ '/api/recalls/R26-01': of });
    inHouse(api, {}, person);
    const fixture = TestBed.createComponent(Recall);
    fixture.componentRef.setInput('code', 'R26-01');
    await fixture.whenStable();
    await fixture.whenStable();
    return { ...within(fixture), api };
  };

  it('shows every jar by where it is before anything is held; the drill asks for no more than the recall', async () => {
    const page = await start();
    expect(page.text()).toContain('The next drill is due on');
    await page.type('Or a code: jar, run, vessel, batch', 'LM-0002');
    await page.settle();
    expect(page.text()).toContain('A grocer');
    expect(page.text()).toContain('0 of 5');
    expect(page.button('Hold all of it').textContent).toContain('missing: why');
    await page.type('Why, in a sentence', 'metal in it');
    await page.type('Word came at', '9 o’clock');
    expect(page.button('Hold all of it').textContent).toContain('the time word came');
    await page.type('Word came at', '00:01');
    await page.press('Hold all of it');
    const body = page.api.sent.at(-1)![0]!.body as Record<string, unknown>;
    expect(body).toEqual(
      jasmine.objectContaining({
        lotId: LOT,
        scope: 'descendants',
        carryOver: false,
        drill: false,
        reason: 'metal in it',
      }),
    );
    expect(Date.parse(String(body['heardAt']))).toBeLessThan(Date.now());
  });
  it('how far it goes is asked anew at once', async () => {
    const page = await start();
    await page.type('Or a code: jar, run, vessel, batch', 'LM-0002');
    await page.select('How far', 'shared');
    await page.settle();
    expect(page.text()).toContain('99jars of 1 run');
  });
  it('word is sent with the notice as it stands there; an answer is counted; neither for jars in the house', async () => {
    const page = await open();
    await page.press('In the house, where it was packed');
    expect(page.text()).not.toContain('Notice');
    await page.press('A grocer');
    expect(page.field('Notice').value).toContain('We recall Baby turnips. Reason: metal in it');
    await page.press('Word is sent');
    expect(page.api.sent.at(-1)![0]!.body).toEqual(
      jasmine.objectContaining({
        customerIds: [SHOP],
        how: 'mail',
        words: jasmine.stringContaining('By our records you had 5 jars'),
      }),
    );
    expect(page.text()).toContain('5 used or eaten');
    await page.type('Jars, of 5 without an answer', '3');
    await page.press('3 used or eaten');
    expect(page.api.sent.at(-1)![0]!.body).toEqual(
      jasmine.objectContaining({ place: SHOP, count: 3, answer: 'used', note: null }),
    );
  });
  it('is closed by an owner, with a word on what is open', async () => {
    const page = await open();
    await page.type('What came of it', 'all called');
    expect(page.button('Close R26-01').textContent).toContain('a word on those that are open');
    await page.type('What became of the 5 that are open', 'sold on at a fair');
    await page.press('Close R26-01');
    expect(page.api.sent.at(-1)![0]!.body).toEqual(
      jasmine.objectContaining({ outcome: 'all called', restReason: 'sold on at a fair' }),
    );
    expect((await open(recall, INES)).text()).toContain('An owner of the house closes it.');
  });
  it('a row of strokes stays short, however many jars', () =>
    expect([1, 60, 61, 216, 100_000].map(jarsAStroke)).toEqual([1, 1, 2, 6, 6000]));
});

describe('complaints', () => {
  const complaint: ComplaintsReply['complaints'][number] = {
    complaintId: '44444444-4444-4444-8444-444444444444',
    code: 'K26-0001',
    at: '2026-11-20T09:00:00.000Z',
    by: 'IC',
    run: 'NY26-280-A-01',
    runLotId: LOT,
    name: 'Baby turnips',
    jar: 'NY26-280-A-01-00016-K',
    what: 'smellTaste',
    words: 'bitter',
    photo: null,
    held: false,
    noHoldReason: null,
    runHeld: false,
    contact: null,
    closed: null,
  };
  const open = async (complaints: ComplaintsReply['complaints'] = [complaint]) => {
    TestBed.resetTestingModule();
    const api = new FakeApi({
      '/api/complaints': { complaints, again: [] },
      '/api/runs/NY26-280-A-01': {
        run: { lotId: LOT, name: 'Baby turnips', packedAt: '2026-10-07T09:00:00.000Z', jars: 37 },
      },
    });
    inHouse(api, {}, INES);
    const fixture = TestBed.createComponent(Complaints);
    await fixture.whenStable();
    await fixture.whenStable();
    return { ...within(fixture), api };
  };
  it('on the code of a jar; a wrong check character is said while it is typed', async () => {
    const page = await open([]);
    await page.type('Code of the jar, or of its run', 'NY26-280-A-01-00016-X');
    expect(page.text()).toContain('check character');
    await page.type('Code of the jar, or of its run', 'NY26-280-A-01');
    await page.settle();
    expect(page.text()).toContain('37 jars');
    await page.select('What it is', 'smellTaste');
    await page.type('In their words', 'bitter');
    await page.press('Write it down');
    expect(page.api.sent.at(-1)![0]!.body).toEqual(
      jasmine.objectContaining({ runLotId: LOT, serial: null, what: 'smellTaste', hold: false, noHoldReason: null }),
    );
  });
  it('what can hurt somebody holds its run without being asked', async () => {
    const page = await open([]);
    await page.type('Code of the jar, or of its run', 'NY26-280-A-01');
    await page.settle();
    await page.select('What it is', 'illness');
    await page.type('In their words', 'sick the day after');
    expect(page.text()).toContain('its run is held with it');
    expect(page.text()).toContain('Tell your food authority');
    await page.press('Write it down');
    expect(page.api.sent.at(-1)![0]!.body).toEqual(jasmine.objectContaining({ hold: true, noHoldReason: null }));
  });
  it('its siblings are held with one press, and it ends with what came of it', async () => {
    const page = await open();
    await page.press('K26-0001');
    await page.press('Hold NY26-280-A-01');
    expect(page.api.sent.at(-1)![0]).toEqual(
      jasmine.objectContaining({ kind: 'hold.place', body: jasmine.objectContaining({ lotId: LOT }) }),
    );
    expect(page.button('Close K26-0001').textContent).toContain('whose it was');
    await page.select('It was', 'notKnown');
    await page.type('In words', 'nothing found');
    await page.press('Close K26-0001');
    expect(page.api.sent.at(-1)![0]!.body).toEqual(jasmine.objectContaining({ outcome: 'notKnown' }));
  });
});

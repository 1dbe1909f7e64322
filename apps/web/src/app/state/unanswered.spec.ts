import type { Entry } from '@clear-tally/contract';
import { isMade, known, newId } from './made';
import { answered, keepUnanswered, saying, unansweredOf } from './unanswered';

const entry = (body: object, id = newId()): Entry =>
  ({ id, kind: 'ph.read', happenedAt: '2026-11-26T08:00:00Z', by: 'p', device: 'd', body }) as unknown as Entry;
const LOT = '0193a8f0-0000-7000-8000-000000000001';
const OTHER = '0193a8f0-0000-7000-8000-000000000002';

describe('what was sent and never answered', () => {
  beforeEach(() => localStorage.removeItem('ct.unanswered'));
  const mine = (entries: readonly Entry[], person = 'p') => ({
    person,
    form: 'reading',
    says: saying(entries, isMade),
  });
  const sendUnheard = (entries: readonly Entry[], at = Date.now()): void =>
    keepUnanswered({ ...mine(entries), entries, at });

  it('is the same entry when it is pressed again, whatever ids the page makes then', () => {
    const first = [entry({ lotId: LOT, ph: 3.9, runLotId: newId() })];
    sendUnheard(first);
    const again = [entry({ lotId: LOT, ph: 3.9, runLotId: newId() })];
    expect(unansweredOf(mine(again))!.entries).toEqual(first);
  });
  it('is another for another figure, vessel, person, and once it is answered', () => {
    const first = [entry({ lotId: LOT, ph: 3.9 })];
    sendUnheard(first);
    expect(unansweredOf(mine([entry({ lotId: LOT, ph: 3.8 })]))).toBeNull();
    expect(unansweredOf(mine([entry({ lotId: OTHER, ph: 3.9 })]))).toBeNull();
    expect(unansweredOf(mine(first, 'q'))).toBeNull();
    answered(first);
    expect(unansweredOf(mine(first))).toBeNull();
  });
  it('a vessel that this tablet made is itself, once it stands in the book: another one is another', () => {
    const [a, b] = [newId(), newId()];
    known([entry({ fillLotId: a }), entry({ fillLotId: b })]);
    sendUnheard([entry({ lotId: a, ph: 3.9 })]);
    expect(unansweredOf(mine([entry({ lotId: b, ph: 3.9 })]))).toBeNull();
    expect(unansweredOf(mine([entry({ lotId: a, ph: 3.9 })]))).not.toBeNull();
  });
  it('an hour later the same words are another event', () => {
    const first = [entry({ lotId: LOT, ph: 3.9 })];
    sendUnheard(first, Date.now() - 3_600_000);
    expect(unansweredOf(mine(first))).toBeNull();
  });
  it('a storage full of something else stops nobody', () => {
    localStorage.setItem('ct.unanswered', 'not even JSON');
    const first = [entry({ lotId: LOT, ph: 3.9 })];
    expect(unansweredOf(mine(first))).toBeNull();
    sendUnheard(first);
    expect(unansweredOf(mine(first))).not.toBeNull();
  });
});

import fc from 'fast-check';
import { decideCount, deliveryColumns, firstToUse, keeping, readDeliveryRows, SUPPLY_STATES } from '../src/index.js';

describe('how long a supply keeps', () => {
  const today = '2026-11-23';
  it('the earlier of the supplier’s date and the house’s own counts', () => {
    expect(keeping({ today, useBy: '2026-12-20', keepsUntil: '2026-11-25', state: 'opened' })).toEqual({
      until: '2026-11-25',
      verdict: 'soon',
      days: 2,
    });
    expect(keeping({ today, useBy: '2026-12-20', keepsUntil: null, state: 'asReceived' }).verdict).toBe('keeps');
    expect(keeping({ today, useBy: '2026-11-22', keepsUntil: null, state: 'asReceived' })).toEqual({
      until: '2026-11-22',
      verdict: 'past',
      days: -1,
    });
    expect(keeping({ today, useBy: null, keepsUntil: null, state: 'opened' }).verdict).toBe('noDate');
  });
  it('frozen and dried stock keeps by its own date: the supplier’s was for the fresh goods', () => {
    expect(keeping({ today, useBy: '2026-11-20', keepsUntil: '2027-05-01', state: 'frozen' }).verdict).toBe('keeps');
    expect(keeping({ today, useBy: '2026-11-20', keepsUntil: null, state: 'dried' }).verdict).toBe('noDate');
    expect(keeping({ today, useBy: '2026-11-20', keepsUntil: null, state: 'thawed' }).verdict).toBe('past');
  });
  it('on its last day it still keeps', () =>
    expect(keeping({ today, useBy: today, keepsUntil: null, state: 'asReceived' })).toEqual({
      until: today,
      verdict: 'soon',
      days: 0,
    }));
  it('refuses a date that is none', () =>
    expect(() => keeping({ today, useBy: 'soon', keepsUntil: null, state: 'opened' })).toThrowError(RangeError));
  it('law: first to expire first, whatever the order', () => {
    const lot = fc.record({
      until: fc.option(
        fc.integer({ min: 1, max: 28 }).map((day) => `2026-12-${String(day).padStart(2, '0')}`),
        { nil: null },
      ),
      receivedAt: fc.integer({ min: 1, max: 9 }).map((day) => `2026-11-0${day}`),
    });
    fc.assert(
      fc.property(fc.array(lot), (lots) => {
        const sorted = firstToUse(lots);
        expect(sorted.length).toBe(lots.length);
        sorted
          .slice(1)
          .forEach((one, index) => expect((sorted[index]!.until ?? '9999') <= (one.until ?? '9999')).toBeTrue());
      }),
    );
  });
  it('every state is one of the trade’s', () => expect(SUPPLY_STATES).toContain('thawed'));
});

describe('a count of the stock', () => {
  const count = (countedGrams: number, reason: string | null = null) =>
    decideCount({ code: 'CG-0001', expectedGrams: 10_000, countedGrams, reason });
  it('within 0.5 % the ledger is put right without a reason', () => {
    expect(count(9960)).toEqual({ ok: true, value: { differenceGrams: -40 } });
    expect(count(10_050)).toEqual({ ok: true, value: { differenceGrams: 50 } });
  });
  it('beyond it the difference wants a reason', () => {
    const outcome = count(9000);
    expect(!outcome.ok && outcome.refusal.message).toContain('1,000 g missing');
    expect(count(9000, 'two crates went to the market').ok).toBeTrue();
  });
  it('nothing counts less than nothing', () => {
    expect(count(-1).ok).toBeFalse();
    expect(count(Number.NaN).ok).toBeFalse();
    expect(count(0, 'all used').ok).toBeTrue();
  });
});

describe('a delivery list', () => {
  const head = ['Product', 'Grower', 'Lot', 'Quantity', 'Unit', 'Price', 'Best before', 'Notes'];
  const read = (rows: string[][], of = head) =>
    readDeliveryRows({
      head: of,
      rows,
      isMaterial: (name) => ['kohlrabi', 'swede'].includes(name.toLowerCase()),
      isSupplier: (name) => name === 'Causeway Growers',
    });
  const good = ['Kohlrabi', 'Causeway Growers', 'F2-1', '12,5', 'kg', '€ 20.00', '2026-11-30', 'firm'];
  it('finds its columns by the names suppliers give them', () =>
    expect(deliveryColumns(head)).toEqual({
      material: 0,
      supplier: 1,
      lot: 2,
      quantity: 3,
      unit: 4,
      cost: 5,
      useBy: 6,
      condition: 7,
    }));
  it('reads a sound row', () =>
    expect(read([good])[0]).toEqual({
      row: 2,
      material: 'Kohlrabi',
      supplier: 'Causeway Growers',
      lot: 'F2-1',
      grams: 12_500,
      cost: 20,
      useBy: '2026-11-30',
      condition: 'firm',
      door: {},
      errors: [],
    }));
  it('each row at fault says why, and does not take the others with it', () => {
    const rows = read([
      good,
      ['Beets', 'Somebody', '', 'lots', 'kg', 'cheap', '03/04/2026', ''],
      ['Swede', 'Causeway Growers', 'F3', '-2', 'kg', '', '', ''],
    ]);
    expect(rows.map(({ errors }) => errors.length)).toEqual([0, 6, 1]);
    expect(rows[1]!.errors.join(' ')).toContain('“03/04/2026” is not a date read here');
    expect(rows[2]!.errors[0]).toContain('more than zero');
  });
  it('a figure without a unit is asked about, unless its column is headed kg', () => {
    expect(read([['Kohlrabi', 'Causeway Growers', 'F2', '12', '', '', '', '']])[0]!.errors[0]).toContain('has no unit');
    expect(read([['Kohlrabi', 'Causeway Growers', 'F2', '12']], ['material', 'supplier', 'lot', 'kg'])[0]).toEqual(
      jasmine.objectContaining({ grams: 12_000, errors: [] }),
    );
  });
  it('an ambiguous 1,500 is not guessed', () =>
    expect(read([[...good.slice(0, 3), '1,500', 'g', '', '', '']])[0]!.errors[0]).toContain('could be 1.500 or 1500'));
  it('the same row twice is said', () => expect(read([good, good])[1]!.errors).toEqual(['The same as row 2.']));
  it('a dotted date is one day, an impossible one none', () => {
    expect(read([[...good.slice(0, 6), '5.12.2026', '']])[0]!.useBy).toBe('2026-12-05');
    expect(read([[...good.slice(0, 6), '31.02.2026', '']])[0]!.useBy).toBeNull();
  });
  it('a year of two figures, a speck, half a character: of this row alone', () => {
    const rows = read([
      [...good.slice(0, 6), '0026-11-30', ''],
      ['Kohlrabi', 'Causeway Growers', 'F4', '0,0001', 'g', '', '', ''],
      [...good.slice(0, 2), 'F5', ...good.slice(3, 7), 'firm \ud83e'],
      [...good.slice(0, 2), 'F6', ...good.slice(3)],
    ]);
    expect(rows.map(({ errors }) => errors.length)).toEqual([1, 1, 1, 0]);
    expect(rows[0]!.errors[0]).toContain('four figures');
    expect(rows[1]!.errors[0]).toContain('Less than a milligram');
    expect(rows[2]!.errors[0]).toContain('half a character');
  });
  it('law: whatever is in the cells, every row comes back', () => {
    fc.assert(
      fc.property(fc.array(fc.array(fc.string(), { maxLength: 9 }), { maxLength: 8 }), (rows) =>
        expect(read(rows).length).toBe(rows.length),
      ),
    );
  });
});

import fc from 'fast-check';
import { batchCode, checkCharacter, fillCode, jarCode, readJarCode, runCode, supplyCode } from '../src/index.js';

describe('W10: codes', () => {
  for (const [payload, check] of [
    ['NY26327A0100147', 'K'],
    ['NY26327B0200096', 'N'],
    ['NY26004C0105000', 'C'],
    ['A12425GABC1234002', 'M'],
  ] as const) {
    it(`${payload} has check character ${check}`, () => expect(checkCharacter(payload)).toBe(check));
  }
  it('a jar of a run', () => expect(jarCode('NY26-327-A-01', 147).text).toBe('NY26-327-A-01-00147-K'));
  it('“ny26 327a 01 o0147 k” is understood', () => {
    const read = readJarCode('ny26 327a 01 o0147 k');
    expect(read?.ok && read.value.text).toBe('NY26-327-A-01-00147-K');
  });
  it('K replaced by L is refused with near matches', () => {
    const read = readJarCode('NY26-327-A-01-00147-L');
    expect(read && !read.ok && read.refusal.code).toBe('code.checkCharacter');
    expect(read && !read.ok && read.refusal.facts!['nearMatches']).toContain('NY26-327-A-01-00147-K');
  });
  it('what has not the shape of a jar code is not one', () => {
    expect(readJarCode('NY26-327-A')).toBeNull();
    expect(readJarCode('SP-0871')).toBeNull();
    expect(readJarCode('NY26-327-A-01-00000-A')).toBeNull();
  });
});

describe('laws of the check character', () => {
  const jar = fc
    .tuple(
      fc.integer({ min: 0, max: 99 }),
      fc.integer({ min: 1, max: 366 }),
      fc.integer({ min: 0, max: 25 }),
      fc.integer({ min: 1, max: 99 }),
      fc.integer({ min: 1, max: 99_999 }),
    )
    .map(([year, dayOfYear, run, pack, serial]) =>
      jarCode(runCode(batchCode({ site: 'NY', year: 2000 + year, dayOfYear, run }), pack), serial),
    );
  it('reads what it writes, with and without separators, in any case', () => {
    fc.assert(
      fc.property(jar, (code) => {
        for (const typed of [
          code.text,
          code.text.toLowerCase(),
          code.text.replaceAll('-', ''),
          code.text.replaceAll('-', ' '),
        ]) {
          const read = readJarCode(typed);
          expect(read?.ok && read.value.text).toBe(code.text);
        }
      }),
    );
  });
  // 0/O and 1/I are tried both ways at the check, so that a code whose check is one of them is a little weaker.
  it('finds every single wrong digit and offers the right code, unless the check is 0, O, 1 or I', () => {
    fc.assert(
      fc.property(jar, fc.integer({ min: 0, max: 14 }), fc.integer({ min: 1, max: 9 }), (code, place, shift) => {
        const squeezed = code.text.replaceAll('-', '');
        if (!/\d/.test(squeezed[place]!)) return;
        const wrong =
          squeezed.slice(0, place) + String((Number(squeezed[place]) + shift) % 10) + squeezed.slice(place + 1);
        const read = readJarCode(wrong);
        if (read === null || '0O1I'.includes(code.check)) return;
        expect(read.ok).toBeFalse();
        if (!read.ok) expect(read.refusal.facts!['nearMatches']).toContain(code.text);
      }),
    );
  });
});

describe('codes of lots', () => {
  it('batch, fill, run, supply', () => {
    expect(batchCode({ site: 'NY', year: 2026, dayOfYear: 7, run: 2 })).toBe('NY26-007-C');
    expect(fillCode('NY26-327-A', 'C2')).toBe('NY26-327-A-C2');
    expect(runCode('NY26-327-A', 3)).toBe('NY26-327-A-03');
    expect(supplyCode('SP', 871)).toBe('SP-0871');
  });
  it('ends after 26 batches a day and 99 runs a batch', () => {
    expect(() => batchCode({ site: 'NY', year: 2026, dayOfYear: 1, run: 26 })).toThrowError(RangeError);
    expect(() => runCode('NY26-001-A', 100)).toThrowError(RangeError);
  });
});

import { isBurst, ScannerBurst } from './scanner-burst';

const typed = (text: string, every: number): string | null => {
  const burst = new ScannerBurst();
  let at = 1000;
  for (const key of text) burst.key(key, (at += every));
  return burst.key('Enter', at + every);
};

describe('a scanner’s burst', () => {
  it('is recognised by its speed', () => expect(typed('NY26327A0100147K', 8)).toBe('NY26327A0100147K'));
  it('a person’s typing is not one', () => expect(typed('NY26327A', 170)).not.toBe('NY26327A'));
  it('keys before it do not belong to it', () => {
    const burst = new ScannerBurst();
    burst.key('x', 0);
    [...'SP-0871'].forEach((key, i) => burst.key(key, 900 + i * 5));
    expect(burst.key('Enter', 940)).toBe('SP-0871');
  });
  it('a few fast keys are no code', () => expect(isBurst('abc')).toBeFalse());
});

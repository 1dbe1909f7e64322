/** Logarithms of factorials, kept as far as they were asked for. */
const logs: number[] = [0, 0];
function logFactorial(n: number): number {
  for (let i = logs.length; i <= n; i += 1) logs.push(logs[i - 1]! + Math.log(i));
  return logs[n]!;
}
const logChoose = (n: number, k: number): number => logFactorial(n) - logFactorial(k) - logFactorial(n - k);

/**
 * Fisher's exact test, one-sided: how likely it is by chance alone that at least so many of the bad have a thing, when
 * so many of all have it. Counts; a probability from 0 to 1.
 * @example fisher({ badWith: 3, bad: 3, goodWith: 0, good: 7 }) //=> 1 / 120
 * @throws {RangeError} counts that cannot be
 */
export function fisher(of: { badWith: number; bad: number; goodWith: number; good: number }): number {
  const { badWith, bad, goodWith, good } = of;
  if (badWith < 0 || goodWith < 0 || badWith > bad || goodWith > good)
    throw new RangeError(`${badWith} of ${bad} and ${goodWith} of ${good} are no counts`);
  const all = bad + good;
  const having = badWith + goodWith;
  const whole = logChoose(all, having);
  let sum = 0;
  for (let k = badWith; k <= Math.min(bad, having); k += 1)
    if (having - k <= good) sum += Math.exp(logChoose(bad, k) + logChoose(good, having - k) - whole);
  return Math.min(1, sum);
}

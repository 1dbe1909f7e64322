import type { AskedBatch } from './asked.js';

/** "96 jars of 330 mL and 24 of 720 mL", or the mass it starts from. */
export function aimWords({ target, query, scaled }: AskedBatch): string {
  if (query.aim) return query.aim;
  if (target.from === 'jars') return target.jars.map((jar) => `${jar.count} jars of ${jar.sizeMl} mL`).join(' and ');
  return `${(scaled.produceGrams / 1000).toFixed(2)} kg trimmed`;
}

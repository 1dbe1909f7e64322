import { z } from 'zod';
import { unlike } from '../src/index.js';

/** What people are told, written from what was sent; no word of a library, no name of code. */
describe('what stands against a schema, in words', () => {
  const shape = z.strictObject({
    entries: z.array(
      z.strictObject({
        body: z.strictObject({
          grams: z.number().positive().max(9_000),
          reason: z.string().min(1).max(5),
          lotId: z.uuid(),
          verdict: z.enum(['keep', 'watch']),
          parts: z.array(z.strictObject({ grams: z.number() })).min(1),
          own: z.string().regex(/^x/, 'begins with an x'),
        }),
      }),
    ),
  });
  const good = {
    grams: 12,
    reason: 'thin',
    lotId: '0193a8f0-0000-7000-8000-000000000001',
    verdict: 'keep',
    parts: [{ grams: 1 }],
    own: 'x',
  };
  const table: [string, object, string, string][] = [
    ['a figure too small', { grams: -3 }, 'Mass: -3 was given; more than 0 is accepted.', 'grams'],
    ['a figure too large', { grams: 9_001 }, 'Mass: 9001 was given; at most 9000 is accepted.', 'grams'],
    ['words for a figure', { grams: 'much' }, 'Mass: “much” was given; a figure is accepted.', 'grams'],
    ['nothing', { grams: undefined }, 'Mass: it is missing.', 'grams'],
    ['empty words', { reason: '' }, 'Reason: nothing was given; some words are needed.', 'reason'],
    ['long words', { reason: 'thinned' }, 'Reason: “thinned” was given; at most 5 letters are accepted.', 'reason'],
    [
      'no id',
      { lotId: 'K7' },
      'Lot: “K7” was given; nothing in this house is called so. Open it from its page, or scan its code.',
      'lotId',
    ],
    [
      'none of the list',
      { verdict: 'hm' },
      'Verdict: “hm” was given; one of these is accepted: keep, watch.',
      'verdict',
    ],
    ['no line', { parts: [] }, 'Parts: [] was given; at least 1 line is accepted.', 'parts'],
    ['a line of a list', { parts: [{ grams: 1 }, {}] }, 'Parts 2, mass: it is missing.', 'parts.1.grams'],
    ['something unknown', { extra: 1 }, '“extra” is not known here.', ''],
    ['words of its own', { own: 'y' }, 'Own: begins with an x.', 'own'],
  ];
  for (const [what, wrong, detail, field] of table)
    it(what, () => {
      const read = shape.safeParse({ entries: [{ body: { ...good, ...wrong } }] });
      const said = unlike(read.error!);
      expect(said.detail).toBe(detail);
      expect(said.field ?? '').toBe(field);
      expect(said.entry).toBe(0);
    });
  it('long things are cut by code point', () => {
    const read = z.uuid().safeParse('🥒'.repeat(60));
    expect(unlike(read.error!).detail).toContain(`“${'🥒'.repeat(40)}…”`);
  });
});

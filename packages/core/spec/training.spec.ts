import { decideTrained, type Training, trainingOn } from '../src/index.js';

/** Written from the rule: a training counts on its first and its last day; one without an end goes on. */
const HISTORY: readonly Training[] = [
  { task: 'salting', on: '2025-03-01', until: '2026-02-28' },
  { task: 'salting', on: '2026-06-10', until: '2026-12-31' },
  { task: 'cleaning', on: '2026-01-05', until: null },
];

describe('a training', () => {
  const TABLE: readonly (readonly [string, Training['task'], string, string | null])[] = [
    ['2025-02-28', 'salting', 'never', null],
    ['2025-03-01', 'salting', 'trained', '2026-02-28'],
    ['2026-02-28', 'salting', 'trained', '2026-02-28'],
    ['2026-03-01', 'salting', 'ended', '2026-02-28'],
    ['2026-06-09', 'salting', 'ended', '2026-02-28'],
    ['2026-06-10', 'salting', 'trained', '2026-12-31'],
    ['2027-01-01', 'salting', 'ended', '2026-12-31'],
    ['2026-01-04', 'cleaning', 'never', null],
    ['2031-01-01', 'cleaning', 'trained', null],
    ['2026-11-27', 'heating', 'never', null],
  ];
  for (const [day, task, state, until] of TABLE)
    it(`${task} on ${day}: ${state}`, () => {
      expect(trainingOn(HISTORY, task, day)).toEqual({ state, until } as ReturnType<typeof trainingOn>);
    });

  it('missing or over is refused with who can go on; nothing is lost', () => {
    const asked = { name: 'Ines', task: 'salting' as const, words: (day: string) => `<${day}>` };
    expect(decideTrained({ ...asked, trainings: HISTORY, day: '2026-07-01' }).ok).toBeTrue();
    const over = decideTrained({ ...asked, trainings: HISTORY, day: '2026-04-01' });
    const never = decideTrained({ ...asked, trainings: [], day: '2026-04-01' });
    expect(over.ok || over.refusal.message).toContain('“Salt and brine” ended on <2026-02-28>');
    expect(never.ok || never.refusal.message).toContain('is not on record');
    expect(never.ok || never.refusal.message).toContain('What was typed stays');
  });
});

import {
  type AtDoor,
  decideAtDoor,
  type DoorAsk,
  doorMissing,
  doorWords,
  readDeliveryRows,
  stateAtDoor,
} from '../src/index.js';

describe('what is seen when goods come in', () => {
  const all: readonly DoorAsk[] = ['variety', 'state', 'celsius'];
  const missing: readonly (readonly [AtDoor | null, readonly DoorAsk[]])[] = [
    [null, all],
    [{}, all],
    [{ variety: '' }, all],
    [{ variety: 'Stone Head', state: 'fresh' }, ['celsius']],
    // Nought degrees is a temperature.
    [{ variety: 'Stone Head', state: 'frozen', celsius: 0 }, []],
  ];
  for (const [door, wanted] of missing)
    it(`${JSON.stringify(door)} leaves open: ${wanted.join(', ') || 'nothing'}`, () =>
      expect(doorMissing(all, door)).toEqual(wanted));

  it('is refused with what is missing, in words; what is not asked for may be left out', () => {
    const refused = decideAtDoor({ what: 'White cabbage', asks: all, door: { variety: 'Stone Head' }, field: 'door' });
    expect(refused.ok ? '' : refused.refusal.message).toContain('fresh, frozen or dried and its temperature');
    expect(refused.ok ? '' : refused.refusal.field).toBe('door.state');
    expect(decideAtDoor({ what: 'Salt', asks: [], door: null, field: 'door' }).ok).toBeTrue();
  });
  it('frozen and dried goods are so in the store; fresh ones are as received', () => {
    expect(stateAtDoor({ state: 'frozen' })).toBe('frozen');
    expect(stateAtDoor({ state: 'dried' })).toBe('dried');
    expect([stateAtDoor({ state: 'fresh' }), stateAtDoor({}), stateAtDoor(null)]).toEqual([
      'asReceived',
      'asReceived',
      'asReceived',
    ]);
  });
  it('in words, as many as were said', () => {
    expect(doorWords({ variety: 'Stone Head', state: 'fresh', celsius: 6.5 })).toBe(
      'Stone Head, fresh, 6.5 °C at the door',
    );
    expect(doorWords({ state: 'frozen', celsius: -18 })).toBe('frozen, −18 °C at the door');
    expect([doorWords({}), doorWords(null)]).toEqual(['', '']);
  });
  it('a list has columns for it; what a material asks for and the list has not is named in its row', () => {
    const read = (head: string[], row: string[], asks: readonly DoorAsk[]) =>
      readDeliveryRows({
        head: ['material', 'supplier', 'lot', 'kg', ...head],
        rows: [['Kohlrabi', 'Causeway', 'F1', '12', ...row]],
        isMaterial: () => true,
        isSupplier: () => true,
        asksOf: () => asks,
      })[0]!;
    const full = read(['Variety', 'state', 'Temperature'], ['Superschmelz', 'Fresh', '6.5 °C'], all);
    expect([full.door, full.errors]).toEqual([{ variety: 'Superschmelz', state: 'fresh', celsius: 6.5 }, []]);
    expect(read(['temp'], ['−18 C'], ['celsius']).door).toEqual({ celsius: -18 });
    expect(read([], [], ['celsius']).errors.join()).toContain('taken in with its temperature');
    const said = readDeliveryRows({
      head: ['material', 'supplier', 'lot', 'kg', 'temperature'],
      rows: [
        ['Kohlrabi', 'Causeway', 'F1', '12', ''],
        ['Kohlrabi', 'Causeway', 'F2', '12', '9'],
        ['Leeks', 'Causeway', 'F3', '12', ''],
      ],
      isMaterial: () => true,
      isSupplier: () => true,
      asksOf: () => ['celsius'],
      doorOf: (material) => (material === 'Kohlrabi' ? { celsius: 6.5, variety: 'Superschmelz' } : undefined),
    });
    expect(said.map(({ door, errors }) => [door, errors.length]))
      .withContext('what a row says itself counts before what is said of all')
      .toEqual([
        [{ celsius: 6.5, variety: 'Superschmelz' }, 0],
        [{ celsius: 9, variety: 'Superschmelz' }, 0],
        [{}, 1],
      ]);
    expect(read(['temperature'], ['warm'], []).errors.join()).toContain('“warm” is no temperature');
    expect(read(['temperature'], ['400'], []).errors.length).toBe(1);
    expect(read(['state'], ['rotten'], []).errors.join()).toContain('“rotten” is not fresh, frozen, dried');
  });
});

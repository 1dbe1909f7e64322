import { expect, type Page, test } from '@playwright/test';
import { batchesOf, id, type Step } from './batches.js';
import { choose, comeIn, type } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('worked');
const { read, past, brined, codeOf } = batchesOf(house);
const DAY = 24;

/** Blended readings that count: the meter of the house, calibrated before each. */
async function counting(page: Page): Promise<(lotId: string, hoursAgo: number, ph: number) => readonly Step[]> {
  const { meters } = await read<{ meters: { meterId: string; tag: string }[] }>(page, '/api/meters');
  const { meterId } = meters.find(({ tag }) => tag === 'M2')!;
  const buffers = [
    { ph: 7, millivolts: 2 },
    { ph: 4.01, millivolts: 172 },
  ];
  const calibration = { meterId, celsius: 20, by: { how: 'buffers', buffers }, check: { buffer: 4.01, read: 4.02 } };
  return (lotId, hoursAgo, ph) => [
    ['meter.calibrate', calibration, hoursAgo + 0.05],
    ['ph.read', { lotId, ph, sample: 'blended', meterId, confirmedJump: true }, hoursAgo],
  ];
}

test('W13: a crock weighed after its drip and its gas is clear; with 590 g less it is not, and its likely slip stands there', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const { rooms } = await read<{ rooms: { id: string }[] }>(page, '/api/house');
  const [vesselId, fillLotId] = [id(), id()];
  const crock = { shape: 'crock', brimMl: 50_000, maxFill: 0.9, minFill: 0.5, weightVolumeMl: 0, closure: 'loose' };
  await past(page, [
    ['vessel.add', { vesselId, tag: 'K9', ...crock, roomId: rooms[0]!.id, inUse: true }, 3],
    [
      'lot.open',
      { what: 'vessel', batchId: id(), fillLotId, name: 'Crock of W13', vesselId, grams: 42_600, filledOn: null },
      2,
    ],
  ]);
  await page.goto(`${house.address}/lots/${await codeOf(page, fillLotId)}`);
  await page.getByRole('radio', { name: 'Weigh, write off' }).click();
  const form = page.locator('ct-count-form');
  const weigh = async (what: 'count' | 'loss', mass: string): Promise<void> => {
    await form.getByRole('button', { name: 'Weigh or write off …' }).click();
    if (what === 'loss') {
      await form.getByRole('radio', { name: 'A loss' }).click();
      await choose(page, 'Where it went', 'drip');
    } else await form.getByRole('radio', { name: 'Weighed on hand' }).click();
    await type(page, what === 'loss' ? 'Gone' : 'Stands there', mass);
    await form.getByRole('button', { name: 'Record' }).click();
    await expect(form.getByRole('button', { name: 'Weigh or write off …' })).toBeVisible();
  };
  const tally = page.locator('ct-tally');
  await weigh('loss', '1120');
  await weigh('count', '41.19 kg');
  await expect(tally).toContainText('290 g');
  await expect(tally.getByText('Clear', { exact: true })).toBeVisible();
  await weigh('count', '40600');
  await expect(tally.getByText('Not clear')).toBeVisible();
  await expect(tally).toContainText('426 g');
  await expect(tally).toContainText('454 g');
  await expect(tally).toContainText('Within ± 213 g');
  await expect(tally).toContainText('Likely:');
});

test('W22: five things stand open of a run, each with its facts and its way on; none of them is signed away', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Odile Marr', '2711', 'floor');
  const reads = await counting(page);
  const made = await brined(page, 'W2', DAY * 20, 1300, (lotId) => [
    ...reads(lotId, DAY * 17, 4),
    ...reads(lotId, DAY * 12, 3.72),
    ...reads(lotId, DAY * 10.5, 3.7),
  ]);
  const runLotId = id();
  await past(page, [
    ['house.rule', { rule: 'storage', option: 'cellar', reason: 'One jar opened every two weeks.' }, DAY * 20],
    [
      'pack.run',
      {
        runLotId,
        from: [{ fillLotId: made.fillLotId, grams: 2620, empties: false }],
        jars: [{ sizeMl: 330, netGrams: 320, count: 6 }],
        sampleGrams: 0,
        leftoverGrams: 0,
        wasteGrams: 100,
        tallyReason: 'to be looked for',
        brine: 'own',
        storage: 'cellar',
      },
      DAY * 10,
    ],
    ['run.check', { runLotId, what: 'gas', says: 'lively', opened: 2, note: null, photo: null }, DAY * 2],
  ]);
  const { runs } = await read<{ runs: { lotId: string; code: string }[] }>(page, '/api/runs');
  const { code } = runs.find(({ lotId }) => lotId === runLotId)!;
  const list = page.getByRole('list', { name: 'Conditions of its release' });
  const row = (words: string) => list.getByRole('listitem').filter({ hasText: words });
  const open = async (words: string, facts: string, wayOn: string): Promise<void> => {
    await expect(row(words)).toContainText(facts);
    await expect(row(words)).toContainText(wayOn);
    await expect(row(words)).toContainText('open');
  };
  await page.goto(`${house.address}/runs/${code}`);
  // 600 g nobody knows of, a lively jar of what is not kept cold, and who packed it at the pen.
  await open('Its tally is clear', '600 g unexplained', 'put it right at its line');
  await open('No gas in a jar that was opened', 'lively', 'let the run go cold');
  await open('Reviewed by somebody who did not pack it', 'you packed it', 'Another reviewer');
  await expect(row('twice, 24 to 72 h apart')).toContainText('3.72 and 3.70');
  await expect(page.getByRole('button', { name: /^Release/ })).toBeDisabled();
  await expect(page.getByText('Meets the limits')).toHaveCount(0);

  // The last reading was of the brine alone, it turns out: it counts no more, and so nothing stands twice.
  const entryOf = async (figure: string): Promise<string> => {
    const own = await codeOf(page, made.fillLotId);
    const { lines } = await read<{ lines: { entryId: string; figure: string | null }[] }>(page, `/api/lots/${own}`);
    return lines.find((line) => line.figure === figure)!.entryId;
  };
  await page.goto(`${house.address}/correct/${await entryOf('3.70')}`);
  await choose(page, 'Read in', 'brine only');
  await type(page, 'Why, for the book', 'it was brine only');
  await page.getByRole('button', { name: 'Show what this changes' }).click();
  await page.getByRole('button', { name: 'Put it right' }).click();
  await expect(page.getByText('Both stand in the book')).toBeVisible();
  await page.goto(`${house.address}/runs/${code}`);
  await open('twice, 24 to 72 h apart', 'W2', 'brine alone and strips do not count');
  await expect(page.getByText(/lines are open/)).toBeVisible();
});

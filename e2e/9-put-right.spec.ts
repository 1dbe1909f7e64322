import { expect, test, type Page } from '@playwright/test';
import { batchesOf, id, type Step } from './batches.js';
import { choose, comeIn, type, violationsOf } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('put-right');
const { read, past, codeOf } = batchesOf(house);

interface Line {
  entryId: string;
  kind: string;
  what: string;
  figure: string | null;
  struck: string[];
  struckOut: boolean;
  words: string | null;
}
interface House {
  rooms: { id: string }[];
  suppliers: { id: string }[];
  vessels: { id: string; tag: string; takenBy: string | null }[];
}

/** The newest entry of a kind, as the book of the house has it. */
const newest = async (page: Page, kind: string): Promise<string> =>
  (await read<{ lines: Line[] }>(page, '/api/journal')).lines.find((line) => line.kind === kind)!.entryId;

/** Radishes salted dry, two vessels to fill: produce weighed, and what else is asked. */
async function dry(
  page: Page,
  tag: string,
  trimmedGrams: number,
  more: (made: { batchId: string; salt: string; vessels: [string, string]; fillLotId: string }) => Step[] = () => [],
) {
  const { rooms, suppliers } = await read<House>(page, '/api/house');
  const salt = (
    await read<{ lots: { lotId: string; hold: string | null }[] }>(page, '/api/supplies?kind=salt')
  ).lots.find(({ hold }) => hold === null)!.lotId;
  const [material, formula, supply, other, batchId, fillLotId] = [id(), id(), id(), id(), id(), id()];
  const vessels: [string, string] = [id(), id()];
  const jar = (vesselId: string, name: string): Step => [
    'vessel.add',
    {
      vesselId,
      tag: name,
      shape: 'glass',
      brimMl: 3000,
      maxFill: 0.95,
      minFill: 0.3,
      weightVolumeMl: 0,
      closure: 'airlock',
      roomId: rooms[1]!.id,
      inUse: true,
    },
    9,
  ];
  const came = (lotId: string, theirs: string): Step => [
    'supply.receive',
    {
      lotId,
      materialId: material,
      supplierId: suppliers[0]!.id,
      supplierLotCode: theirs,
      grams: 20_000,
      useBy: null,
      condition: null,
    },
    8,
  ];
  await past(page, [
    jar(vessels[0], `${tag}1`),
    jar(vessels[1], `${tag}2`),
    [
      'material.add',
      {
        materialId: material,
        name: `Radishes ${tag}`,
        kind: 'produce',
        waterFraction: 0.92,
        saltFraction: 0,
        allergens: [],
        caution: null,
      },
      9,
    ],
    [
      'formula.save',
      {
        formulaId: formula,
        number: 600 + (tag.charCodeAt(1) % 90),
        version: 1,
        name: `Radishes, dry ${tag}`,
        style: 'dryShred',
        form: 'shred',
        produce: [{ materialId: material, share: 1 }],
        saltBasis: 'ofVegetable',
        saltFraction: 0.02,
        waterPerProduce: 0,
        lines: [],
        solidsFraction: 1,
        yields: { trim: 0.8, ferment: 0.95, pack: 0.97 },
        jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
        usualDays: 20,
        note: null,
      },
      9,
    ],
    came(supply, `${tag}-one`),
    came(other, `${tag}-two`),
    ['batch.start', { batchId, formulaId: formula, version: 1, plan: { from: 'trimmed', trimmedGrams: 1400 } }, 7],
    ['produce.weigh', { batchId, supplyLotId: supply, trimmedGrams, trimWasteGrams: 100 }, 6.9],
    ...more({ batchId, salt, vessels, fillLotId }),
  ]);
  const code = (await read<{ code: string }>(page, `/api/making/${batchId}`)).code;
  const stock = (
    await read<{ lots: { lotId: string; code: string; supplierLotCode: string }[] }>(page, '/api/supplies?kind=produce')
  ).lots;
  const codeOfSupply = (theirs: string): string =>
    stock.find(({ supplierLotCode }) => supplierLotCode === theirs)!.code;
  started.push({ batchId, salt });
  return {
    batchId,
    fillLotId,
    vessels,
    salt,
    code,
    material,
    supplies: [codeOfSupply(`${tag}-one`), codeOfSupply(`${tag}-two`)] as const,
  };
}

const filled = ({
  batchId,
  salt,
  vessels,
  fillLotId,
}: {
  batchId: string;
  salt: string;
  vessels: [string, string];
  fillLotId: string;
}): Step[] => [
  ['salt.weigh', { batchId, saltLotId: salt, grams: 28, alreadyIn: false }, 6.5],
  ['vessel.fill', { fillLotId, batchId, vesselId: vessels[0], grams: 1428, brine: null }, 6],
];

/** Looks at what it changes, and puts it right. */
async function putRight(page: Page, reason: string): Promise<void> {
  await type(page, 'Why, for the book', reason);
  await page.getByRole('button', { name: 'Show what this changes' }).click();
  // It is read before it is confirmed, however long the form.
  await expect(page.getByRole('heading', { name: 'What this changes' })).toBeInViewport();
  await page.getByRole('button', { name: 'Put it right' }).click();
  await expect(page.getByText('Both stand in the book')).toBeVisible();
}

/** What was only started here waits for nothing that another test looks for. */
const started: { batchId: string; salt: string }[] = [];
test.afterEach(async ({ page }) => {
  await page.request.delete(`${house.address}/api/session`);
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const { batches } = await read<{ batches: { batchId: string; stage: string }[] }>(page, '/api/making');
  for (const { batchId, salt } of started.splice(0)) {
    if (batches.some((one) => one.batchId === batchId && one.stage === 'forSalt')) {
      await past(page, [['salt.weigh', { batchId, saltLotId: salt, grams: 28, alreadyIn: true }, 0]]);
    }
  }
});

test.beforeEach(({ page }) => comeIn(page, house.address, 'Odile Marr', '2711'));

test('a trimmed mass ten times too large, found two steps later: salt wanted, book, tally and floor follow', async ({
  page,
}) => {
  const made = await dry(page, 'QA', 14_000);
  await page.goto(`${house.address}/make/${made.batchId}?step=salt`);
  await expect(page.getByText(/of 280 g/).first()).toBeVisible();
  await page.goto(`${house.address}/lots/${made.code}`);
  await expect(page.getByText('no salt weighed in yet')).toBeVisible();
  await page.getByRole('link', { name: /^Correct Trimmed produce/ }).click();
  await expect(page.getByRole('heading', { name: 'Put right: Produce weighed' })).toBeVisible();
  await expect(page.getByLabel('Trimmed produce')).toHaveValue('14000');
  await expect(page.getByRole('button', { name: 'Show what this changes' })).toBeDisabled();
  await expect(page.getByText('Write the reason')).toBeVisible();
  await type(page, 'Trimmed produce', '1.4 kg');
  await type(page, 'Why, for the book', 'a zero too many');
  await page.getByRole('button', { name: 'Show what this changes' }).click();
  const row = page.getByRole('row', { name: /salt wanted/ });
  await expect(row).toContainText('280 g');
  await expect(row).toContainText('28 g');
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Put it right' }).click();
  await page.getByRole('button', { name: 'Back to the book' }).click();
  const line = page.getByRole('row', { name: /Trimmed produce/ });
  await expect(line.locator('del')).toHaveText('14.00 kg');
  await expect(line).toContainText('1,400 g');
  await expect(line).toContainText('corrected by OM: a zero too many');
  await page.goto(`${house.address}/make/${made.batchId}?step=salt`);
  await expect(page.getByText(/of 28 g/).first()).toBeVisible();
  expect((await read<{ tally: { onHandGrams: number } }>(page, `/api/lots/${made.code}`)).tally.onHandGrams).toBe(1400);
});

test('a fill in the wrong vessel: it stands in the right one, on the shelf too, and what is in the way is named', async ({
  page,
}) => {
  const made = await dry(page, 'QB', 1400, filled);
  await page.goto(`${house.address}/correct/${await newest(page, 'vessel.fill')}`);
  // One that cannot be meant is refused at its field, and another is chosen there.
  await choose(page, 'Vessel', 'C6');
  await type(page, 'Why, for the book', 'the labels were swapped');
  await page.getByRole('button', { name: 'Show what this changes' }).click();
  await expect(page.getByText('C6 is under repair. Choose another vessel.')).toBeVisible();
  await choose(page, 'Vessel', 'QB2');
  await expect(page.getByText('C6 is under repair')).toBeHidden();
  await putRight(page, 'the labels were swapped');
  const { vessels } = await read<{ vessels: { lotId: string; vesselTag: string }[] }>(page, '/api/shelf');
  expect(vessels.find(({ lotId }) => lotId === made.fillLotId)!.vesselTag).toBe('QB2');
  expect((await read<House>(page, '/api/house')).vessels.find(({ tag }) => tag === 'QB1')!.takenBy).toBeNull();
  // The salt rests under it: a fill with nothing in the bowls cannot have been.
  await page.goto(`${house.address}/correct/${await newest(page, 'produce.weigh')}`);
  await page.getByRole('radio', { name: 'It never happened' }).click();
  await type(page, 'Why, for the book', 'not weighed at all');
  await page.getByRole('button', { name: 'Show what this changes' }).click();
  await expect(page.getByRole('alert')).toContainText('rests on this line');
  await expect(page.getByRole('link', { name: /^Put right “.*” of .* first$/ })).toBeVisible();
});

test('a wrong supply lot: stock of both follows, and the trace goes to the right one', async ({ page }) => {
  const made = await dry(page, 'QC', 1400, filled);
  await page.goto(`${house.address}/correct/${await newest(page, 'produce.weigh')}`);
  await expect(page.getByLabel('Supply lot')).toHaveValue(made.supplies[0]);
  await type(page, 'Supply lot', 'CG-9999');
  await type(page, 'Why, for the book', 'the crate beside it');
  await page.getByRole('button', { name: 'Show what this changes' }).click();
  await expect(page.getByText(/Nothing in this house has the code “CG-9999”/)).toBeVisible();
  await type(page, 'Supply lot', made.supplies[1]);
  await page.getByRole('button', { name: 'Show what this changes' }).click();
  await page.getByRole('button', { name: 'Put it right' }).click();
  await expect(page.getByText('Both stand in the book')).toBeVisible();
  const onHand = async (code: string) =>
    (await read<{ tally: { onHandGrams: number } }>(page, `/api/lots/${code}`)).tally.onHandGrams;
  expect([await onHand(made.supplies[0]), await onHand(made.supplies[1])]).toEqual([20_000, 18_500]);
  await page.goto(`${house.address}/trace/${await codeOf(page, made.fillLotId)}`);
  await expect(page.getByText(made.supplies[1]).first()).toBeVisible();
  await expect(page.getByText(made.supplies[0])).toHaveCount(0);
});

test('a finding on the wrong vessel: that one is free, the right one is held', async ({ page }) => {
  const [one, other] = [await dry(page, 'QD', 1400, filled), await dry(page, 'QE', 1400, filled)];
  await past(page, [
    [
      'find.record',
      {
        lotId: one.fillLotId,
        finding: 'pinkTop',
        place: 'piece',
        verdict: 'hold',
        reason: null,
        note: null,
        photo: null,
      },
      1,
    ],
  ]);
  const code = await codeOf(page, other.fillLotId);
  await page.goto(`${house.address}/correct/${await newest(page, 'find.record')}`);
  await type(page, 'Lot', code);
  await putRight(page, 'the jar behind it');
  const { vessels } = await read<{ vessels: { lotId: string; holds: object[] }[] }>(page, '/api/floor');
  const holds = (lotId: string) => vessels.find((vessel) => vessel.lotId === lotId)!.holds.length;
  expect([holds(one.fillLotId), holds(other.fillLotId)]).toEqual([0, 1]);
  await page.goto(`${house.address}/lots/${await codeOf(page, one.fillLotId)}`);
  await expect(page.getByRole('row', { name: /Seen: Pink/ })).toContainText(
    'does not belong here, OM: the jar behind it',
  );
});

test('a calibration with the wrong buffer: readings with that meter count again', async ({ page }) => {
  const made = await dry(page, 'QF', 1400, filled);
  const meterId = id();
  await past(page, [
    ['meter.add', { meterId, tag: 'QF', name: 'Bench meter', kind: 'meter' }, 5],
    [
      'meter.calibrate',
      {
        meterId,
        celsius: 20,
        by: {
          how: 'buffers',
          buffers: [
            { ph: 7, millivolts: 2 },
            { ph: 10.01, millivolts: -170 },
          ],
        },
        check: { buffer: 7, read: 7.01 },
      },
      3,
    ],
    ['ph.read', { lotId: made.fillLotId, ph: 5.2, sample: 'blended', meterId }, 2],
  ]);
  const code = await codeOf(page, made.fillLotId);
  const reading = async () =>
    (await read<{ lines: Line[] }>(page, `/api/lots/${code}`)).lines.find(({ kind }) => kind === 'ph.read')!;
  expect((await reading()).words).toContain('not for release');
  await page.goto(`${house.address}/the-book`);
  await page.getByRole('link', { name: /^Correct QF calibrated/ }).click();
  await type(page, 'By, buffers 2, pH', '4.01');
  await type(page, 'By, buffers 2, millivolts', '172');
  await type(page, 'Check, buffer', '4.01');
  await type(page, 'Check, it read', '4.02');
  await putRight(page, 'it was the acid buffer');
  const { conditions } = await read<{ conditions: { words: string; now: string }[] }>(page, `/api/watch/${code}`);
  expect(JSON.stringify(conditions)).toContain('5.20');
});

test('a delivery line of the wrong material: the lot is of the right one', async ({ page }) => {
  const made = await dry(page, 'QG', 1400);
  const { suppliers } = await read<House>(page, '/api/house');
  const [turnips, lotId] = [id(), id()];
  await past(page, [
    [
      'material.add',
      {
        materialId: turnips,
        name: 'Turnips QG',
        kind: 'produce',
        waterFraction: 0.91,
        saltFraction: 0,
        allergens: [],
        caution: null,
      },
      2,
    ],
    [
      'delivery.receive',
      {
        deliveryId: id(),
        reference: 'note 7',
        photo: null,
        lines: [
          {
            lotId,
            materialId: made.material,
            supplierId: suppliers[0]!.id,
            supplierLotCode: 'QG-three',
            grams: 5000,
            useBy: null,
            condition: null,
          },
        ],
      },
      1,
    ],
  ]);
  await page.goto(`${house.address}/correct/${await newest(page, 'delivery.receive')}`);
  await choose(page, 'Lines, material', 'Turnips QG');
  await putRight(page, 'the paper says turnips');
  const { lots } = await read<{ lots: { lotId: string; materialName: string }[] }>(page, '/api/supplies?kind=produce');
  expect(lots.find((lot) => lot.lotId === lotId)!.materialName).toBe('Turnips QG');
});

test('jars written down for the wrong customer: it is said who has them then, and so it is', async ({ page }) => {
  interface Book {
    lines: { what: string; entryId: string }[];
    next: string | null;
  }
  const had = async (): Promise<Record<string, number>> => {
    const { customers } = await read<{ customers: { name: string; jars: number }[] }>(page, '/api/customers');
    return Object.fromEntries(customers.map(({ name, jars }) => [name, jars]));
  };
  let sent: string | undefined;
  for (let before: string | null = ''; sent === undefined && before !== null;) {
    const book: Book = await read<Book>(page, `/api/journal${before && `?before=${before}`}`);
    sent = book.lines.find(({ what }) => what === 'Sent to Fen End Box Scheme')?.entryId;
    before = book.next;
  }
  const before = await had();
  await page.goto(`${house.address}/correct/${sent}`);
  await choose(page, 'Customer', 'Three Bridges');
  await type(page, 'Why, for the book', 'the wrong name was touched');
  await page.getByRole('button', { name: 'Show what this changes' }).click();
  await expect(page.getByRole('row', { name: /with customers/ })).toContainText('Three Bridges Grocer');
  await page.getByRole('button', { name: 'Put it right' }).click();
  await expect(page.getByText('Both stand in the book')).toBeVisible();
  const now = await had();
  const moved = before['Fen End Box Scheme']! - now['Fen End Box Scheme']!;
  expect(moved).toBeGreaterThan(0);
  expect(now['Three Bridges Grocer']).toBe(before['Three Bridges Grocer']! + moved);
});

test('a batch started twice: the second never was, and an inspector changes nothing', async ({ page }) => {
  const made = await dry(page, 'QH', 1400);
  const { formulas } = await read<{ formulas: { formulaId: string; name: string }[] }>(page, '/api/formulas');
  const twice = id();
  await past(page, [
    [
      'batch.start',
      {
        batchId: twice,
        formulaId: formulas.find(({ name }) => name === 'Radishes, dry QH')!.formulaId,
        version: 1,
        plan: { from: 'trimmed', trimmedGrams: 1400 },
      },
      0.1,
    ],
  ]);
  const { code } = await read<{ code: string }>(page, `/api/making/${twice}`);
  const entry = await newest(page, 'batch.start');
  await page.goto(`${house.address}/correct/${entry}`);
  await page.getByRole('radio', { name: 'It never happened' }).click();
  await putRight(page, 'pressed on two tablets');
  const bench = JSON.stringify(await read(page, '/api/making'));
  expect([bench.includes(code), bench.includes(made.code)]).toEqual([false, true]);
  await page.goto(`${house.address}/lots/${code}`);
  await expect(page.getByRole('row', { name: /Batch started/ })).toContainText(
    'never happened, OM: pressed on two tablets',
  );
  await page.request.delete(`${house.address}/api/session`);
  await comeIn(page, house.address, 'Visiting inspector', '5050');
  await page.goto(`${house.address}/correct/${entry}`);
  await expect(page.getByText('reads everything and records nothing')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Show what this changes' })).toHaveCount(0);
});

import { expect, test, type Page } from '@playwright/test';
import { batchesOf, id } from './batches.js';
import { atRest, choose, endStep, pick, comeIn, type, violationsOf } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('finish');
const { read } = batchesOf(house);
const HOUR = 3_600_000;
type Step = readonly [kind: string, body: object, hoursAgo: number];

/** Recorded in one go, as somebody did it some hours ago: the rules look when all of it is there. */
async function together(page: Page, steps: readonly Step[]): Promise<void> {
  const { person } = await read<{ person: { id: string } }>(page, '/api/session');
  const entries = steps.map(([kind, body, hoursAgo]) => ({
    id: id(),
    kind,
    happenedAt: new Date(Date.now() - hoursAgo * HOUR).toISOString(),
    by: person.id,
    device: 'browser test',
    body,
  }));
  const reply = await page.request.post(`${house.address}/api/entries`, { data: { entries } });
  expect(reply.status(), await reply.text()).toBe(200);
}

interface Wanted {
  readonly tag: string;
  readonly produceGrams: number;
  readonly waterFraction: number;
  readonly saltGrams: number;
  readonly waterGrams: number;
  readonly jar: { sizeMl: number; fillGrams: number };
  readonly pan: { tag: string; brimMl: number };
}

/** A vessel of one vegetable, sour and read twice, and a pan beside it. */
async function soured(page: Page, of: Wanted): Promise<{ fillLotId: string; code: string }> {
  const known = await read<{ rooms: { id: string }[]; suppliers: { id: string }[] }>(page, '/api/house');
  const lots = (
    await read<{ lots: { lotId: string; materialName: string; hold: string | null }[] }>(page, '/api/supplies')
  ).lots;
  const [materialId, formulaId, supplyLotId, vesselId, batchId, fillLotId, brineLotId] = Array.from(
    { length: 7 },
    id,
  ) as [string, string, string, string, string, string, string];
  const salt = lots.find(({ materialName }) => materialName === 'Coarse pan salt')!.lotId;
  const water = lots.find(({ materialName }) => materialName.includes('Mains water'))!.lotId;
  const vessel = (vesselTag: string, vesselKey: string, brimMl: number, shape: string): Step => [
    'vessel.add',
    {
      vesselId: vesselKey,
      tag: vesselTag,
      shape,
      brimMl,
      maxFill: 0.95,
      minFill: 0.1,
      weightVolumeMl: 0,
      closure: 'loose',
      roomId: known.rooms[1]!.id,
      inUse: true,
    },
    500,
  ];
  await together(page, [
    vessel(of.tag, vesselId, 60_000, 'barrel'),
    vessel(of.pan.tag, id(), of.pan.brimMl, 'pan'),
    [
      'material.add',
      {
        materialId,
        name: `Roots ${of.tag}`,
        kind: 'produce',
        waterFraction: of.waterFraction,
        saltFraction: 0,
        allergens: [],
        caution: null,
      },
      500,
    ],
    [
      'formula.save',
      {
        formulaId,
        number: 300 + of.tag.charCodeAt(1),
        version: 1,
        name: `Roots of ${of.tag}`,
        style: of.waterGrams > 0 ? 'brinedWhole' : 'dryShred',
        produce: [{ materialId, share: 1 }],
        saltBasis: 'ofVegetable',
        saltFraction: of.saltGrams / of.produceGrams,
        waterPerProduce: of.waterGrams / of.produceGrams,
        lines: [],
        solidsFraction: 1,
        yields: { trim: 0.8, ferment: 0.95, pack: 0.97 },
        jarSizes: [of.jar],
        usualDays: 20,
        note: null,
      },
      500,
    ],
    [
      'supply.receive',
      {
        lotId: supplyLotId,
        materialId,
        supplierId: known.suppliers[0]!.id,
        supplierLotCode: `R-${of.tag}`,
        grams: of.produceGrams + 10,
        useBy: null,
        condition: null,
      },
      499,
    ],
    ['batch.start', { batchId, formulaId, version: 1, plan: { from: 'trimmed', trimmedGrams: of.produceGrams } }, 498],
    ['produce.weigh', { batchId, supplyLotId, trimmedGrams: of.produceGrams, trimWasteGrams: 0 }, 497.9],
    ...(of.waterGrams > 0
      ? [['brine.make', { brineLotId, batchId, waterLotId: water, waterGrams: of.waterGrams }, 497.8] as Step]
      : []),
    ['salt.weigh', { batchId, saltLotId: salt, grams: of.saltGrams, alreadyIn: true }, 497.7],
  ]);
  const { meters } = await read<{ meters: { meterId: string; tag: string }[] }>(page, '/api/meters');
  const { meterId } = meters.find(({ tag }) => tag === 'M2')!;
  await together(page, [
    [
      'vessel.fill',
      {
        fillLotId,
        batchId,
        vesselId,
        grams: of.produceGrams + (of.waterGrams > 0 ? 0 : of.saltGrams),
        brine: of.waterGrams > 0 ? { brineLotId, grams: of.waterGrams + of.saltGrams } : null,
      },
      480,
    ],
    ...([400, 52, 28] as const).flatMap((hours, index): Step[] => [
      ['meter.calibrate', calibration(meterId), hours + 0.05],
      [
        'ph.read',
        { lotId: fillLotId, ph: [4.1, 3.62, 3.6][index], sample: 'blended', meterId, confirmedJump: true },
        hours,
      ],
    ]),
    ['meter.calibrate', calibration(meterId), 0.1],
  ]);
  const { fills } = await read<{ fills: { lotId: string; code: string }[] }>(page, '/api/packable');
  return { fillLotId, code: fills.find(({ lotId }) => lotId === fillLotId)!.code };
}

const calibration = (meterId: string): object => ({
  meterId,
  celsius: 20,
  by: {
    how: 'buffers',
    buffers: [
      { ph: 7, millivolts: 2 },
      { ph: 4.01, millivolts: 172 },
    ],
  },
  check: { buffer: 4.01, read: 4.02 },
});

async function begin(page: Page, way: string, tag: string, kilograms: string, pan: string): Promise<void> {
  await page.goto(`${house.address}/finish`);
  await page.getByRole('group', { name: 'What is done with it' }).getByRole('button', { name: way }).click();
  await page
    .getByRole('group', { name: 'From which vessels' })
    .getByRole('button', { name: new RegExp(`^\\S*\\s*${tag} `) })
    .click();
  await type(page, 'Drained pieces', `${kilograms} kg`);
  await choose(page, 'Into which bowl, pan or vessel', pan);
  await page.getByRole('button', { name: /^Take .* in hand$/ }).click();
  await expect(page).toHaveURL(new RegExp(`/finish/.*-${pan}$`));
}

const goTo = (page: Page, step: string): Promise<void> => page.locator('button.step').filter({ hasText: step }).click();

const row = (page: Page, table: string, head: string) =>
  page.getByRole('table', { name: table }).getByRole('row').filter({ hasText: head });

test('W15: drained and repacked: salt and acid stand there before it is poured; its jars wait for their even pH', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await comeIn(page, house.address, 'Odile Marr', '2711', 'floor');
  await soured(page, {
    tag: 'WA',
    produceGrams: 12_000,
    waterFraction: 0.9,
    saltGrams: 265.6,
    waterGrams: 0,
    jar: { sizeMl: 330, fillGrams: 320 },
    pan: { tag: 'PA', brimMl: 20_000 },
  });
  await begin(page, 'Drained and repacked', 'WA', '9', 'PA');
  await goTo(page, 'Drain and weigh');
  await endStep(page);

  // Fresh brine as strong as the product is proposed.
  await page.getByRole('radio', { name: 'Fresh', exact: true }).click();
  await type(page, 'Brine wanted', '3 kg');
  await expect(page.getByText('72 g salt in 2,928 g water')).toBeVisible();
  await choose(page, 'Water from', 'Mains water');
  await type(page, 'Water, weighed', '2928');
  await choose(page, 'Salt from', 'Coarse pan salt');
  await type(page, 'Salt, weighed', '72');
  await page.getByRole('button', { name: /^Record 3,000 g fresh brine/ }).click();
  await expect(page.getByText('Ready:')).toBeVisible();
  await endStep(page);

  await type(page, 'On the scale', '3 kg');
  const says = 'What it comes to, before it is poured';
  await expect(row(page, says, 'Salt in its water')).toContainText('2.40 % → 2.40 %');
  await expect(row(page, says, 'Acid, of its strength')).toContainText('0.73');
  await expect(row(page, says, 'an estimate: read it')).toContainText('3.60 to 3.74');
  // The figures follow what is typed.
  await type(page, 'On the scale', '2.5 kg');
  await expect(row(page, says, 'Acid, of its strength')).toContainText('0.76');
  await type(page, 'On the scale', '3 kg');
  await page.getByRole('button', { name: /^Record 3,000 g fresh brine/ }).click();
  await expect(page.getByRole('table', { name: 'What went in' })).toContainText('12.00 kg');
  await endStep(page);
  await expect(page.getByRole('heading', { name: 'Spices, sugar, fruit' })).toBeVisible();
  await page.getByRole('button', { name: /^Skip it/ }).click();
  await type(page, 'Why is it skipped?', 'nothing new goes in');
  await page.getByRole('button', { name: /^Skip / }).click();

  await type(page, 'Set out', '40');
  await expect(row(page, 'Bottles before the first', 'Full bottles')).toContainText('37');
  await page.getByRole('link', { name: 'Pack it' }).click();
  await type(page, /^Taken from PA/, '12 kg');
  await type(page, '330 mL, 320 g', '37');
  await type(page, 'Waste', '160');
  await page.getByText('The line is clear: nothing of').click();
  await type(page, 'Sampled, 330 mL, net grams', '318 322 321 319.5');
  await expect(page.getByText(/4 weighed: mean 320\.1 g, spread 1\.8 g/)).toBeVisible();
  await page.getByRole('button', { name: 'Jars and lids by lot …' }).click();
  await choose(page, 'Jars, lids, inserts: lot', 'HG');
  await page.getByRole('button', { name: 'Issue 37 jar codes' }).click();
  await page.getByRole('link', { name: 'To its release' }).click();
  await expect(page.getByText('The line was clear before it.')).toBeVisible();
  await expect(page.getByText(/HG-\d+ \(HG-.*\): jars 1 to 37\./)).toBeVisible();
  const conditions = page.getByRole('list', { name: 'Conditions of its release' });
  const even = conditions.getByRole('listitem').filter({ hasText: 'pH of what is even' });
  await expect(even).toContainText('it was mixed when it was finished, and no blended jar was read after a day');
  await expect(even).toContainText('open');
  await expect(page.getByRole('button', { name: /^Release \d+ jars/ })).toBeDisabled();
});

test('W16: a sauce, its brine in quarters, three bottles missing', async ({ page }) => {
  test.setTimeout(150_000);
  await comeIn(page, house.address, 'Odile Marr', '2711', 'floor');
  await soured(page, {
    tag: 'WB',
    produceGrams: 18_400,
    waterFraction: 0.88,
    saltGrams: 800,
    waterGrams: 9000,
    jar: { sizeMl: 150, fillGrams: 154.5 },
    pan: { tag: 'PB', brimMl: 40_000 },
  });
  await begin(page, 'Sauce', 'WB', '18.4', 'PB');
  await goTo(page, 'Drain and weigh');
  await endStep(page);

  // A quarter at a time: the next stop is the target of the beam.
  const stops = page.getByRole('list', { name: 'Brine back in quarters' });
  await type(page, 'Brine back, of the pieces', '35');
  await type(page, 'The jug holds', '2 kg');
  await expect(stops.getByRole('listitem').last()).toContainText('6,440 g');
  await type(page, 'On the scale', '1610');
  await expect(page.getByText(/loads of the jug/)).toBeVisible();
  await page.getByRole('button', { name: /^Record 1,610 g/ }).click();
  await expect(stops.getByRole('listitem').first()).toContainText('stop here if it is right');
  await type(page, 'On the scale', '4830');
  await page.getByRole('button', { name: /^Record 4,830 g/ }).click();
  await expect(stops.getByRole('listitem').last()).toContainText('stop here if it is right');
  await endStep(page);

  await type(page, 'Vinegar, of all of it', '4');
  await expect(page.getByText(/wanted 994 g/)).toBeVisible();
  await choose(page, 'From lot', 'Cider vinegar');
  await type(page, 'Acetic acid, by its bottle', '5');
  await type(page, 'On the scale', '994');
  await expect(page.getByText(/0\.19 % acetic acid in all of it/)).toBeVisible();
  await page.getByRole('button', { name: /^Record 994 g Cider vinegar/ }).click();
  await expect(page.getByText('In so far 994 g')).toBeVisible();
  await endStep(page);
  await endStep(page);

  await expect(page.getByText(/wanted 38\.8 g/)).toBeVisible();
  await expect(page.getByText('The trade: 0.10 % to 0.30 %.')).toBeVisible();
  await choose(page, 'From lot', 'Guar');
  await type(page, 'On the scale', '38.8');
  await page.getByRole('button', { name: /^Record 38\.8 g Guar/ }).click();
  await expect(page.getByText('In so far 38.8 g')).toBeVisible();
  await type(page, 'Kept by sieve, jug and blades', '647');
  await page.getByRole('button', { name: 'Write off 647 g' }).click();
  await expect(page.getByRole('table', { name: 'What went in' })).toContainText('−647 g');
  await endStep(page);

  // It is read before it is filled: what was read in the drum is of another thing.
  await expect(page.getByText(/Not done yet:.*its pH is/)).toBeVisible();
  await goTo(page, 'Count the bottles');
  await type(page, 'Set out', '160');
  await expect(row(page, 'Bottles before the first', 'Full bottles')).toContainText('163');
  await expect(row(page, 'Bottles before the first', 'Missing')).toContainText('3 missing');
  await expect(row(page, 'Bottles before the first', 'Left over')).toContainText(/4\d(\.\d)? g/);
  await expect(page.getByText(/is finished and not read/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'Pack it' })).toHaveCount(0);
  await goTo(page, 'Read the finished pH');
  await type(page, 'pH', '3.58');
  await pick(page, 'Meter', 'M2');
  await page.getByRole('button', { name: /^Record pH 3\.58/ }).click();
  // Once is not enough, as for everything: it is read again a day later, and packed then.
  await goTo(page, 'Count the bottles');
  await expect(page.getByText(/is finished and read once/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'Pack it' })).toHaveCount(0);

  // Honey afterwards starts it again, and is of another thing once more.
  await goTo(page, 'Spices, sugar, fruit');
  await page.getByRole('radio', { name: 'Sugar, honey or fruit' }).click();
  await expect(page.getByText('It starts again: kept cold and opened on its days')).toBeVisible();
});

test('a finish meets WCAG AA, step by step, and an inspector is offered nothing to record', async ({ page }) => {
  test.setTimeout(120_000);
  await comeIn(page, house.address, 'Odile Marr', '2711', 'floor');
  const looked = async (what: string): Promise<void> => {
    await atRest(page);
    const violations = await violationsOf(page);
    expect(violations.map((one) => `${what}: ${one}`)).toEqual([]);
  };
  await page.goto(`${house.address}/finish`);
  await page.getByRole('button', { name: /^Dried/ }).click();
  await looked('the list');
  await page.locator('a.in-hand').first().click();
  for (const step of await page.locator('button.step').all()) {
    await step.click();
    await looked((await step.textContent()) ?? '');
  }
  const address = page.url();
  await comeIn(page, house.address, 'Visiting inspector', '5050');
  await page.goto(address);
  await expect(page.getByText('Your sign-in reads and records nothing.')).toBeVisible();
  await expect(page.locator('ct-finish').getByRole('button', { name: /^Record|^Done|^Skip/ })).toHaveCount(0);
});

import { expect, test } from '@playwright/test';
import { batchesOf, id, type Step } from './batches.js';
import { comeIn, type } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('nothing-lost');
const { read, past, brined, codeOf } = batchesOf(house);

test('mustard boiled in a brine that touched nothing gives its allergen to the sticks it is poured on', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const [seed, formula, produce, supply, batchId] = [id(), id(), id(), id(), id()];
  const { suppliers } = await read<{ suppliers: { id: string }[] }>(page, '/api/house');
  const made = await brined(page, 'KA', 5);
  await past(page, [
    [
      'material.add',
      {
        materialId: seed,
        name: 'Brown mustard seed',
        kind: 'flavouring',
        waterFraction: 0.06,
        saltFraction: 0,
        allergens: ['mustard'],
        caution: null,
      },
      9,
    ],
    [
      'supply.receive',
      {
        lotId: id(),
        materialId: seed,
        supplierId: suppliers[0]!.id,
        supplierLotCode: 'BM-1',
        grams: 500,
        useBy: null,
        condition: null,
      },
      8.9,
    ],
    [
      'material.add',
      {
        materialId: produce,
        name: 'Celtuce stems KA',
        kind: 'produce',
        waterFraction: 0.94,
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
        number: 470,
        version: 1,
        name: 'Celtuce sticks in mustard brine',
        style: 'brinedWhole',
        form: 'sticks',
        produce: [{ materialId: produce, share: 1 }],
        saltBasis: 'ofWater',
        saltFraction: 0.04,
        waterPerProduce: 1,
        lines: [{ materialId: seed, scaleBy: 'mainMass', amount: 0.01 }],
        solidsFraction: 0.6,
        yields: { trim: 0.8, ferment: 0.95, pack: 0.97 },
        jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
        usualDays: 12,
        note: null,
      },
      8.8,
    ],
    [
      'supply.receive',
      {
        lotId: supply,
        materialId: produce,
        supplierId: suppliers[0]!.id,
        supplierLotCode: 'CT-1',
        grams: 2500,
        useBy: null,
        condition: null,
      },
      8.7,
    ],
    ['batch.start', { batchId, formulaId: formula, version: 1, plan: { from: 'trimmed', trimmedGrams: 1200 } }, 3],
    ['produce.weigh', { batchId, supplyLotId: supply, trimmedGrams: 1200, trimWasteGrams: 0 }, 2.9],
    [
      'brine.make',
      {
        brineLotId: made.brineLotId.replace(/^./, (letter) => (letter === 'a' ? 'b' : 'a')),
        batchId,
        waterLotId: made.water,
        waterGrams: 1200,
      },
      2.8,
    ],
    ['salt.weigh', { batchId, saltLotId: made.salt, grams: 48, alreadyIn: false }, 2.7],
  ]);
  await page.goto(`${house.address}/make/${batchId}?step=flavour`);
  // An allergen is always weighed.
  await expect(page.getByRole('button', { name: 'Left out' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'In, not weighed' })).toHaveCount(0);
  await page.getByRole('radio', { name: 'the brine, strained out' }).click();
  await type(page, 'On the scale', '12');
  await page.getByRole('button', { name: 'Record 12 g Brown mustard seed' }).click();
  await expect(page.getByText('12 g of 12 g').first()).toBeVisible();
  const { brine } = await read<{ brine: { lotId: string } }>(page, `/api/making/${batchId}`);
  const fillLotId = id();
  await past(page, [
    [
      'vessel.fill',
      { fillLotId, batchId, vesselId: made.vesselId, grams: 1200, brine: { brineLotId: brine.lotId, grams: 1100 } },
      0,
    ],
  ]);
  await page.goto(`${house.address}/lots/${await codeOf(page, fillLotId)}`);
  await expect(page.getByText('Allergens, by all that went in:').locator('..')).toContainText('mustard');
  await expect(page.getByText(/into the brine .*, strained out of it/)).toBeVisible();
});

test('a mould on a side vessel holds the sister it topped up and the jars since, and leaves out with a reason those before', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const { meters } = await read<{ meters: { meterId: string; tag: string }[] }>(page, '/api/meters');
  const { meterId } = meters.find(({ tag }) => tag === 'M2')!;
  const well = (lotId: string, ph: number, hours: number): Step[] => [
    [
      'meter.calibrate',
      {
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
      },
      hours + 0.05,
    ],
    ['ph.read', { lotId, ph, sample: 'blended', meterId, confirmedJump: true }, hours],
  ];
  const soured = (fillLotId: string): Step[] => well(fillLotId, 4.1, 24 * 22);
  const side = await brined(page, 'KB', 24 * 25, 1500, soured);
  const sister = await brined(page, 'KC', 24 * 25, 1500, soured);
  const [before, after] = [id(), id()];
  const pack = (runLotId: string, fillLotId: string, count: number, hours: number): Step => [
    'pack.run',
    {
      runLotId,
      from: [{ fillLotId, grams: count * 320, empties: false }],
      jars: [{ sizeMl: 330, netGrams: 320, count }],
      sampleGrams: 0,
      leftoverGrams: 0,
      wasteGrams: 0,
      tallyReason: null,
    },
    hours,
  ];
  await past(page, [
    ...well(side.fillLotId, 3.8, 24 * 20),
    ...well(side.fillLotId, 3.78, 24 * 18.5),
    pack(before, side.fillLotId, 2, 24 * 18),
    ...well(side.fillLotId, 3.7, 24 * 10),
    [
      'lot.transfer',
      { fromLotId: side.fillLotId, toLotId: sister.fillLotId, grams: 150, note: null, confirmedOther: true },
      24 * 9,
    ],
    ...well(sister.fillLotId, 3.75, 24 * 7),
    ...well(sister.fillLotId, 3.74, 24 * 5.5),
    pack(after, sister.fillLotId, 3, 24 * 5),
  ]);
  const code = await codeOf(page, side.fillLotId);
  const lots = (await read<{ lots: { lotId: string; code: string }[] }>(page, '/api/lots?kind=run')).lots;
  const [early, late] = [before, after].map((lotId) => lots.find((lot) => lot.lotId === lotId)!.code);
  await page.goto(`${house.address}/guide?finding=fuzz&lot=${code}`);
  await page.locator('ct-choices').getByRole('radio', { name: 'on the surface' }).click();
  const reach = page.getByRole('group', { name: 'Taken from it already: held with it?' });
  await expect(reach.getByText('It was last in order')).toBeVisible();
  await expect(reach.getByRole('checkbox', { name: new RegExp(late!) })).toBeChecked();
  await expect(reach.getByRole('checkbox', { name: /-KC/ })).toBeChecked();
  await expect(reach.getByRole('checkbox', { name: new RegExp(`${early!} 2 jars, 640 g`) })).not.toBeChecked();
  await expect(page.getByRole('button', { name: 'Record: Throw out' })).toBeDisabled();
  await type(page, 'Why 1 is left out', 'packed before it was last in order');
  await page.getByRole('button', { name: 'Record: Throw out' }).click();
  await expect(page.getByText(`Recorded on ${code}`)).toBeVisible();
  await expect(page.getByText('Held with it:').locator('..')).toContainText(late!);
  await expect(page.getByText('Left out:').locator('..')).toContainText(early!);
  await page.goto(`${house.address}/lots/${late!}`);
  await expect(page.getByText(/On hold:/).first()).toBeVisible();
  await page.goto(`${house.address}/lots/${early!}`);
  await expect(page.getByRole('heading', { name: early! })).toBeVisible();
  await expect(page.getByText(/On hold:/)).toHaveCount(0);
});

test('a salt step cannot be walked past', async ({ page }) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  await brined(page, 'KD', 6);
  const { formulas } = await read<{ formulas: { formulaId: string; name: string }[] }>(page, '/api/formulas');
  const { lots } = await read<{ lots: { lotId: string; materialName: string }[] }>(page, '/api/supplies?kind=produce');
  const batchId = id();
  await past(page, [
    [
      'batch.start',
      {
        batchId,
        formulaId: formulas.find(({ name }) => name === 'Radishes in brine KD')!.formulaId,
        version: 1,
        plan: { from: 'trimmed', trimmedGrams: 1000 },
      },
      1,
    ],
    [
      'produce.weigh',
      {
        batchId,
        supplyLotId: lots.find(({ materialName }) => materialName === 'Radishes KD')!.lotId,
        trimmedGrams: 1000,
        trimWasteGrams: 0,
      },
      0.9,
    ],
  ]);
  await page.goto(`${house.address}/make/${batchId}?step=salt`);
  await expect(page.getByText(/Not done yet: 0 g of .* of salt is in/)).toBeVisible();
  await page.getByRole('button', { name: /^Leave it so/ }).click();
  await expect(page.getByRole('button', { name: /^Leave it so/ })).toBeDisabled();
  await expect(page.getByLabel('Why is it left so?')).toBeVisible();
});

test('half a vessel is packed, and the other half is still there', async ({ page }) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const { fills } = await read<{
    fills: { lotId: string; code: string; vesselTag: string; onHandGrams: number; refusal: string | null }[];
  }>(page, '/api/packable');
  const fill = fills.find(({ refusal, onHandGrams }) => refusal === null && onHandGrams > 6000)!;
  await page.goto(`${house.address}/pack?from=${fill.code}`);
  await page.getByLabel(/^Taken from /).fill('3200');
  // What stays is the default: the mass taken is not what is there.
  await expect(page.getByRole('radio', { name: 'Some stays' })).toBeChecked();
  await page.getByRole('radio', { name: 'Empty now' }).click();
  await expect(page.getByText(/was said to be empty, and by the book/)).toBeVisible();
  await page.getByRole('radio', { name: 'Some stays' }).click();
  await page.getByLabel(/^330 mL/).fill('10');
  await page.getByText('The line is clear: nothing of').click();
  await page.getByRole('button', { name: 'Issue 10 jar codes' }).click();
  await expect(page.getByText(/^Run .* is packed\.$/)).toBeVisible();
  const after = (await read<{ vessels: { lotId: string; fillGrams: number }[] }>(page, '/api/floor')).vessels.find(
    ({ lotId }) => lotId === fill.lotId,
  )!;
  expect(after.fillGrams).toBeCloseTo(fill.onHandGrams - 3200, 0);
});

import { expect, type Page, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { atRest, choose, comeIn, type, violationsOf, visit } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('states');

test('every place meets WCAG AA', async ({ page }) => {
  test.setTimeout(300_000);
  await page.goto(`${house.address}/sign-in`);
  await page.getByRole('radio').first().waitFor();
  const found: string[] = [];
  const look = async (name: string): Promise<void> => {
    const violations = await violationsOf(page);
    found.push(...violations.map((one) => `${name}: ${one}`));
    // Its parts scroll, never the page beneath them: scrolled away it would stand there blank.
    const beyond = await page.evaluate(() => document.documentElement.scrollHeight - window.innerHeight);
    if (beyond > 0) found.push(`${name}: the page itself is ${beyond} px higher than the window`);
  };
  await look('sign-in');
  await comeIn(page, house.address, 'Tomasz Reyk', '4840', 'make');
  const waiting = page.getByRole('link', { name: /waiting for its salt/ });
  await waiting.waitFor();
  await look('make');
  await waiting.click();
  await page.getByRole('heading', { name: 'Weigh the salt' }).waitFor();
  await look('bench');
  const { runs } = (await (await page.request.get(`${house.address}/api/runs`)).json()) as {
    runs: { code: string; storage: string }[];
  };
  const ambient = runs.find(({ storage }) => storage === 'ambient')!.code;
  for (const place of [
    'floor',
    'guide',
    'guide?finding=film',
    'guide/cautions',
    'guide/above-the-limit',
    'guide/reminders',
    'meters',
    'equipment',
    'finish',
    'pack',
    'heat',
    'runs',
    `runs/${ambient}`,
    `runs/${ambient}/dossier`,
    'dispatch',
    'customers',
    'lots',
    'lots/before-the-ledger',
    'trace',
    'trace/SP-0002',
    'formulas',
    'lots/D8',
  ]) {
    await visit(page, house.address, place);
    await atRest(page);
    await look(place);
  }
  expect(found).toEqual([]);
});

test('a place opens with a handful of files, not with one for each thing it shares with another', async ({ page }) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840');
  const scripts: string[] = [];
  page.on('request', (request) => request.resourceType() === 'script' && scripts.push(request.url()));
  for (const place of ['floor', 'customers']) {
    scripts.length = 0;
    await page.goto(`${house.address}/${place}`);
    await page.getByRole('heading').first().waitFor();
    await atRest(page);
    expect(scripts.length, `${place}: ${scripts.join(' ')}`).toBeLessThanOrEqual(14);
  }
});

/** A vessel’s page, wherever the hour puts it on the shelf. */
async function openVessel(page: Page, tag: string): Promise<void> {
  const { vessels } = (await (await page.request.get(`${house.address}/api/shelf`)).json()) as {
    vessels: { code: string; vesselTag: string }[];
  };
  await page.goto(`${house.address}/lots/${vessels.find(({ vesselTag }) => vesselTag === tag)!.code}`);
}

test('without a connection nothing typed is lost, and it is recorded when the connection is back', async ({
  page,
  context,
}) => {
  await comeIn(page, house.address, 'Ines Calloway', '1963');
  await openVessel(page, 'D7');
  await type(page, 'pH', '3.66');
  await context.setOffline(true);
  await expect(page.getByText('No connection.')).toBeVisible();
  await page.getByRole('button', { name: 'Record pH 3.66' }).click();
  await expect(page.getByText('The server does not answer. What you typed is kept')).toBeVisible();
  await expect(page.getByLabel('pH', { exact: true })).toHaveValue('3.66');
  await context.setOffline(false);
  await page.getByRole('button', { name: 'Record pH 3.66' }).click();
  await expect(page.getByRole('cell', { name: '3.66' }).first()).toBeVisible();
  await expect(page.getByLabel('pH', { exact: true })).toHaveValue('');
});

test('the reply is lost between server and page, and the page is read again: pressed again, the book has one line', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840');
  const { vessels } = (await (await page.request.get(`${house.address}/api/floor`)).json()) as {
    vessels: { code: string; vesselTag: string }[];
  };
  const { code } = vessels.find(({ vesselTag }) => vesselTag === 'C4')!;
  const lines = async (): Promise<number> => {
    const reply = await page.request.get(`${house.address}/api/lots/${code}`);
    const { lines } = (await reply.json()) as { lines: { what: string; figure: string | null }[] };
    return lines.filter(({ what, figure }) => what === 'Temperature' && figure === '17.3 °C').length;
  };
  await page.goto(`${house.address}/lots/${code}`);
  // The server hears and records; its answer never comes.
  await page.route('**/api/entries', async (route) => {
    await route.fetch();
    await route.abort();
  });
  await page.getByLabel('Vessel, °C').fill('17.3');
  await page.getByRole('button', { name: 'Record 17.3 °C' }).click();
  await expect(page.getByRole('alert').first()).toBeVisible();
  expect(await lines()).toBe(1);
  await page.unroute('**/api/entries');
  await page.reload();
  await expect(page.getByText(/^Typed .* ago, and not recorded\.$/)).toBeVisible();
  await page.getByRole('button', { name: 'Take it up again' }).click();
  await page.getByRole('button', { name: 'Record 17.3 °C' }).click();
  await expect(page.getByText('Recorded already.')).toBeVisible();
  expect(await lines()).toBe(1);
  // What is read an hour or a minute later and says the same is another reading.
  await page.getByLabel('Vessel, °C').fill('17.3');
  await page.getByRole('button', { name: 'Record 17.3 °C' }).click();
  await expect(page.getByText('Recorded.', { exact: true })).toBeVisible();
  expect(await lines()).toBe(2);
});

test('an inspector reads everything and is offered nothing to record', async ({ page }) => {
  await comeIn(page, house.address, 'Visiting inspector', '5050', 'make');
  await page.getByRole('link', { name: /^D8, .*on hold/ }).click();
  await expect(page.getByText('On hold', { exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: /Record|Hold|Lift|Taste|Ready/ })).toHaveCount(0);
});

test('a wrong PIN says so, a held vessel cannot be packed, and a maker cannot lift the hold', async ({ page }) => {
  await page.goto(`${house.address}/lots`);
  await page.getByRole('radio', { name: 'Tomasz Reyk' }).click();
  await page.getByLabel('PIN').fill('0000');
  await page.keyboard.press('Enter');
  await expect(page.getByText('This PIN does not fit this person')).toBeVisible();
  await page.getByLabel('PIN').fill('4840');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/lots$/);
  await page.keyboard.press('3');
  await expect(page.getByRole('button', { name: /^D8 / })).toBeDisabled();
  await page.keyboard.press('4');
  await page.getByRole('link', { name: /-D8$/ }).first().click();
  await expect(page.getByText('A lateness hold ends on two blended readings').first()).toBeVisible();
  await expect(page.getByRole('button', { name: /Lift/ })).toHaveCount(0);
  const { person } = (await (await page.request.get(`${house.address}/api/session`)).json()) as {
    person: { id: string };
  };
  const { vessels } = (await (await page.request.get(`${house.address}/api/shelf`)).json()) as {
    vessels: { lotId: string; vesselTag: string }[];
  };
  const reply = await page.request.post(`${house.address}/api/entries`, {
    data: {
      entries: [
        {
          id: crypto.randomUUID(),
          kind: 'hold.lift',
          happenedAt: new Date().toISOString(),
          by: person.id,
          device: 'browser test',
          body: { lotId: vessels.find(({ vesselTag }) => vesselTag === 'D8')!.lotId, reason: 'looks fine' },
        },
      ],
    },
  });
  expect(((await reply.json()) as { detail: string }).detail).toContain('A hold is lifted by a reviewer');
});

test('W9: 342 g on 14.6 kg is over; already in, 945 g more shred or a reason are the ways back', async ({ page }) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840', 'make');
  await page.getByRole('link', { name: /waiting for its salt/ }).click();
  await choose(page, 'Salt lot', 'SP-0003');
  await type(page, 'Salt, on the scale', '342');
  await expect(page.getByText('21 g over: take it out')).toBeVisible();
  await page.getByRole('button', { name: 'It is in already: record 342 g' }).click();
  await expect(page.getByText('6.5 % over the target.')).toBeVisible();
  await expect(page.getByText('945 g')).toBeVisible();
  await page.getByRole('button', { name: /^Fill vessels/ }).click();
  await expect(page.getByLabel(/Everything of the formula is in/)).toBeVisible();
  for (const box of await page.locator('ct-checks input').all()) await box.check();
  await choose(page, 'Into vessel', 'D6');
  await type(page, 'From the bowls', '14.9 kg');
  await page.getByRole('button', { name: 'Fill D6 with 14.90 kg' }).click();
  await expect(page.getByText('or accept it with a reason for the reviewer')).toBeVisible();
  await page.getByRole('button', { name: /^Weigh the salt/ }).click();
  await type(page, 'Reason for the reviewer', 'tasted by two, kept');
  await page.getByRole('button', { name: 'Accept 342 g as it is' }).click();
  await expect(page.getByText('Accepted as it is: tasted by two, kept')).toBeVisible();
});

test('a barrel from before the ledger is entered, and its trace shows the gap', async ({ page }) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  await page.goto(`${house.address}/lots/before-the-ledger`);
  await type(page, 'What it is', 'Old leeks');
  await choose(page, 'Vessel', 'K1');
  await type(page, 'Stands in it', '18');
  await page.getByRole('button', { name: 'Enter it as it stands' }).click();
  await expect(page.getByText('From before these records: what went in is not known here')).toBeVisible();
  await page.getByRole('link', { name: /^Trace NY/ }).click();
  await expect(page.getByText('Part of this way lies before these records')).toBeVisible();
});

test('a scanner’s burst opens the trace from any page', async ({ page }) => {
  await comeIn(page, house.address, 'Ines Calloway', '1963', 'make');
  await page.getByRole('heading', { name: 'On the bench' }).click();
  // A scanner is faster than a driven keyboard: its keys come in one go, on the page's own clock.
  await page.evaluate(() =>
    [...'SP-0001', 'Enter'].forEach((key) =>
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true })),
    ),
  );
  await expect(page.getByRole('heading', { name: 'SP-0001' })).toBeVisible();
  await expect(page.getByRole('row', { name: /NY26|NY\d\d/ }).first()).toBeVisible();
});

test('a list of 5,000 lots is filtered to three, and leaves as a sheet exactly as it is shown', async ({ page }) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const at = new Date(Date.now() - 86_400_000).toISOString();
  const lots = Array.from({ length: 5000 }, (_, i) => ({
    lotId: `0193a8f0-0000-7000-8000-${String(i).padStart(12, '0')}`,
    code: `NY26-${String(i).padStart(4, '0')}-A`,
    kind: 'fill',
    name: 'Kohlrabi and celeriac shred with juniper',
    at,
    state: i % 1700 === 3 ? 'on hold' : 'live',
    lastPh: 4.1,
    lastPhAt: at,
    phCounts: true,
    onHandGrams: 1000 + i,
    vesselTag: `C${i}`,
    jars: null,
  }));
  await page.route(/api\/lots\?/, (route) => {
    const from = Number(new URL(route.request().url()).searchParams.get('before') ?? 0);
    const next = from + 2000 < lots.length ? String(from + 2000) : null;
    return route.fulfill({ json: { lots: lots.slice(from, from + 2000), next } });
  });
  await page.goto(`${house.address}/lots`);
  await expect(page.getByText('5,000')).toBeVisible();
  await page.getByRole('button', { name: 'Filter State' }).click();
  const panel = page.getByRole('dialog', { name: 'Filter State' });
  await panel.getByText('live').click();
  await panel.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByText('3 of 5,000')).toBeVisible();
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('dialog', { name: 'Columns' }).getByText('Since').click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Code', exact: true }).click();
  await page.getByRole('button', { name: 'Code', exact: true }).click();
  await page.getByRole('button', { name: 'Print, save' }).click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as CSV' }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/^Lots, vessels \d{4}-\d\d-\d\d\.csv$/);
  const name = 'Kohlrabi and celeriac shred with juniper';
  expect(readFileSync((await file.path())!, 'utf8').split('\r\n')).toEqual([
    '\uFEFFCode,What,Vessel,"On hand, kg",Last pH,State',
    `NY26-3403-A,${name},C3403,4.40,4.10,on hold`,
    `NY26-1703-A,${name},C1703,2.70,4.10,on hold`,
    `NY26-0003-A,${name},C3,1.00,4.10,on hold`,
    '',
  ]);
});

test('a figure typed beside a form that holds something unsaved leads nowhere', async ({ page }) => {
  await comeIn(page, house.address, 'Ines Calloway', '1963');
  await openVessel(page, 'D7');
  const lot = new URL(page.url()).pathname;
  await type(page, 'pH', '3.');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('5');
  // A key that leads somewhere waits for a scanner’s burst first.
  await page.waitForFunction((from) => performance.now() - from > 400, await page.evaluate(() => performance.now()));
  expect(new URL(page.url()).pathname).toBe(lot);
  await expect(page.getByLabel('pH', { exact: true })).toHaveValue('3.');
  await type(page, 'pH', '');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('5');
  await expect(page).toHaveURL(/\/trace$/);
});

test('what was recorded by a slip is taken back from the note over the page', async ({ page }) => {
  await comeIn(page, house.address, 'Ines Calloway', '1963');
  await openVessel(page, 'D7');
  await type(page, 'Vessel, °C', '15.5');
  await page.getByRole('button', { name: 'Record 15.5 °C' }).click();
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText('Both stay in the book.')).toBeVisible();
  await expect(page.getByRole('main')).toContainText('A slip, taken back at once');
});

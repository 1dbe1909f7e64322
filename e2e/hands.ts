import { expect, type Page } from '@playwright/test';
import type Axe from 'axe-core';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

/** Signs in as a person does, by name and PIN, and goes to the bench. */
export async function signIn(page: Page, address: string, name: string, pin: string): Promise<void> {
  await page.goto(`${address}/sign-in`);
  await page.getByRole('radio', { name }).click();
  await page.getByLabel('PIN').fill(pin);
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/floor$/);
  await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: /^Make/ }).click();
  await expect(page).toHaveURL(/\/make$/);
}

/**
 * Signed in already, for what begins behind the door: by the request that the sign-in page sends. Opens a place where
 * one is named; a test that goes somewhere of its own loads no page twice.
 */
export async function comeIn(
  page: Page,
  address: string,
  name: string,
  pin: string,
  place?: 'make' | 'floor',
): Promise<void> {
  const { people } = (await (await page.request.get(`${address}/api/sign-in`)).json()) as {
    people: { id: string; name: string }[];
  };
  const personId = people.find((one) => one.name === name)?.id;
  const reply = await page.request.post(`${address}/api/session`, { data: { personId, pin } });
  expect(reply.status(), await reply.text()).toBe(200);
  if (place) await page.goto(`${address}/${place}`);
}

/** Chooses from a list by typing, as with a keyboard. */
export async function choose(page: Page, label: string, text: string): Promise<void> {
  // Where something is chosen already, its name lies over the field.
  await page
    .locator('nz-select')
    .filter({ has: page.getByLabel(label, { exact: true }) })
    .click();
  await page.keyboard.type(text);
  await expect(page.locator('.ant-select-item-option-active, .ant-select-item-option').first()).toContainText(text);
  await page.keyboard.press('Enter');
  await expect(page.locator('.ant-select-dropdown:visible')).toHaveCount(0);
}

/** Types into a field by its label and leaves it. */
export async function type(page: Page, label: string | RegExp, text: string): Promise<void> {
  await page.getByLabel(label, { exact: typeof label === 'string' }).fill(text);
}

/** Records as the person signed in, past the page: for what has to stand there before a test begins. */
export async function record(page: Page, address: string, kind: string, body: object, hoursAgo = 0): Promise<void> {
  const { person } = (await (await page.request.get(`${address}/api/session`)).json()) as { person: { id: string } };
  const reply = await page.request.post(`${address}/api/entries`, {
    data: {
      entries: [
        {
          id: crypto.randomUUID(),
          kind,
          happenedAt: new Date(Date.now() - hoursAgo * 3_600_000).toISOString(),
          by: person.id,
          device: 'browser test',
          body,
        },
      ],
    },
  });
  expect(reply.status(), await reply.text()).toBe(200);
}

/** Ends the step in hand of a run sheet: every tick it asks for, then done. */
export async function endStep(page: Page): Promise<void> {
  // The step may still be coming: what it asks is asked again until nothing is open.
  const open = page.locator('ct-checks input[type=checkbox]:not(:checked)');
  await expect(async () => {
    while ((await open.count()) > 0) await open.first().click();
    expect(await open.count()).toBe(0);
  }).toPass();
  await page
    .locator('ct-step-end')
    .getByRole('button', { name: /^(Done|On to)/ })
    .click();
}

/** A page that has been read and has stopped moving, as an eye would look at it. */
export async function atRest(page: Page): Promise<void> {
  await page.locator('h1, [role=alert]').first().waitFor();
  // What a place consists of is put there first, and filled in before it is drawn: no eye sees what is between.
  await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))));
  await page.waitForFunction(
    () =>
      document.querySelector('ct-waiting .lines') === null &&
      document.getAnimations().every(({ playState, effect }) => {
        const forEver = effect?.getComputedTiming().iterations === Infinity;
        return forEver || playState !== 'running';
      }),
  );
}

/** Chooses from a short list: opened, and one of its lines touched. */
export async function pick(page: Page, label: string, words: string): Promise<void> {
  await page
    .locator('ct-select nz-select')
    .filter({ has: page.getByLabel(label, { exact: true }) })
    .click();
  await page.locator('.ant-select-dropdown:visible .ant-select-item-option').filter({ hasText: words }).first().click();
  await expect(page.locator('.ant-select-dropdown:visible')).toHaveCount(0);
}

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/**
 * What of a page breaks a rule of WCAG 2.1 A or AA, a line each: the rule, and the first thing that breaks it. The
 * checker is read once a page; no page of ours holds frames, and of what breaks no rule nothing is told.
 */
export async function violationsOf(page: Page): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE);
  const violations = await page.evaluate(async () => {
    const { axe } = window as unknown as { axe: typeof Axe };
    const found = await axe.run(document, {
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'],
      resultTypes: ['violations'],
      iframes: false,
    });
    return found.violations.map(({ id, nodes }) => ({ id, html: nodes[0]?.html ?? '' }));
  });
  return violations.map(({ id, html }) => `${id} ${html.slice(0, 200)}`);
}

/** Another page of the same visit, as a link would go there: nothing is loaded anew. */
export async function visit(page: Page, address: string, path: string): Promise<void> {
  await page.evaluate((to) => {
    const before = location.pathname;
    if (new URL(to, location.href).pathname !== before) document.querySelector('h1')?.setAttribute('data-before', '');
    history.pushState({}, '', to);
    dispatchEvent(new PopStateEvent('popstate', { state: {} }));
  }, `/${path}`);
  await expect(page).toHaveURL(`${address}/${path}`);
  // The place before stands there until the next one has come: whoever looks earlier looks at that.
  await expect(page.locator('h1[data-before]')).toHaveCount(0);
}

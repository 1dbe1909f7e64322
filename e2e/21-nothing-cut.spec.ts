import { expect, type Page, test } from '@playwright/test';
import { comeIn, visit } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('cut', { whole: true });

const SIZES = [
  { width: 1280, height: 800 },
  { width: 1024, height: 768 },
  { width: 390, height: 844 },
] as const;

/**
 * Words that cannot be read whole where they stand: beyond the edge of what holds them, cut off by it, or a placeholder
 * longer than its field; and whatever scrolls sideways. Only a drawing may: the way of a lot has a scroll of its own.
 */
function cutHere(): string[] {
  const found = new Set<string>();
  const seen = (of: Element): boolean => {
    const style = getComputedStyle(of);
    const { width, height } = of.getBoundingClientRect();
    return style.visibility !== 'hidden' && style.opacity !== '0' && width > 1 && height > 1;
  };
  const clips = (of: Element): boolean => getComputedStyle(of).overflowX !== 'visible';
  if (document.documentElement.scrollWidth > innerWidth + 1) found.add('the page scrolls sideways');
  for (const element of Array.from(document.body.querySelectorAll('*'))) {
    if (element.closest('.visually-hidden, .cdk-visually-hidden, svg, canvas, [hidden], ct-way .scroll')) continue;
    if (!seen(element)) continue;
    if (/auto|scroll/.test(getComputedStyle(element).overflowX) && element.scrollWidth > element.clientWidth + 1)
      found.add(`${element.tagName}.${element.className} scrolls sideways`);
    for (const text of Array.from(element.childNodes)) {
      if (text.nodeType !== Node.TEXT_NODE || !text.textContent!.trim()) continue;
      const words = text.textContent!.trim().slice(0, 40);
      const range = document.createRange();
      range.selectNodeContents(text);
      let holder: Element | null = element;
      while (holder && !clips(holder) && getComputedStyle(holder).position !== 'fixed') holder = holder.parentElement;
      const edge = holder && clips(holder) ? holder.getBoundingClientRect() : null;
      for (const at of Array.from(range.getClientRects()))
        if (
          at.width > 1 &&
          (at.right > innerWidth + 1 || (edge && (at.right > edge.right + 2 || at.left < edge.left - 2)))
        )
          found.add(`“${words}” lies beyond its edge`);
    }
    if (element instanceof HTMLInputElement && element.placeholder && !element.value) {
      const style = getComputedStyle(element);
      const pen = document.createElement('canvas').getContext('2d')!;
      pen.font = `${style.fontWeight} ${style.fontSize} ${style.fontFamily}`;
      const room = element.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight);
      if (pen.measureText(element.placeholder).width > room + 1)
        found.add(`“${element.placeholder}” is cut in its field`);
    }
  }
  return [...found];
}

async function everyPage(page: Page): Promise<string[]> {
  const ask = async <T>(path: string): Promise<T> => (await (await page.request.get(house.address + path)).json()) as T;
  const { formulas } = await ask<{ formulas: { formulaId: string }[] }>('/api/formulas');
  const { runs } = await ask<{ runs: { code: string }[] }>('/api/runs');
  const { vessels } = await ask<{ vessels: { code: string }[] }>('/api/shelf');
  const { lots } = await ask<{ lots: { code: string }[] }>('/api/supplies');
  const { recalls } = await ask<{ recalls: { code: string }[] }>('/api/recalls');
  const { batches } = await ask<{ batches: { batchId: string }[] }>('/api/making');
  const { customers } = await ask<{ customers: { customerId: string }[] }>('/api/customers');
  const [formula, run] = [formulas[0]!.formulaId, runs[0]!.code];
  return [
    ...['floor', 'make', 'finish', 'pack', 'heat', 'runs', 'dispatch', 'customers', 'lots', 'lots/before-the-ledger'],
    ...[
      'trace',
      'trace-by',
      'in-order',
      'rights',
      'shared-cause',
      'tallies',
      'records',
      'complaints',
      'recalls',
      'cleaning',
      'vessels',
    ],
    ...['founding', 'formulas', 'formulas/new', 'formulas/take-in', 'tools', 'stores', 'stores/delivery', 'materials'],
    ...[
      'guide',
      'guide/cautions',
      'guide/above-the-limit',
      'guide/reminders',
      'meters',
      'equipment',
      'people',
      'other-devices',
    ],
    ...['the-book', 'the-record', 'house-rules', `formulas/${formula}`, `formulas/${formula}/edit`],
    ...[`formulas/${formulas[1]!.formulaId}/versions`, `lots/${vessels[0]!.code}`, `lots/${lots[0]!.code}`],
    ...[`lots/${run}`, `runs/${run}`, `runs/${run}/labels`, `runs/${run}/dossier`, `trace/${run}`],
    ...[`trace-by/customer/${customers[0]!.customerId}`, `recalls/${recalls[0]!.code}`],
    ...batches.slice(0, 1).map(({ batchId }) => `make/${batchId}`),
  ];
}

test('nothing is cut and nothing scrolls sideways, on every page at three sizes', async ({ page }) => {
  test.setTimeout(360_000);
  await page.setViewportSize(SIZES[0]);
  await comeIn(page, house.address, 'Odile Marr', '2711', 'make');
  const cut: string[] = [];
  for (const path of await everyPage(page)) {
    await visit(page, house.address, path);
    await expect(page.locator('main, .page').getByRole('heading').first()).toBeAttached();
    await expect(page.locator('[role=status] nz-skeleton')).toHaveCount(0);
    await page.evaluate(() => document.fonts.ready);
    for (const size of SIZES) {
      await page.setViewportSize(size);
      // What is measured may still settle for a moment: only what stays so is cut.
      await expect
        .poll(() => page.evaluate(cutHere), { timeout: 3000 })
        .toEqual([])
        .catch(async () => {
          const still = (await page.evaluate(cutHere)).slice(0, 4).join('; ');
          cut.push(`${path} at ${size.width}: ${still}`);
        });
    }
    await page.setViewportSize(SIZES[0]);
  }
  expect(cut).toEqual([]);
});

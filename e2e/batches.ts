import { expect, type Page } from '@playwright/test';
import type { RunningHouse } from './runningHouse.js';

const HOUR = 3_600_000;
export type Step = readonly [kind: string, body: object, hoursAgo: number];
export interface Made {
  readonly tag: string;
  readonly vesselId: string;
  readonly batchId: string;
  readonly brineLotId: string;
  readonly fillLotId: string;
  readonly water: string;
  readonly salt: string;
}
export const id = (): string => crypto.randomUUID();

/** What has to stand in the house before a test begins, recorded past the pages as somebody did it some hours ago. */
export function batchesOf(house: RunningHouse) {
  const read = async <T>(page: Page, path: string): Promise<T> =>
    (await (await page.request.get(`${house.address}${path}`)).json()) as T;
  /** As somebody recorded it some hours ago. */
  async function past(page: Page, steps: readonly Step[]): Promise<void> {
    for (const step of steps) await together(page, [step]);
  }
  /** Recorded in one go: the rules of the house look behind the last of them. */
  async function together(page: Page, steps: readonly Step[]): Promise<void> {
    const { person } = await read<{ person: { id: string } }>(page, '/api/session');
    const entries = steps.map(([kind, body, hoursAgo]) => ({
      id: crypto.randomUUID(),
      kind,
      happenedAt: new Date(Date.now() - hoursAgo * HOUR).toISOString(),
      by: person.id,
      device: 'browser test',
      body,
    }));
    const reply = await page.request.post(`${house.address}/api/entries`, { data: { entries } });
    expect(reply.status(), await reply.text()).toBe(200);
  }

  /** Produce and a brine of 4 % of the water, made larger than what is poured; a jar to fill. */
  async function brined(
    page: Page,
    tag: string,
    hoursAgo: number,
    pouredGrams?: number,
    // What was seen of it at once: a vessel nobody has read for weeks is held.
    seen: (fillLotId: string) => readonly Step[] = () => [],
  ): Promise<Made> {
    const house_ = await read<{ rooms: { id: string }[]; suppliers: { id: string }[] }>(page, '/api/house');
    const lots = async (kind: string) =>
      (
        await read<{ lots: { lotId: string; materialName: string; hold: string | null }[] }>(
          page,
          `/api/supplies?kind=${kind}`,
        )
      ).lots;
    const made: Made = {
      tag,
      vesselId: id(),
      batchId: id(),
      brineLotId: id(),
      fillLotId: id(),
      water: (await lots('water'))[0]!.lotId,
      salt: (await lots('salt')).find(({ hold }) => hold === null)!.lotId,
    };
    const [material, formula, supply] = [id(), id(), id()];
    await past(page, [
      [
        'vessel.add',
        {
          vesselId: made.vesselId,
          tag,
          shape: 'glass',
          brimMl: 3200,
          maxFill: 0.95,
          minFill: 0.3,
          weightVolumeMl: 0,
          closure: 'airlock',
          roomId: house_.rooms[1]!.id,
          inUse: true,
        },
        hoursAgo + 3,
      ],
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
        hoursAgo + 3,
      ],
      [
        'formula.save',
        {
          formulaId: formula,
          number: 400 + (tag.charCodeAt(1) % 90),
          version: 1,
          name: `Radishes in brine ${tag}`,
          style: 'brinedWhole',
          form: 'wholeSmall',
          produce: [{ materialId: material, share: 1 }],
          saltBasis: 'ofWater',
          saltFraction: 0.04,
          waterPerProduce: 1,
          lines: [],
          solidsFraction: 0.6,
          yields: { trim: 0.8, ferment: 0.95, pack: 0.97 },
          jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
          usualDays: 20,
          note: null,
        },
        hoursAgo + 3,
      ],
      [
        'supply.receive',
        {
          lotId: supply,
          materialId: material,
          supplierId: house_.suppliers[0]!.id,
          supplierLotCode: `R-${tag}`,
          grams: 3000,
          useBy: null,
          condition: null,
        },
        hoursAgo + 2,
      ],
      [
        'batch.start',
        { batchId: made.batchId, formulaId: formula, version: 1, plan: { from: 'trimmed', trimmedGrams: 1400 } },
        hoursAgo + 1,
      ],
      [
        'produce.weigh',
        { batchId: made.batchId, supplyLotId: supply, trimmedGrams: 1400, trimWasteGrams: 0 },
        hoursAgo + 0.9,
      ],
      [
        'brine.make',
        { brineLotId: made.brineLotId, batchId: made.batchId, waterLotId: made.water, waterGrams: 2000 },
        hoursAgo + 0.8,
      ],
      ['salt.weigh', { batchId: made.batchId, saltLotId: made.salt, grams: 80, alreadyIn: false }, hoursAgo + 0.7],
    ]);
    if (pouredGrams === undefined) return made;
    const fill = {
      fillLotId: made.fillLotId,
      batchId: made.batchId,
      vesselId: made.vesselId,
      grams: 1400,
      brine: { brineLotId: made.brineLotId, grams: pouredGrams },
    };
    await together(page, [['vessel.fill', fill, hoursAgo], ...seen(made.fillLotId)]);
    return made;
  }
  const codeOf = async (page: Page, lotId: string): Promise<string> =>
    (await read<{ vessels: { lotId: string; code: string }[] }>(page, '/api/floor')).vessels.find(
      (vessel) => vessel.lotId === lotId,
    )!.code;
  return { read, past, brined, codeOf };
}

import { TestBed } from '@angular/core/testing';
import { of, throwError } from 'rxjs';
import type { LabelPreview, LabelsReply } from '@clear-tally/contract';
import { FakeApi, inHouse, INES, within } from '../../state/testing';
import { Labels } from './labels';
import { FIRST_DESIGN } from './papers';

const CODE = 'NY26-280-A-02';
const design = {
  ...FIRST_DESIGN,
  fields: [...FIRST_DESIGN.fields],
  producer: 'A yard',
  untilDays: 240,
} as LabelsReply['designs'][number]['design'];
const reply = (more: Partial<LabelsReply> = {}): LabelsReply => ({
  run: {
    lotId: '33333333-3333-4333-8333-333333333333',
    code: CODE,
    name: 'Baby turnips',
    last: 37,
    formulaId: '44444444-4444-4444-8444-444444444444',
  },
  designs: [{ designId: '11111111-1111-4111-8111-111111111111', name: 'Jars', formulaId: null, design }],
  prints: [],
  out: 0,
  tally: null,
  parts: [{ first: 1, last: 37, words: '320 g in 330 mL, not heated' }],
  next: 1,
  ...more,
});
const laid: LabelPreview = {
  laid: {
    texts: [
      { field: 'ingredients', words: 'mustard seed', bold: true, xMm: 2.5, yMm: 8, points: 8 },
      { field: 'code', words: `${CODE}-00001-T`, bold: true, xMm: 2.5, yMm: 14, points: 8 },
    ],
    symbol: { xMm: 80, yMm: 2, mm: 15 },
    over: [],
    crossed: [],
  },
  symbol: btoa('<svg xmlns="http://www.w3.org/2000/svg"/>'),
  reads: true,
  problems: [],
  because: ['Mustard: marked because mustard seed went in.'],
};

describe('labels of jars', () => {
  const open = async (of_: LabelsReply = reply(), preview: LabelPreview = laid) => {
    TestBed.resetTestingModule();
    const api = new FakeApi({ [`/api/runs/${CODE}/labels`]: of_, '/api/supplies?kind=packaging': { supplies: [] } });
    const asked: object[] = [];
    const printed: number[] = [];
    Object.assign(api, {
      lookAtLabel: (_: string, given: object) => {
        asked.push(given);
        return of(preview);
      },
      printJar: (_: string, { serial }: { serial: number }) => {
        if (serial === 4) return throwError(() => ({ code: 'device.refused', detail: 'The printer is jammed.' }));
        printed.push(serial);
        return of({});
      },
    });
    inHouse(api, {}, INES);
    const fixture = TestBed.createComponent(Labels);
    fixture.componentRef.setInput('code', CODE);
    for (let look = 0; look < 3; look += 1) await fixture.whenStable();
    await new Promise((resolve) => setTimeout(resolve, 200));
    await fixture.whenStable();
    return { ...within(fixture), api, asked, printed, fixture };
  };

  it('stands on the sheet with what the ledger fills in, each jar with its own code', async () => {
    const page = await open();
    const texts = [...(page.fixture.nativeElement as HTMLElement).querySelectorAll('svg text.words')];
    expect(texts.filter((one) => one.textContent?.trim() === 'mustard seed').length).toBe(8);
    expect(texts.map((one) => one.textContent?.trim())).toContain('NY26-280-A-02-00002-R');
    expect(texts.find((one) => one.textContent?.includes('mustard'))!.getAttribute('font-weight')).toBe('700');
    expect(page.text()).toContain('its symbol was read back from its image');
    expect(page.text()).toContain('marked because mustard seed went in');
  });
  it('a size, an order, a text is looked at before it is kept; nothing is printed of a design not kept', async () => {
    const page = await open();
    await page.type('Size of Name', '16');
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(JSON.stringify((page.asked.at(-1) as typeof design).fields[0])).toContain('"points":16');
    expect(page.text()).toContain('Sheets as PDF: missing the design, kept');
    await page.press('Keep this design');
    const body = page.api.sent.at(-1)![0]! as unknown as { kind: string; body: { design: typeof design } };
    expect([body.kind, body.body.design.fields[0]!.points]).toEqual(['label.design', 16]);
  });
  it('a field is put where it shall stand by arrow keys or by its figures, and goes back in line', async () => {
    const page = await open();
    const box = (page.fixture.nativeElement as HTMLElement).querySelector<HTMLButtonElement>(
      '.box[aria-label^="Ingredients"]',
    )!;
    for (const [key, shiftKey] of [
      ['ArrowRight', true],
      ['ArrowDown', false],
    ] as const)
      box.dispatchEvent(new KeyboardEvent('keydown', { key, shiftKey, bubbles: true }));
    await page.settle();
    const of = () => (page.asked.at(-1) as typeof design).fields.find(({ key }) => key === 'ingredients')!;
    await new Promise((resolve) => setTimeout(resolve, 200));
    // The label as the server laid it stands still here: each key starts from where it stood.
    expect(of().place).toEqual(jasmine.objectContaining({ xMm: 2.5, yMm: 8.5 }));
    await page.type('Wide', '40');
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(of().place!.widthMm).toBe(40);
    await page.press('Back in line');
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(of().place).toBeNull();
  });
  it('a design for this formula is kept as one of its own; the one for all jars stays', async () => {
    const page = await open();
    const ticks = [...(page.fixture.nativeElement as HTMLElement).querySelectorAll('ct-tick label')];
    ticks.find((one) => one.textContent?.includes('only for jars'))!.dispatchEvent(new MouseEvent('click'));
    await page.settle();
    await page.press('Keep this design');
    const body = page.api.sent.at(-1)![0]!.body as { designId: string; formulaId: string };
    expect(body.formulaId).toBe('44444444-4444-4444-8444-444444444444');
    expect(body.designId).not.toBe('11111111-1111-4111-8111-111111111111');
  });
  it('what does not fit, or nobody knows, stands at its field, and holds the sheets', async () => {
    const page = await open(reply(), {
      ...laid,
      problems: [{ field: 'salt', words: 'Salt per 100 g: does not fit' }],
    });
    expect(page.text()).toContain('does not fit');
    expect(page.text()).toContain('Sheets as PDF: missing salt per 100 g: does not fit');
  });
  it('printed again only with the reason; labels are counted until they close', async () => {
    const page = await open(
      reply({
        prints: [
          { first: 1, last: 37, at: '2026-11-20T10:00:00Z', by: 'IC', printer: null, reason: null, labelLot: null },
        ],
        out: 37,
        next: null,
      }),
    );
    expect(page.text()).toContain('missing why again');
    await page.type('Why they are printed again', 'torn');
    expect(page.text()).toContain('PDF of the sheets, 37 labels');
    await page.type('On jars', '35');
    await page.type('Spoiled', '1');
    expect(page.button('Count the labels').textContent).toContain('missing: the reason');
    await page.type('Back', '1');
    await page.press('Count the labels');
    expect(page.api.sent.at(-1)![0]!.body as object).toEqual(
      jasmine.objectContaining({ used: 35, spoiled: 1, back: 1, reason: null }),
    );
  });
});

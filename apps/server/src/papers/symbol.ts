import bwipjs from 'bwip-js/node';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import QRCode from 'qrcode';
import type { SymbolKind } from '@clear-tally/core';
import { prepareZXingModule, readBarcodes, type ReadInputBarcodeFormat } from 'zxing-wasm/reader';

/** Modules of a symbol, row by row; dark ones true. A line symbol is one row. */
export interface SymbolModules {
  readonly columns: number;
  readonly rows: number;
  readonly dark: readonly boolean[];
  /** Width through height. */
  readonly ratio: number;
}

interface Raw {
  pixs?: number[];
  pixx?: number;
  pixy?: number;
  sbs?: number[];
}

/** Height of a line symbol, of its width. */
const BAR_RATIO = 3;

/** A symbol as its modules, drawn sharp in any size. */
export function symbolModules(kind: SymbolKind, content: string): SymbolModules {
  if (kind === 'qrcode') {
    // A thousand labels each have a symbol of their own: this one makes them eight times as fast.
    const { size, data } = QRCode.create(content, { errorCorrectionLevel: 'M' }).modules;
    return { columns: size, rows: size, dark: Array.from(data, Boolean), ratio: 1 };
  }
  // Its types do not know what `raw` answers.
  const [raw] = (bwipjs as unknown as { raw(of: object): Raw[] }).raw({ bcid: kind, text: content });
  if (raw?.pixs)
    return {
      columns: raw.pixx!,
      rows: raw.pixy!,
      dark: Array.from(raw.pixs, (pixel) => pixel === 1),
      ratio: raw.pixx! / raw.pixy!,
    };
  // Bars and spaces, one after the other, in modules.
  const dark = (raw?.sbs ?? []).flatMap((wide, index) => Array.from({ length: wide }, () => index % 2 === 0));
  return { columns: dark.length, rows: 1, dark, ratio: BAR_RATIO };
}

/** Pixels a module takes in the image that is read back, and white modules around it. */
const [PIXELS, QUIET] = [3, 4];

const FORMATS: Readonly<Record<SymbolKind, ReadInputBarcodeFormat>> = {
  qrcode: 'QRCode',
  gs1datamatrix: 'DataMatrix',
  'gs1-128': 'Code128',
};

let ready: Promise<unknown> | undefined;

function reader(): Promise<unknown> {
  ready ??= (async () => {
    const wasm = createRequire(import.meta.url).resolve('zxing-wasm/reader/zxing_reader.wasm');
    const bytes = readFileSync(wasm);
    const wasmBinary = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
    await prepareZXingModule({ overrides: { wasmBinary }, fireImmediately: true });
  })();
  return ready;
}

/** What a scanner reads from the image of a symbol; null: nothing. */
export async function readBack(kind: SymbolKind, symbol: SymbolModules): Promise<string | null> {
  await reader();
  const high = symbol.rows === 1 ? Math.round(symbol.columns / symbol.ratio) : symbol.rows;
  const width = (symbol.columns + 2 * QUIET) * PIXELS;
  const height = (high + 2 * QUIET) * PIXELS;
  const data = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let y = 0; y < high * PIXELS; y += 1) {
    const row = symbol.rows === 1 ? 0 : Math.floor(y / PIXELS) * symbol.columns;
    for (let x = 0; x < symbol.columns * PIXELS; x += 1) {
      if (!symbol.dark[row + Math.floor(x / PIXELS)]) continue;
      const at = ((y + QUIET * PIXELS) * width + x + QUIET * PIXELS) * 4;
      data[at] = data[at + 1] = data[at + 2] = 0;
    }
  }
  const [found] = await readBarcodes({ data, width, height, colorSpace: 'srgb' } as unknown as Uint8Array, {
    formats: [FORMATS[kind]],
    maxNumberOfSymbols: 1,
    textMode: 'Plain',
  });
  return found?.text ?? null;
}

const GROUP = '\u001D';

/** What the reader has to answer for this content: brackets of identifiers are not in the symbol. */
export const asRead = (content: string): string => content.replace(/[()]/g, '').replaceAll(GROUP, '');

/** The symbol as a picture for a page. */
export function symbolSvg(symbol: SymbolModules): string {
  const high = symbol.rows === 1 ? Math.round(symbol.columns / symbol.ratio) : symbol.rows;
  const bars: string[] = [];
  eachRun(symbol, (x, y, wide) => bars.push(`M${x} ${y}h${wide}v${symbol.rows === 1 ? high : 1}h-${wide}z`));
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${symbol.columns} ${high}" shape-rendering="crispEdges"><path d="${bars.join('')}"/></svg>`;
}

/** Dark modules beside each other, as one. */
export function eachRun(
  { columns, rows, dark }: SymbolModules,
  draw: (x: number, y: number, wide: number) => void,
): void {
  for (let y = 0; y < rows; y += 1)
    for (let x = 0; x < columns; x += 1) {
      if (!dark[y * columns + x]) continue;
      let wide = 1;
      while (x + wide < columns && dark[y * columns + x + wide]) wide += 1;
      draw(x, y, wide);
      x += wide;
    }
}

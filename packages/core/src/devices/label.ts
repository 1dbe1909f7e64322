/** A label as a thing of words and one symbol, for paper and for a label printer alike. Millimetres from the upper left. */
export interface Label {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly texts: readonly {
    readonly xMm: number;
    readonly yMm: number;
    readonly points: number;
    readonly bold: boolean;
    readonly words: string;
  }[];
  readonly symbol: { readonly xMm: number; readonly yMm: number; readonly mm: number; readonly content: string } | null;
}

/** A label as lines of the bench protocol. `readLabel(writeLabel('7', label))` is the label. */
export function writeLabel(job: string, label: Label): string[] {
  const plain = (words: string): string => words.replace(/[\r\n]+/g, ' ');
  return [
    `LABEL ${job} ${label.widthMm}x${label.heightMm}`,
    ...label.texts.map(
      (text) => `TEXT ${text.xMm} ${text.yMm} ${text.points} ${text.bold ? 'bold' : 'plain'} ${plain(text.words)}`,
    ),
    ...(label.symbol
      ? [`QR ${label.symbol.xMm} ${label.symbol.yMm} ${label.symbol.mm} ${plain(label.symbol.content)}`]
      : []),
    'END',
  ];
}

/** What a printer understood of the lines of one label; null when they are none. */
export function readLabel(lines: readonly string[]): { job: string; label: Label } | null {
  const head = /^LABEL (\S+) (\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)$/.exec(lines[0] ?? '');
  if (!head || lines.at(-1) !== 'END') return null;
  const texts: Label['texts'][number][] = [];
  let symbol: Label['symbol'] = null;
  for (const line of lines.slice(1, -1)) {
    const text = /^TEXT (\S+) (\S+) (\S+) (plain|bold) (.*)$/.exec(line);
    const square = /^QR (\S+) (\S+) (\S+) (.+)$/.exec(line);
    if (text)
      texts.push({
        xMm: Number(text[1]),
        yMm: Number(text[2]),
        points: Number(text[3]),
        bold: text[4] === 'bold',
        words: text[5]!,
      });
    else if (square)
      symbol = { xMm: Number(square[1]), yMm: Number(square[2]), mm: Number(square[3]), content: square[4]! };
    else return null;
  }
  if (
    [
      ...texts.flatMap(({ xMm, yMm, points }) => [xMm, yMm, points]),
      ...(symbol ? [symbol.xMm, symbol.yMm, symbol.mm] : []),
    ].some((figure) => !Number.isFinite(figure))
  )
    return null;
  return { job: head[1]!, label: { widthMm: Number(head[2]), heightMm: Number(head[3]), texts, symbol } };
}

import bwipjs from 'bwip-js/node';
import type { Label } from '@clear-tally/core';
import { paper } from './paper.js';

/** mm to points. */
const mm = (value: number): number => (value * 72) / 25.4;

/** Labels as a PDF, one to a page, as they would come out of the label printer. */
export function labelSheet(labels: readonly Label[], copies: number): Promise<Buffer> {
  return paper({ margin: 0, autoFirstPage: false, info: { Title: 'Labels' } }, async (doc) => {
    for (const label of labels) {
      // Its types know neither the options of each symbol nor that it answers without a callback.
      const options = label.symbol && { bcid: 'qrcode', text: label.symbol.content, scale: 4, eclevel: 'M' };
      const symbol: Buffer | null = options && (await bwipjs.toBuffer(options));
      for (let copy = 0; copy < copies; copy += 1) {
        doc.addPage({ size: [mm(label.widthMm), mm(label.heightMm)], margin: 0 });
        if (symbol && label.symbol)
          doc.image(symbol, mm(label.symbol.xMm), mm(label.symbol.yMm), {
            width: mm(label.symbol.mm),
            height: mm(label.symbol.mm),
          });
        for (const text of label.texts) {
          const width = mm(label.widthMm - text.xMm - 2);
          doc
            .font(text.bold ? 'bold' : 'text')
            .fontSize(text.points)
            .text(text.words, mm(text.xMm), mm(text.yMm), {
              width,
              height: text.points * 1.25,
              ellipsis: true,
              lineBreak: false,
            });
        }
      }
    }
  });
}

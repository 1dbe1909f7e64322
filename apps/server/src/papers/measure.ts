import type { Measure } from '@clear-tally/core';
import { createRequire } from 'node:module';
import { FONTS } from './fonts.js';

const MM_PER_POINT = 25.4 / 72;

let face: { bold: PDFKit.PDFDocument; text: PDFKit.PDFDocument } | undefined;

/** Read when the first label is looked at, not each time the house starts. */
function faces(): NonNullable<typeof face> {
  const PDFDocument = createRequire(import.meta.url)('pdfkit') as new () => PDFKit.PDFDocument;
  return { bold: new PDFDocument().font(FONTS.bold), text: new PDFDocument().font(FONTS.text) };
}

/** Widths in the faces that print, so that a preview breaks where the paper does. */
export const measured: Measure = (words, points, bold) => {
  face ??= faces();
  return (bold ? face.bold : face.text).fontSize(points).widthOfString(words) * MM_PER_POINT;
};

import type { Measure } from '@clear-tally/core';
import PDFDocument from 'pdfkit';
import { FONTS } from './fonts.js';

const MM_PER_POINT = 25.4 / 72;

let face: { bold: PDFKit.PDFDocument; text: PDFKit.PDFDocument } | undefined;

/** Widths in the faces that print, so that a preview breaks where the paper does. */
export const measured: Measure = (words, points, bold) => {
  face ??= { bold: new PDFDocument().font(FONTS.bold), text: new PDFDocument().font(FONTS.text) };
  return (bold ? face.bold : face.text).fontSize(points).widthOfString(words) * MM_PER_POINT;
};

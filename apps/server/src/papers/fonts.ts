import { createRequire } from 'node:module';

const files = createRequire(import.meta.url);

/** The fonts of the interface, for paper. */
export const FONTS = {
  text: files.resolve('@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff'),
  bold: files.resolve('@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff'),
  figures: files.resolve(
    '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-500-normal.woff',
  ),
} as const;

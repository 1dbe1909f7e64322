/** A vessel's pH in a line, with whether it counts: `phWords({ lastPh: 4.4, phCounts: false }) //=> 'pH 4.40, does not count'`. */
export const phWords = ({ lastPh, phCounts }: { lastPh: number | null; phCounts: boolean }): string =>
  lastPh === null ? 'no pH yet' : `pH ${lastPh.toFixed(2)}${phCounts ? '' : ', does not count'}`;

/** A line in which two versions differ. */
export interface Difference {
  readonly what: string;
  readonly before: string | null;
  readonly after: string | null;
}

/** A formula as labelled lines of words, in the order of the page. */
export type Worded = readonly { readonly key: string; readonly what: string; readonly words: string }[];

/** Line by line: what changed, what came, what went. Lines are matched by their key. Source: handbook 2.5. */
export function differences(before: Worded, after: Worded): Difference[] {
  const old = new Map(before.map((line) => [line.key, line]));
  const now = new Set(after.map(({ key }) => key));
  return [
    ...after.flatMap((line): Difference[] => {
      const was = old.get(line.key);
      if (was?.words === line.words && was.what === line.what) return [];
      return [{ what: line.what, before: was?.words ?? null, after: line.words }];
    }),
    ...before
      .filter(({ key }) => !now.has(key))
      .map((line): Difference => ({ what: line.what, before: line.words, after: null })),
  ];
}

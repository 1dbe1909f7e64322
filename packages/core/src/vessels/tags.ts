const TAG = /^[A-Z][A-Z0-9]{0,4}$/;
const MOST = 60;

/**
 * Tags as they are typed: one, some with commas, or a row of them.
 * @example readTags('C1, G1-G3') //=> { tags: ['C1', 'G1', 'G2', 'G3'], problem: null }
 */
export function readTags(text: string): { readonly tags: readonly string[]; readonly problem: string | null } {
  const tags: string[] = [];
  for (const part of text
    .toUpperCase()
    .split(/[,;\s]+/)
    .filter(Boolean)) {
    const [, head, from, to] = /^([A-Z]{1,3})(\d{1,3})[-–]\1?(\d{1,3})$/.exec(part) ?? [];
    if (head === undefined) {
      if (!TAG.test(part))
        return { tags: [], problem: `“${part}”: a tag is a capital letter and up to four letters or figures, as C1.` };
      tags.push(part);
      continue;
    }
    const [first, last] = [Number(from), Number(to)];
    if (last < first || last - first >= MOST)
      return { tags: [], problem: `“${part}”: a row goes from the lower to the higher, ${MOST} at most.` };
    for (let n = first; n <= last; n += 1) tags.push(`${head}${n}`);
  }
  const twice = tags.find((tag, i) => tags.indexOf(tag) !== i);
  return twice ? { tags: [], problem: `${twice} is named twice.` } : { tags, problem: null };
}

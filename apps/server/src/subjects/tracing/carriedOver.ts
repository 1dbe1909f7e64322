import type { SQL } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { type Uncleaned, uncleanedAfter, uncleanedBefore } from '../../lots/uncleaned.js';
import { walkBack, walkForward } from '../../lots/walk.js';

/** A movement of a way. */
export interface Step {
  id: string;
  from: string | null;
  to: string | null;
  mg: string;
  /** Milliseconds. */
  at: string;
}

/**
 * What vessels that nobody cleaned add to a way: forward the next stay in each and all that was made of it, backward what
 * stood in each before and all that had gone into that; and again from there. Source: handbook 5.3.
 */
export async function carriedOver(
  reader: Reader,
  subject: string,
  way: { readonly back: readonly Step[]; readonly forward: readonly Step[] },
  isForward: boolean,
): Promise<{ before: Uncleaned[]; after: Uncleaned[]; back: Step[]; forward: Step[] }> {
  const follow = async (
    begin: readonly (string | null)[],
    next: typeof uncleanedAfter,
    end: 'from' | 'to',
    walk: (lotId: string) => SQL,
  ): Promise<{ links: Uncleaned[]; steps: Step[] }> => {
    const links = new Map<string, Uncleaned>();
    const [found, walked, seen] = [[] as Step[], new Set<string>(), new Set<string>()];
    let more = [...new Set([subject, ...begin])].filter((id): id is string => id !== null);
    while (more.length > 0) {
      more.forEach((id) => seen.add(id));
      const fresh: string[] = [];
      for (const link of await next(reader, more)) {
        links.set(`${link.from} ${link.to}`, link);
        const lot = link[end];
        if (walked.has(lot)) continue;
        walked.add(lot);
        const steps = await rows<Step>(reader, walk(lot));
        found.push(...steps);
        fresh.push(lot, ...steps.flatMap((step) => step[end] ?? []));
      }
      more = [...new Set(fresh)].filter((id) => !seen.has(id));
    }
    return { links: [...links.values()], steps: found };
  };
  const back = await follow(
    way.back.map(({ from }) => from),
    uncleanedBefore,
    'from',
    walkBack,
  );
  const forward = isForward
    ? await follow(
        way.forward.map(({ to }) => to),
        uncleanedAfter,
        'to',
        walkForward,
      )
    : { links: [], steps: [] };
  return { before: back.links, after: forward.links, back: back.steps, forward: forward.steps };
}

import type { ShelfReply } from '@clear-tally/contract';
import { max } from 'drizzle-orm';
import type { Reader } from '../db/database.js';
import { journal } from '../db/schema/journal.js';
import { shelfOf } from './shelf.js';
import type { Watched } from './watchedVessel.js';
import { loadStanding, type Unreadable } from './watched.js';

/** What stands in the house: every live vessel that can be read, and those that cannot. */
export interface Standing {
  readonly vessels: readonly Watched[];
  readonly faults: Unreadable[];
  /** As drawn across every page; asked for when somebody wants it. */
  shelf(): Promise<Omit<ShelfReply, 'faults'>>;
}

/** A look stays good so long, when nothing is recorded: what is due changes by the minute. */
const GOOD_FOR_MS = 5000;

interface Kept {
  readonly seq: number;
  readonly now: number;
  readonly standing: Promise<Standing>;
}

const kept = new WeakMap<Reader, Kept>();

/**
 * Looks at the house once for everybody who asks at the same time. The look is that of one place in the journal: as soon
 * as anything is recorded, on whichever server, it is made anew.
 */
export async function standing(reader: Reader, now: Date): Promise<Standing> {
  const [last] = await reader.select({ seq: max(journal.seq) }).from(journal);
  const seq = last?.seq ?? 0;
  const known = kept.get(reader);
  if (known && known.seq === seq && Math.abs(now.getTime() - known.now) < GOOD_FOR_MS) return known.standing;
  const made = look(reader, now);
  kept.set(reader, { seq, now: now.getTime(), standing: made });
  // A look that failed is nobody's.
  made.catch(() => kept.delete(reader));
  return made;
}

async function look(reader: Reader, now: Date): Promise<Standing> {
  const { vessels, faults } = await loadStanding(reader, now);
  let shelf: Promise<Omit<ShelfReply, 'faults'>> | undefined;
  return { vessels, faults, shelf: () => (shelf ??= shelfOf(reader, now, vessels)) };
}

import { asc, eq, gt, inArray } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import type { Connection, Database } from '../../db/database.js';
import { person } from '../../db/schema/house.js';
import { journal } from '../../db/schema/journal.js';
import { photo } from '../../db/schema/stores.js';
import { withScratch } from '../../db/scratch.js';
import { Refused } from '../refused.js';
import { type ChainEnd, type ChainEnds, endFaults } from './chainEnds.js';
import { compareTables } from './compareTables.js';
import type { Fault } from './fault.js';
import { replay } from './replay.js';
import { verifyChain } from './verifyChain.js';

export interface Verified {
  readonly entries: number;
  readonly photos: number;
  /** Ends of the chain that were at hand, and the newest of them. */
  readonly ends: number;
  readonly newestEnd: Pick<ChainEnd, 'seq' | 'at'> | null;
  /** The first that is wrong comes first; none when the house is as it was recorded. */
  readonly faults: readonly Fault[];
}

export interface VerifyInput {
  readonly connection: Pick<Connection, 'db' | 'pool'>;
  readonly ownerUrl: string;
  readonly migrations: string;
  readonly ends: ChainEnds | null;
  /** One that somebody brought from outside. */
  readonly brought?: ChainEnd | null;
  readonly onProgress?: (words: string) => void;
}

/**
 * Looks at all that was recorded: the chain with every column beside it, the ends of it kept outside, photos by their
 * hashes, and every table against the journal recorded anew into an empty house.
 */
export async function verifyHouse(input: VerifyInput): Promise<Verified> {
  const {
    connection: { db, pool },
    onProgress = () => undefined,
  } = input;
  const brought = input.brought ?? null;
  const forged = brought && input.ends && !input.ends.isOurs(brought);
  const ends = [...(input.ends?.kept() ?? []), ...(brought && !forged ? [brought] : [])];
  const chain = await verifyChain(db, {
    at: ends.map(({ seq }) => seq),
    onProgress: (entries) => onProgress(`${entries} entries of the chain`),
  });
  const faults: Fault[] = [
    ...(forged
      ? [{ where: 'chain', seq: null, words: 'The end that was brought is not signed with the key of this house.' }]
      : []),
    ...(chain.fault ? [chain.fault] : endFaults(ends, chain)),
  ];
  const photos = await verifyPhotos(db);
  faults.push(...photos.faults);
  // A chain that is broken gives no house to compare with.
  if (!chain.fault) faults.push(...(await againstTheJournal(input, pool, onProgress)));
  const newest = ends.reduce<ChainEnd | null>((most, one) => (most && most.seq >= one.seq ? most : one), null);
  return {
    entries: chain.entries,
    photos: photos.many,
    ends: ends.length,
    newestEnd: newest && { seq: newest.seq, at: newest.at },
    faults: await withWhose(db, faults),
  };
}

/** Beside a row that is wrong, whose entry it was and when. */
async function withWhose(db: Database, faults: readonly Fault[]): Promise<Fault[]> {
  const places = faults.flatMap(({ where, seq }) =>
    seq !== null && where !== 'journal' && where !== 'chain' ? [seq] : [],
  );
  const whose =
    places.length === 0
      ? []
      : await db
          .select({ seq: journal.seq, kind: journal.kind, at: journal.happenedAt, by: person.name })
          .from(journal)
          .innerJoin(person, eq(person.id, journal.by))
          .where(inArray(journal.seq, places));
  return faults.map((fault) => {
    const of = whose.find(({ seq }) => seq === fault.seq);
    return of && fault.where !== 'journal'
      ? {
          ...fault,
          words: `${fault.words} It is ${of.kind} by ${of.by}, ${of.at.toISOString().slice(0, 16).replace('T', ' ')} UTC.`,
        }
      : fault;
  });
}

async function againstTheJournal(
  { connection, ownerUrl, migrations }: VerifyInput,
  pool: Connection['pool'],
  onProgress: (words: string) => void,
): Promise<Fault[]> {
  return withScratch(ownerUrl, migrations, async (scratch) => {
    let recorded = 0;
    try {
      await replay(
        connection.db,
        scratch.db,
        (entries) => {
          recorded = entries;
          onProgress(`${entries} entries recorded anew`);
        },
        () => scratch.pool.query('analyze'),
      );
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      return [
        {
          where: 'journal',
          seq: recorded + 1 + (error.entry ?? 0),
          words: `An entry after ${recorded} cannot be recorded again: ${error.message}`,
        },
      ];
    }
    onProgress('comparing the tables');
    return compareTables(pool, scratch.pool);
  });
}

async function verifyPhotos(db: Database): Promise<{ many: number; faults: Fault[] }> {
  const faults: Fault[] = [];
  let [many, last] = [0, ''];
  for (;;) {
    const page = await db
      .select({ id: photo.id, bytes: photo.bytes })
      .from(photo)
      .where(gt(photo.id, last))
      .orderBy(asc(photo.id))
      .limit(8);
    if (page.length === 0) return { many, faults };
    for (const { id, bytes } of page) {
      if (createHash('sha256').update(bytes).digest('hex') !== id)
        faults.push({
          where: 'photo',
          seq: null,
          words: `The photo ${id.slice(0, 12)}… is not the picture that was kept under this hash.`,
        });
    }
    many += page.length;
    last = page.at(-1)!.id;
  }
}

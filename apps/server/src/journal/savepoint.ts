import type { Transaction } from '../db/database.js';

/** Work inside a transaction that leaves nothing behind when it throws. */
export const savepoint = <T>(tx: Transaction, work: (inner: Transaction) => Promise<T>): Promise<T> =>
  tx.transaction(work);

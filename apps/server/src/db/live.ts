import pg from 'pg';

/** Where routes hear that something was recorded. */
export interface LiveNotes {
  subscribe(listener: (note: string) => void): () => void;
}

/** Listens on a connection of its own and opens it again when it is lost. */
export function listen(url: string, onLost: (error: Error) => void): LiveNotes & { close(): Promise<void> } {
  const listeners = new Set<(note: string) => void>();
  let client: pg.Client | null = null;
  let closed = false;
  let retry: NodeJS.Timeout | undefined;
  const again = (error: Error): void => {
    client = null;
    if (closed) return;
    onLost(error);
    clearTimeout(retry);
    retry = setTimeout(open, 1000);
  };
  const open = (): void => {
    const next = new pg.Client({ connectionString: url });
    next.on('error', again);
    next.on('notification', (message) => listeners.forEach((listener) => listener(message.payload ?? '')));
    next.connect().then(() => {
      client = next;
      return next.query('listen recorded');
    }).catch(again);
  };
  open();
  return {
    subscribe: (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    close: async () => {
      closed = true;
      clearTimeout(retry);
      await client?.end();
    },
  };
}

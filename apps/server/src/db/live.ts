import pg from 'pg';

/** What is heard: something was recorded; a sign-in ended (its token's hash); the line was lost and is back; this server ends. */
export interface LiveNote {
  readonly what: 'recorded' | 'ended' | 'again' | 'closing';
  readonly note: string;
}

/** Where routes hear it. */
export interface LiveNotes {
  subscribe(listener: (note: LiveNote) => void): () => void;
}

/** Listens on a connection of its own and opens it again when it is lost: then whoever watches reads again. */
export function listen(url: string, onLost: (error: Error) => void): LiveNotes & { close(): Promise<void> } {
  const listeners = new Set<(note: LiveNote) => void>();
  let client: pg.Client | null = null;
  let closed = false;
  let lost = false;
  let retry: NodeJS.Timeout | undefined;
  const tell = (note: LiveNote): void => listeners.forEach((listener) => listener(note));
  const open = (): void => {
    const next = new pg.Client({ connectionString: url, connectionTimeoutMillis: 8000, keepAlive: true });
    let over = false;
    const again = (error: Error): void => {
      // One line, one end: an error and its closing are one loss.
      if (over) return;
      over = true;
      client = null;
      if (closed) return;
      lost = true;
      onLost(error);
      clearTimeout(retry);
      retry = setTimeout(open, 1000);
    };
    next.on('error', again);
    next.on('end', () => again(new Error('the line was closed')));
    next.on('notification', (message) =>
      tell({ what: message.channel === 'ended' ? 'ended' : 'recorded', note: message.payload ?? '' }),
    );
    next
      .connect()
      .then(async () => {
        client = next;
        await next.query('listen recorded');
        await next.query('listen ended');
        if (lost) tell({ what: 'again', note: 'again' });
        lost = false;
      })
      .catch(again);
  };
  open();
  return {
    subscribe: (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    close: async () => {
      closed = true;
      tell({ what: 'closing', note: '' });
      clearTimeout(retry);
      await client?.end();
    },
  };
}

/** What a page remembers on this tablet. A storage that is full or refused keeps nothing, and stops nobody. */
export function remembered<T>(key: string, otherwise: T): T {
  try {
    const text = localStorage.getItem(key);
    return text === null ? otherwise : (JSON.parse(text) as T);
  } catch {
    return otherwise;
  }
}

export function remember(key: string, value: unknown): void {
  try {
    localStorage.setItem(key, JSON.stringify(value));
  } catch {
    // As long as the page lives it is known all the same.
  }
}

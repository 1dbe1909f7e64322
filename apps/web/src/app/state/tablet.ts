/**
 * What a page remembers: on this tablet, or in this window alone (`sessionStorage`). A storage that is full or refused
 * keeps nothing, and stops nobody.
 */
export function remembered<T>(key: string, otherwise: T, storage = (): Storage => localStorage): T {
  try {
    const text = storage().getItem(key);
    return text === null ? otherwise : (JSON.parse(text) as T);
  } catch {
    return otherwise;
  }
}

export function remember(key: string, value: unknown, storage = (): Storage => localStorage): void {
  try {
    storage().setItem(key, JSON.stringify(value));
  } catch {
    // As long as the page lives it is known all the same.
  }
}

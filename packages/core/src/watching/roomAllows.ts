/** What is allowed in a room, °C; null: no bound. */
export interface AllowedInRoom {
  readonly leastCelsius?: number | null;
  readonly mostCelsius?: number | null;
}

/** Where a temperature lies beside what a room allows; null: within, or nothing is said of it. */
export function besideAllowed(
  celsius: number,
  { leastCelsius, mostCelsius }: AllowedInRoom,
): 'colder' | 'warmer' | null {
  if (leastCelsius != null && celsius < leastCelsius) return 'colder';
  return mostCelsius != null && celsius > mostCelsius ? 'warmer' : null;
}

/** "18 °C at most", "10 to 18 °C". */
export const allowedWords = ({ leastCelsius, mostCelsius }: AllowedInRoom): string | null =>
  leastCelsius != null && mostCelsius != null
    ? `${leastCelsius} to ${mostCelsius} °C`
    : leastCelsius != null
      ? `${leastCelsius} °C or more`
      : mostCelsius != null
        ? `${mostCelsius} °C at most`
        : null;

/** A moment as the house's clock has it. */
export function localMoment(iso: string, timeZone: string): { day: string; time: string } {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  }).formatToParts(new Date(iso));
  const part = (type: string): string => parts.find((one) => one.type === type)!.value;
  return { day: `${part('year')}-${part('month')}-${part('day')}`, time: `${part('hour')}:${part('minute')}` };
}

/** The moment of a day and a time of the house's clock; null where they are none. An hour that is skipped is none. */
export function momentAt(day: string, time: string, timeZone: string): string | null {
  const typed = /^(\d{1,2})[:.](\d{2})$/.exec(time.trim());
  if (!typed || !/^\d{4}-\d\d-\d\d$/.test(day)) return null;
  const [hour, minute] = [Number(typed[1]), Number(typed[2])];
  if (hour > 23 || minute > 59) return null;
  const wanted = `${String(hour).padStart(2, '0')}:${typed[2]}`;
  const asUtc = Date.parse(`${day}T${wanted}:00Z`);
  if (Number.isNaN(asUtc)) return null;
  // The clock is off UTC by so much there; where it changes meanwhile, a second look settles it.
  let at = asUtc;
  for (let look = 0; look < 3; look += 1) {
    const shown = localMoment(new Date(at).toISOString(), timeZone);
    if (shown.day === day && shown.time === wanted) return new Date(at).toISOString();
    at += asUtc - Date.parse(`${shown.day}T${shown.time}:00Z`);
  }
  return null;
}

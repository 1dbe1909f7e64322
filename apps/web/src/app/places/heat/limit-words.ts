import type { HeatLimits } from '@clear-tally/core';

/** What a process asks for, a line each, in the figures it was set in. */
export function limitWords(limits: HeatLimits): string[] {
  const ask = (words: string, limit: number | null, unit: string): string[] =>
    limit === null ? [] : [`${words} ${limit} ${unit}`.trim()];
  return [
    `${limits.processC} °C at the cold spot for ${limits.minutes} min`,
    `pH ${limits.maxPh} or lower at filling`,
    `containers up to ${limits.sizeMl} mL`,
    ...ask('in every bottle, the last too, at least', limits.fillC, '°C'),
    ...ask('in the jars when the bath begins at least', limits.initialC, '°C'),
    ...ask('water above the lids at least', limits.coverMm, 'mm'),
    ...ask('headspace at least', limits.headspaceMm, 'mm'),
    ...ask('turned, or steam on the lids, for', limits.turnedSeconds, 's'),
    ...ask('rest before they are lifted', limits.restMinutes, 'min'),
    ...ask('cooled to less than', limits.cooledC, '°C'),
    ...(limits.lethality
      ? [
          `F ${limits.lethality.minutes} min at ${limits.lethality.refC} °C, z ${limits.lethality.z}, ${limits.lethality.countsComeUp ? 'heating up and cooling down counted' : 'of the hold alone'}`,
        ]
      : []),
    ...(limits.method === 'waterBath' ? [`at ${limits.altitudeM} m above the sea`] : []),
  ];
}

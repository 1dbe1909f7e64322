/** Room of a vessel, in millilitres and fractions of the brim. Source: handbook 2.6. */
export interface Room {
  readonly brimMl: number;
  readonly maxFill: number;
  /** What weights and stones take. */
  readonly weightVolumeMl: number;
}

/** brim × highest fill − weights: what can be used. `usableMl({ brimMl: 15000, maxFill: 0.88, weightVolumeMl: 350 }) //=> 12850` */
export const usableMl = (room: Room): number => room.brimMl * room.maxFill - room.weightVolumeMl;

/** The least a vessel should hold, so that little air stays in it. */
export const leastMl = (room: { brimMl: number; minFill: number; weightVolumeMl: number }): number =>
  Math.max(0, room.brimMl * room.minFill - room.weightVolumeMl);

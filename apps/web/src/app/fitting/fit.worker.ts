import { expose } from 'comlink';
import { fitVessels, type FitVessel, type VesselFit } from '@clear-tally/core';

/** Fits off the page's own thread: the page stays free while 60 vessels are tried. */
const fitting = {
  fit: (batchMl: number, vessels: readonly FitVessel[]): VesselFit => fitVessels({ batchMl, vessels }),
};
export type FittingWorker = typeof fitting;

expose(fitting);

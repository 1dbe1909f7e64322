import { rmSync } from 'node:fs';
import { TEMPLATE } from './runningHouse.js';

/** Builds what is stale, and makes the demo house that every file of tests gets a copy of; unless that was done before. */
export default async function makeTemplate(): Promise<void> {
  if (process.env['CLEAR_TALLY_TEMPLATE'] === 'made') return;
  rmSync(TEMPLATE.folder, { recursive: true, force: true });
  await TEMPLATE.start({ asBuilt: false });
  await TEMPLATE.stop();
}

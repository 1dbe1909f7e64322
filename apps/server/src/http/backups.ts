import type { BackupsReply } from '@clear-tally/contract';
import { existsSync, readdirSync } from 'node:fs';
import { basename } from 'node:path';

const NAME = /^clear-tally-(own|demo)-(\d{4}-\d\d-\d\d)T(\d\d)(\d\d)(\d\d)\.backup$/;
/** Older than this they are old: one is made every night. */
const OLD_HOURS = 36;
/** A backup that was never brought back is a hope. Source: handbook 7. */
const OLD_VERIFIED_DAYS = 100;

/** Which backups lie in a folder, by their names alone; the page opens none of them. */
export function backupsIn(folder: string, which: 'own' | 'demo', now: Date): BackupsReply {
  const names = existsSync(folder) ? readdirSync(folder) : [];
  const found = names
    .flatMap((name) => {
      const [, of, day, h, m, s] = NAME.exec(name) ?? [];
      if (of !== which) return [];
      return [{ at: `${day}T${h}:${m}:${s}.000Z`, verified: names.includes(`${name}.verified`) }];
    })
    .sort((a, b) => (a.at < b.at ? 1 : -1));
  const [newest] = found;
  const verified = found.find((one) => one.verified)?.at ?? null;
  const hours = (at: string): number => (now.getTime() - Date.parse(at)) / 3_600_000;
  return {
    // Its name; where it lies on the machine is nobody’s business who only has the page.
    folder: basename(folder),
    many: found.length,
    newest: newest?.at ?? null,
    old: !newest || hours(newest.at) > OLD_HOURS,
    verified,
    verifiedOld: !verified || hours(verified) > OLD_VERIFIED_DAYS * 24,
  };
}

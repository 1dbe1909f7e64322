import type { RightsReply } from '@clear-tally/contract';
import { allKinds } from '../../journal/registry.js';

/** What is no entry, and asks who somebody is all the same. */
const BESIDE: RightsReply['rights'] = [
  {
    key: 'read',
    words: 'Read everything',
    does: 'every page, trace, lot, dossier, export and paper',
    owner: true,
    maker: true,
    inspector: true,
    note: 'what an inspector looks at is written down',
  },
  {
    key: 'people',
    words: 'Who comes in',
    does: 'PINs given, sign-ins and locks seen and ended',
    owner: true,
    maker: false,
    inspector: false,
    note: null,
  },
  {
    key: 'record',
    words: 'The record',
    does: 'the whole house verified, backups seen',
    owner: true,
    maker: false,
    inspector: false,
    note: null,
  },
];

/** Every right against every role, read from the descriptions the write path itself goes by. */
export const readRights = (): RightsReply => ({
  rights: [
    ...BESIDE,
    ...allKinds()
      .filter(({ who }) => who !== 'rules')
      .map(({ kind, words, does, who, whoWords }) => ({
        key: kind,
        words,
        does,
        owner: true,
        maker: who === 'maker',
        inspector: false,
        note: whoWords ?? null,
      })),
  ],
});

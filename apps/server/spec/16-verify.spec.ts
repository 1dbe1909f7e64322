import { verificationReply } from '@clear-tally/contract';
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import sharp from 'sharp';
import { CHAIN_START, chainHash } from '../src/journal/canonical.js';
import { ChainEnds } from '../src/journal/verify/chainEnds.js';
import { type Verified, verifyHouse } from '../src/journal/verify/verifyHouse.js';
import { keepPhoto } from '../src/lots/photos.js';
import { Client } from './client.js';
import { emptyDatabase } from './databases.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, type DryBatch, dryBatch, packJars, readWell, sour } from './oneBatch.js';

describe('nobody changes the record unseen', () => {
  let house: TestHouse;
  let admin: pg.Client;
  let folder: string;
  let ends: ChainEnds;
  let batch: DryBatch;
  beforeAll(async () => {
    house = await openHouse('spec_verify');
    folder = mkdtempSync(join(tmpdir(), 'clear-tally-keep-'));
    ends = new ChainEnds(folder);
    batch = await dryBatch(house, { tag: 'C1', at: daysAgo(30) });
    await sour(house, batch.fillId, daysAgo(30));
    await packJars(house, batch.fillId, 12);
    await house.record('house.rule', { rule: 'secondPerson', option: 'yes', reason: 'There are two now.' });
    await readWell(house, batch.fillId, 3.72);
    await house.record('hold.place', { lotId: batch.fillId, reason: 'A look at the lid' });
    const { id } = await keepPhoto(
      house.connection.db,
      await sharp({ create: { width: 20, height: 20, channels: 3, background: '#456' } })
        .jpeg()
        .toBuffer(),
      new Date(),
    );
    await house
      .record(
        'check.make',
        { lotId: batch.fillId, what: 'photo', words: null, quiet: false, photo: id },
        { by: house.maker },
      )
      .catch(() => undefined);
    await ends.write(house.connection.db, new Date());
    // As somebody with the keys of the database would: no trigger, no grant and no reference stands in the way.
    admin = new pg.Client({
      connectionString: house.connection.ownerUrl.replace(
        /\/\/[^@]*@/,
        process.env['TEST_ADMIN_URL']!.match(/\/\/[^@]*@/)![0],
      ),
    });
    await admin.connect();
    await admin.query("set session_replication_role = 'replica'");
  }, 60_000);
  afterAll(async () => {
    await admin.end();
    rmSync(folder, { recursive: true, force: true });
    await house.close();
  });

  const look = (more: Partial<Parameters<typeof verifyHouse>[0]> = {}): Promise<Verified> =>
    verifyHouse({
      connection: house.connection,
      ownerUrl: house.connection.ownerUrl,
      migrations: 'apps/server/migrations',
      ends,
      ...more,
    });
  /** Does it, looks, and puts everything back as it was. */
  const tampered = async (tables: readonly string[], doIt: () => Promise<unknown>): Promise<Verified> => {
    const own = new Map<string, string>();
    for (const table of tables) {
      await admin.query(`create temp table kept_${table} as table ${table}`);
      const columns = await admin.query<{ name: string }>(
        "select column_name as name from information_schema.columns where table_name = $1 and is_generated = 'NEVER' and table_schema = 'public'",
        [table],
      );
      own.set(table, columns.rows.map(({ name }) => `"${name}"`).join(', '));
    }
    try {
      await doIt();
      return await look();
    } finally {
      for (const table of tables) {
        await admin.query(`delete from ${table}`);
        await admin.query(`insert into ${table} (${own.get(table)}) select ${own.get(table)} from kept_${table}`);
        await admin.query(`drop table kept_${table}`);
      }
    }
  };

  it('a house that is as it was recorded has no fault, and the scratch database is gone', async () => {
    const verified = await look();
    expect(verified.faults).toEqual([]);
    expect(verified.entries).toBeGreaterThan(25);
    expect(verified.photos).toBe(1);
    expect(verified.newestEnd!.seq).toBe(verified.entries);
    expect(
      (await admin.query("select datname from pg_database where datname like 'clear_tally_check_%'")).rowCount,
    ).toBe(0);
  }, 30_000);

  const columns: readonly (readonly [string, string, string])[] = [
    ['a kind', "update journal set kind = 'temperature.read' where seq = 20", 'kind'],
    ['a person', "update journal set by = (select id from person where role = 'inspector') where seq = 20", 'person'],
    ['a moment', "update journal set happened_at = happened_at - interval '1 minute' where seq = 20", 'moment'],
    ['an id', 'update journal set entry_id = gen_random_uuid() where seq = 20', 'id'],
    [
      'what was recorded',
      "update journal set entry = replace(entry, '\"grams\":', '\"grams\":1') where seq = (select min(seq) from journal where kind = 'salt.weigh')",
      'was changed',
    ],
    ['a fact', `update journal set facts = '{"code":"SP-9999"}' where seq = 22`, 'was changed'],
    [
      'when it was recorded',
      "update journal set recorded_at = recorded_at - interval '1 day' where seq = 20",
      'was changed',
    ],
    ['a row in the middle gone', 'delete from journal where seq = 20', 'is missing'],
  ];
  for (const [name, statement, words] of columns) {
    it(`${name}, changed in the journal: named with its entry`, async () => {
      const { faults } = await tampered(['journal'], () => admin.query(statement));
      expect(faults[0]!.where).toBe('journal');
      expect(faults[0]!.words).toContain(words);
      expect(faults[0]!.seq).not.toBeNull();
    }, 30_000);
  }

  for (const many of [1, 10, 100_000]) {
    it(`the last ${many === 1 ? 'row' : many === 10 ? 'ten rows' : 'and every other row'} deleted: the end outside says how many are missing`, async () => {
      const all = ends.newest()!.seq;
      const { faults } = await tampered(['journal'], () =>
        admin.query('delete from journal where seq > $1', [Math.max(0, all - many)]),
      );
      expect(faults[0]!.words).toContain(
        many === 1 ? 'An entry is missing' : `${Math.min(many, all)} entries are missing`,
      );
    }, 30_000);
  }

  it('a chain computed anew over a changed entry: the end outside does not fit', async () => {
    const { faults } = await tampered(['journal'], async () => {
      const rows = (
        await admin.query<{ seq: string; entry: string; facts: string; recorded_at: Date }>(
          'select * from journal order by seq',
        )
      ).rows;
      let previousHash = CHAIN_START;
      for (const row of rows) {
        const entry = row.seq === '20' ? row.entry.replace('"device":"spec"', '"device":"pencil"') : row.entry;
        const hash = chainHash({
          seq: Number(row.seq),
          previousHash,
          recordedAt: row.recorded_at,
          entry,
          facts: row.facts,
        });
        await admin.query('update journal set entry = $2, previous_hash = $3, hash = $4 where seq = $1', [
          row.seq,
          entry,
          previousHash,
          hash,
        ]);
        previousHash = hash;
      }
    });
    expect(faults[0]!.words).toContain('computed anew');
  }, 30_000);

  const rows: readonly (readonly [string, string, string, string])[] = [
    [
      'the mass of a movement',
      'movement',
      "update movement set milligrams = milligrams + 1000 where id = (select max(id) from movement where kind = 'salt.weigh')",
      'milligrams',
    ],
    ['a reading', 'reading', 'update reading set value = 3.1 where value = 3.72', 'value'],
    ['a hold', 'hold', 'update hold set lifted_at = now()', 'lifted_at'],
    [
      'a supplier’s code',
      'lot',
      "update lot set supplier_lot_code = 'F9-OTHER' where kind = 'supply' and supplier_lot_code like 'F2%'",
      'supplier_lot_code',
    ],
    ['a range of jars', 'jar_range', 'update jar_range set last_serial = last_serial + 1', 'last_serial'],
    [
      'a movement nobody recorded',
      'movement',
      'insert into movement select id + 900, seq, root_entry_id, kind, at, from_lot, source, to_lot, sink, milligrams, cancels from movement order by id limit 1',
      'recorded by no entry',
    ],
    ['a movement gone', 'movement', 'delete from movement where id = (select max(id) from movement)', 'is missing'],
    ['an answer of the house', 'house_rule', "update house_rule set option = 'no'", 'option'],
    ['the acid limit', 'house', 'update house set acid_limit = 4.6', 'acid_limit'],
  ];
  for (const [name, table, statement, words] of rows) {
    it(`${name}, changed beside the journal: named`, async () => {
      const { faults } = await tampered([table], () => admin.query(statement));
      expect(faults.map((fault) => fault.where)).toContain(table);
      expect(faults.find((fault) => fault.where === table)!.words).toContain(words);
    }, 30_000);
  }
  it('a photo that is another picture: named', async () => {
    const { faults } = await tampered(['photo'], () => admin.query("update photo set bytes = bytes || '\\x00'::bytea"));
    expect(faults[0]!.where).toBe('photo');
  }, 30_000);

  it('an end brought from outside counts, a forged one is named; ends are only ever added', async () => {
    const end = ends.newest()!;
    const other = new ChainEnds(mkdtempSync(join(tmpdir(), 'clear-tally-keep-')));
    expect((await look({ ends: other, brought: end })).faults[0]!.words).toContain('not signed');
    expect((await look({ brought: { ...end, seq: end.seq + 5 } })).faults[0]!.words).toContain('not signed');
    expect((await look({ brought: end })).faults).toEqual([]);
    const before = readFileSync(join(folder, 'chain-ends.jsonl'), 'utf8');
    await ends.write(house.connection.db, new Date());
    expect(readFileSync(join(folder, 'chain-ends.jsonl'), 'utf8')).toBe(before);
    writeFileSync(join(folder, 'chain-ends.jsonl'), `${before}{"seq":1,"hash":"x"}\nnot json\n`);
    expect(ends.kept().length).toBe(before.trim().split('\n').length);
    writeFileSync(join(folder, 'chain-ends.jsonl'), before);
  }, 40_000);

  it('nothing that is recorded can be emptied, nor changed by the application where no handler changes it', async () => {
    const owned = new pg.Client({ connectionString: house.connection.ownerUrl });
    await owned.connect();
    for (const table of [
      'journal',
      'movement',
      'reading',
      'lot',
      'hold',
      'jar_range',
      'photo',
      'finding',
      'check_mark',
      'entry_lot',
    ])
      await expectAsync(owned.query(`truncate ${table} cascade`))
        .withContext(table)
        .toBeRejected();
    await owned.end();
    for (const statement of [
      'update lot set code = code',
      'update lot set at = at',
      "update lot set supplier_lot_code = 'x'",
      'update hold set reason = reason',
      'update hold set placed_at = placed_at',
      'update person set id = id',
      'update house set name = name',
      'update vessel set tag = tag',
      'update formula set data = data',
      'update meter set name = name',
      'update room set id = id',
      'delete from lot',
      'delete from hold',
      'delete from photo',
      'update photo set at = at',
      'update finding set verdict = verdict',
      'delete from house_rule',
      'update jar_range set last_serial = 1',
      'truncate reading',
      'drop table reading',
      'alter table reading disable trigger all',
    ]) {
      await expectAsync(house.connection.pool.query(statement))
        .withContext(statement)
        .toBeRejectedWithError(/permission denied|must be owner/);
    }
  });

  it('an emptied database whose folder knows of entries is said to be one: nothing is loaded over it', async () => {
    const empty = await emptyDatabase('spec_emptied');
    const server = spawn(process.execPath, ['--import', 'tsx', 'apps/server/src/main.ts'], {
      stdio: ['ignore', 'ignore', 'pipe'],
      env: {
        ...process.env,
        PORT: '0',
        DATABASE_URL: empty.appUrl,
        DATABASE_OWNER_URL: empty.ownerUrl,
        MIGRATIONS: 'apps/server/migrations',
        CLEAR_TALLY_KEEP: folder,
      },
    });
    let said = '';
    server.stderr.on('data', (data: Buffer) => {
      said += data.toString();
    });
    expect(await new Promise((resolve) => server.once('exit', resolve))).toBe(3);
    expect(said).toContain('The database is empty, but on');
    expect((await empty.pool.query('select count(*)::int as n from journal')).rows).toEqual([{ n: 0 }]);
    await empty.close();
  }, 30_000);

  it('an owner starts it from the page and reads what it found; nobody else does', async () => {
    const owner = await Client.signIn(house, house.owner);
    const maker = await Client.signIn(house, house.maker);
    expect(((await maker.get('/api/verification')).body as { code: string }).code).toBe('who.notAllowed');
    expect((await owner.send('POST', '/api/verification', { end: null })).status).toBe(200);
    let reply = verificationReply.parse((await owner.get('/api/verification')).body);
    for (let turn = 0; turn < 200 && reply.state === 'running'; turn += 1) {
      await new Promise((resolve) => setTimeout(resolve, 100));
      reply = verificationReply.parse((await owner.get('/api/verification')).body);
    }
    expect(reply.state).toBe('done');
    expect(reply.faults).toEqual([]);
  }, 40_000);
});

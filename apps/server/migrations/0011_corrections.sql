CREATE TABLE "cleaning" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"vessel_id" uuid NOT NULL,
	"agent" text NOT NULL,
	"dilution" text,
	"contact_minutes" numeric(9, 4),
	"rinsed" boolean DEFAULT false NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "correction" (
	"seq" bigint PRIMARY KEY NOT NULL,
	"root_entry_id" uuid NOT NULL,
	"right" jsonb
);
--> statement-breakpoint
CREATE TABLE "row_change" (
	"seq" bigint NOT NULL,
	"number" integer NOT NULL,
	"relation" text NOT NULL,
	"key" jsonb NOT NULL,
	"was" jsonb NOT NULL,
	CONSTRAINT "row_change_seq_number_pk" PRIMARY KEY("seq","number")
);
--> statement-breakpoint
CREATE TABLE "taken_back" (
	"seq" bigint NOT NULL,
	"number" integer NOT NULL,
	"relation" text NOT NULL,
	"was" jsonb NOT NULL,
	CONSTRAINT "taken_back_seq_number_pk" PRIMARY KEY("seq","number")
);
--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "undone_seq" bigint;--> statement-breakpoint
ALTER TABLE "movement" ADD COLUMN "void" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "void" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "correction" ADD CONSTRAINT "correction_seq_journal_seq_fk" FOREIGN KEY ("seq") REFERENCES "public"."journal"("seq") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "taken_back" ADD CONSTRAINT "taken_back_seq_journal_seq_fk" FOREIGN KEY ("seq") REFERENCES "public"."journal"("seq") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "cleaning" ADD CONSTRAINT "cleaning_vessel_id_vessel_id_fk" FOREIGN KEY ("vessel_id") REFERENCES "public"."vessel"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "cleaning_vessel_id_at_index" ON "cleaning" USING btree ("vessel_id","at");--> statement-breakpoint
-- Cleanings of before: what they were done with stands in the journal.
INSERT INTO cleaning (entry_id, vessel_id, agent, dilution, contact_minutes, rinsed, by, at, seq)
  SELECT j.entry_id, v.id, j.body ->> 'agent', j.body ->> 'dilution', (j.body ->> 'contactMinutes')::numeric, coalesce((j.body ->> 'rinsed')::boolean, false), j.by, j.happened_at, j.seq
  FROM (SELECT *, entry::jsonb -> 'body' AS body FROM journal WHERE kind = 'vessel.clean') j JOIN vessel v ON v.id = (j.body ->> 'vesselId')::uuid;
--> statement-breakpoint
CREATE INDEX correction_root ON correction (root_entry_id, seq);
--> statement-breakpoint
-- The ledger as it counts: neither what was cancelled nor a row that only takes back.
CREATE OR REPLACE VIEW live_movement AS
  SELECT m.* FROM movement m
  WHERE NOT m.void AND NOT EXISTS (SELECT 1 FROM movement c WHERE c.cancels = m.id);
--> statement-breakpoint
-- The readings as they count: of one root the latest, unless that says it was never read.
CREATE OR REPLACE VIEW live_reading AS
  SELECT r.* FROM reading r
  WHERE NOT r.void AND NOT EXISTS (SELECT 1 FROM reading c WHERE c.root_entry_id = r.root_entry_id AND c.seq > r.seq);
--> statement-breakpoint
CREATE OR REPLACE FUNCTION keep_balance() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  IF NOT NEW.void THEN
    PERFORM move_balance(NEW.from_lot, NEW.to_lot, NEW.milligrams);
  END IF;
  IF NEW.cancels IS NOT NULL THEN
    PERFORM move_balance(m.from_lot, m.to_lot, -m.milligrams) FROM movement m WHERE m.id = NEW.cancels;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- Which entry wrote a row, where its table does not say so for its own sake.
CREATE FUNCTION stamp_entry() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  NEW.entry_seq := nullif(current_setting('clear_tally.seq', true), '')::bigint;
  RETURN NEW;
END $$;
--> statement-breakpoint
-- How a row was before an entry changed it.
CREATE FUNCTION keep_change() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  by_entry bigint := nullif(current_setting('clear_tally.seq', true), '')::bigint;
BEGIN
  IF by_entry IS NOT NULL AND OLD IS DISTINCT FROM NEW THEN
    INSERT INTO row_change (seq, number, relation, key, was)
      SELECT by_entry, (SELECT coalesce(max(number), 0) + 1 FROM row_change WHERE seq = by_entry), TG_TABLE_NAME,
        (SELECT jsonb_object_agg(k, to_jsonb(OLD) -> k) FROM unnest(TG_ARGV) k), to_jsonb(OLD);
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE INDEX row_change_key ON row_change (relation, key);
--> statement-breakpoint
CREATE INDEX row_change_writer ON row_change (relation, (coalesce(was ->> 'seq', was ->> 'entry_seq')));
--> statement-breakpoint
DO $$
DECLARE
  stamped text;
  changed record;
  key_of record;
BEGIN
  FOREACH stamped IN ARRAY ARRAY['hold', 'label_printed', 'timer', 'jar_range', 'meter', 'supplier', 'material', 'room', 'vessel', 'person'] LOOP
    EXECUTE format('ALTER TABLE %I ADD COLUMN entry_seq bigint', stamped);
    EXECUTE format('CREATE TRIGGER %I BEFORE INSERT ON %I FOR EACH ROW EXECUTE FUNCTION stamp_entry()', stamped || '_stamp', stamped);
    EXECUTE format('CREATE INDEX %I ON %I (entry_seq)', stamped || '_entry_seq', stamped);
  END LOOP;
  -- A supplier's number of lots only counts on: no code is given twice.
  FOR changed IN SELECT * FROM (VALUES ('lot', 'id'), ('hold', 'entry_id,lot_id'), ('vessel', 'id'), ('material', 'id'), ('house', 'id'),
      ('person', 'id'), ('timer', 'id'), ('house_rule', 'rule'), ('closing', 'lot_id'), ('line_mark', 'batch_id,line'), ('check_plan', 'lot_id'),
      ('salt_acceptance', 'batch_id'), ('salt_confirmation', 'batch_id'), ('formula_state', 'formula_id')) AS t (name, keys) LOOP
    EXECUTE format('CREATE TRIGGER %I AFTER UPDATE ON %I FOR EACH ROW EXECUTE FUNCTION keep_change(%s)', changed.name || '_change', changed.name,
      (SELECT string_agg(quote_literal(k), ', ') FROM unnest(string_to_array(changed.keys, ',')) k));
  END LOOP;
  -- A row of the house that is put right is taken out and written anew: what points at it waits until both are done.
  FOR key_of IN SELECT c.conname, c.conrelid::regclass AS of_table FROM pg_constraint c
      WHERE c.contype = 'f' AND c.confrelid IN ('vessel'::regclass, 'room'::regclass, 'supplier'::regclass, 'material'::regclass, 'meter'::regclass, 'person'::regclass) LOOP
    EXECUTE format('ALTER TABLE %s ALTER CONSTRAINT %I DEFERRABLE INITIALLY IMMEDIATE', key_of.of_table, key_of.conname);
  END LOOP;
END $$;
--> statement-breakpoint
ALTER TABLE correction ALTER CONSTRAINT correction_seq_journal_seq_fk DEFERRABLE INITIALLY DEFERRED;
--> statement-breakpoint
ALTER TABLE taken_back ALTER CONSTRAINT taken_back_seq_journal_seq_fk DEFERRABLE INITIALLY DEFERRED;
--> statement-breakpoint
-- What is there already: the entry that wrote each row. A hold on what did not exist when it was placed came with that lot.
UPDATE hold h SET entry_seq = greatest(j.seq, l.seq) FROM journal j, lot l WHERE j.entry_id = h.entry_id AND l.id = h.lot_id;
--> statement-breakpoint
UPDATE label_printed p SET entry_seq = j.seq FROM journal j WHERE j.entry_id = p.entry_id;
--> statement-breakpoint
UPDATE jar_range r SET entry_seq = l.seq FROM lot l WHERE l.id = r.run_lot_id;
--> statement-breakpoint
UPDATE timer t SET entry_seq = j.seq FROM journal j WHERE j.kind = 'timer.start' AND j.entry::jsonb #>> '{body,timerId}' = t.id::text;
--> statement-breakpoint
UPDATE meter t SET entry_seq = j.seq FROM journal j WHERE j.kind = 'meter.add' AND j.entry::jsonb #>> '{body,meterId}' = t.id::text;
--> statement-breakpoint
UPDATE supplier t SET entry_seq = j.seq FROM journal j WHERE j.kind = 'supplier.add' AND j.entry::jsonb #>> '{body,supplierId}' = t.id::text;
--> statement-breakpoint
UPDATE material t SET entry_seq = j.seq FROM journal j WHERE j.kind = 'material.add' AND j.entry::jsonb #>> '{body,materialId}' = t.id::text;
--> statement-breakpoint
UPDATE room t SET entry_seq = j.seq FROM journal j WHERE j.kind = 'room.add' AND j.entry::jsonb #>> '{body,roomId}' = t.id::text;
--> statement-breakpoint
UPDATE vessel t SET entry_seq = j.seq FROM journal j WHERE j.kind = 'vessel.add' AND j.entry::jsonb #>> '{body,vesselId}' = t.id::text;
--> statement-breakpoint
UPDATE person t SET entry_seq = j.seq FROM journal j WHERE j.kind = 'person.add' AND j.entry::jsonb #>> '{body,personId}' = t.id::text;
--> statement-breakpoint
-- Of entries before this nobody kept how a row was before they changed it.
CREATE TABLE changes_kept (from_seq bigint PRIMARY KEY);
--> statement-breakpoint
INSERT INTO changes_kept SELECT coalesce(max(seq), 0) FROM journal;
--> statement-breakpoint
-- A correction takes an entry's rows back: movements by a row that cancels each, all others into "taken_back". Rows it
-- changed stand again as they were. Its lots stay, laid aside, until they are written anew or are left so.
CREATE FUNCTION take_back(of_seq bigint, of_entry uuid, by_seq bigint, moment timestamptz) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  n integer;
  next bigint;
  m record;
  change record;
  columns text;
  keys text;
  found_rows integer;
  written record;
BEGIN
  IF EXISTS (SELECT 1 FROM journal WHERE seq = by_seq) THEN
    RAISE EXCEPTION 'entry % is recorded already', by_seq USING ERRCODE = 'restrict_violation';
  END IF;
  PERFORM set_config('clear_tally.seq', '', true);
  SELECT coalesce(max(number), 0) INTO n FROM taken_back WHERE seq = by_seq;
  SELECT coalesce(max(id) + 1, by_seq * 1000) INTO next FROM movement WHERE id >= by_seq * 1000 AND id < (by_seq + 1) * 1000;
  FOR m IN SELECT * FROM live_movement l WHERE l.seq = of_seq OR l.root_entry_id = of_entry ORDER BY l.id DESC LOOP
    INSERT INTO movement (id, seq, root_entry_id, kind, at, from_lot, source, to_lot, sink, milligrams, cancels, void)
      VALUES (next, by_seq, m.root_entry_id, m.kind, m.at, m.from_lot, m.source, m.to_lot, m.sink, m.milligrams, m.id, true);
    next := next + 1;
    -- What it stood instead of counts again, when that is another entry's.
    INSERT INTO movement (id, seq, root_entry_id, kind, at, from_lot, source, to_lot, sink, milligrams)
      SELECT next, c.seq, c.root_entry_id, c.kind, c.at, c.from_lot, c.source, c.to_lot, c.sink, c.milligrams
      FROM movement c WHERE c.id = m.cancels AND NOT c.void AND c.seq <> of_seq AND c.root_entry_id <> of_entry;
    GET DIAGNOSTICS found_rows = ROW_COUNT;
    next := next + found_rows;
  END LOOP;
  -- A reading is taken back by a later one of its root that says so; the right one stands beside that.
  INSERT INTO reading (entry_id, root_entry_id, seq, lot_id, kind, value, sample, at, void)
    SELECT md5(by_seq || ' ' || r.root_entry_id)::uuid, r.root_entry_id, by_seq, r.lot_id, r.kind, r.value, r.sample, r.at, true
    FROM live_reading r WHERE r.root_entry_id = of_entry;
  FOR change IN SELECT * FROM row_change WHERE seq = of_seq ORDER BY number DESC LOOP
    SELECT string_agg(quote_ident(a.attname), ', ') FILTER (WHERE a.attgenerated = '' AND NOT change.key ? a.attname),
      string_agg(format('t.%1$I = r.%1$I', a.attname), ' AND ') FILTER (WHERE change.key ? a.attname)
      INTO columns, keys FROM pg_attribute a
      WHERE a.attrelid = change.relation::regclass AND a.attnum > 0 AND NOT a.attisdropped;
    n := n + 1;
    EXECUTE format('INSERT INTO taken_back SELECT $1, $2, $3, to_jsonb(t) FROM %I t, jsonb_populate_record(NULL::%I, $4) r WHERE %s',
      change.relation, change.relation, keys) USING by_seq, n, change.relation, change.was;
    EXECUTE format('UPDATE %I t SET (%s) = (SELECT %s FROM jsonb_populate_record(NULL::%I, $1)) FROM jsonb_populate_record(NULL::%I, $1) r WHERE %s',
      change.relation, columns, columns, change.relation, change.relation, keys) USING change.was;
  END LOOP;
  DELETE FROM row_change WHERE seq = of_seq;
  FOR written IN SELECT * FROM (VALUES ('hold', 'entry_seq'), ('label_printed', 'entry_seq'), ('timer', 'entry_seq'), ('jar_range', 'entry_seq'),
      ('meter', 'entry_seq'), ('supplier', 'entry_seq'), ('material', 'entry_seq'), ('room', 'entry_seq'), ('vessel', 'entry_seq'), ('person', 'entry_seq'),
      ('finding', 'seq'), ('check_mark', 'seq'), ('lot_count', 'seq'), ('calibration', 'seq'), ('step_mark', 'seq'), ('leaf_log', 'seq'), ('closing', 'seq'),
      ('line_mark', 'seq'), ('check_plan', 'seq'), ('salt_acceptance', 'seq'), ('salt_confirmation', 'seq'), ('formula_state', 'seq'), ('house_rule', 'seq'), ('cleaning', 'seq'))
      AS t (name, writer) LOOP
    EXECUTE format('INSERT INTO taken_back SELECT $1, $2 + (row_number() OVER (ORDER BY to_jsonb(t)))::int, $3, to_jsonb(t) FROM %I t WHERE %I = $4', written.name, written.writer)
      USING by_seq, n, written.name, of_seq;
    GET DIAGNOSTICS found_rows = ROW_COUNT;
    n := n + found_rows;
    IF found_rows > 0 THEN
      EXECUTE format('DELETE FROM %I WHERE %I = $1', written.name, written.writer) USING of_seq;
    END IF;
  END LOOP;
  INSERT INTO taken_back SELECT by_seq, n + (row_number() OVER (ORDER BY l.id))::int, 'lot', to_jsonb(l) FROM lot l WHERE l.seq = of_seq;
  -- Of no batch, no vessel and no formula: nothing that counts those finds it.
  UPDATE lot SET undone_seq = by_seq, closed_at = coalesce(closed_at, moment), code = '~' || id, code_key = '~' || id,
    batch_id = NULL, vessel_id = NULL, formula_id = NULL, formula_version = NULL WHERE seq = of_seq;
END $$;
--> statement-breakpoint
-- A lot laid aside is written as it should have been.
CREATE FUNCTION put_lot(anew jsonb, by_seq bigint) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  columns text;
  writer text := current_setting('clear_tally.seq', true);
BEGIN
  SELECT string_agg(quote_ident(a.attname), ', ') INTO columns FROM pg_attribute a
    WHERE a.attrelid = 'lot'::regclass AND a.attnum > 0 AND NOT a.attisdropped AND a.attgenerated = '' AND a.attname NOT IN ('id', 'seq');
  PERFORM set_config('clear_tally.seq', '', true);
  EXECUTE format('UPDATE lot SET (%s) = (SELECT %s FROM jsonb_populate_record(NULL::lot, $1)) WHERE id = ($1 ->> ''id'')::uuid AND undone_seq = $2', columns, columns) USING anew, by_seq;
  IF NOT FOUND THEN
    RAISE EXCEPTION 'lot % was not laid aside', anew ->> 'id' USING ERRCODE = 'restrict_violation';
  END IF;
  PERFORM set_config('clear_tally.seq', writer, true);
END $$;
--> statement-breakpoint
-- What stays laid aside was never made: its code is its own for ever.
CREATE FUNCTION leave_lots(by_seq bigint) RETURNS SETOF text LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM set_config('clear_tally.seq', '', true);
  RETURN QUERY
    UPDATE lot l SET code = t.was ->> 'code', code_key = t.was ->> 'code_key'
    FROM (SELECT DISTINCT ON (was ->> 'id') was FROM taken_back WHERE seq = by_seq AND relation = 'lot' AND was ->> 'code' NOT LIKE '~%' ORDER BY was ->> 'id', number DESC) t
    WHERE l.id = (t.was ->> 'id')::uuid AND l.undone_seq = by_seq RETURNING l.code;
END $$;
--> statement-breakpoint
-- Only a correction takes back.
CREATE FUNCTION only_a_correction() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM journal WHERE seq = NEW.seq AND kind = 'entry.correct') THEN
    RAISE EXCEPTION 'only a correction takes back' USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE CONSTRAINT TRIGGER taken_back_by_correction AFTER INSERT ON taken_back DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION only_a_correction();
--> statement-breakpoint
CREATE TRIGGER taken_back_append_only BEFORE UPDATE OR DELETE ON taken_back FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER taken_back_no_truncate BEFORE TRUNCATE ON taken_back FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER cleaning_no_truncate BEFORE TRUNCATE ON cleaning FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER correction_append_only BEFORE UPDATE OR DELETE ON correction FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER correction_no_truncate BEFORE TRUNCATE ON correction FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
REVOKE ALL ON FUNCTION take_back(bigint, uuid, bigint, timestamptz), put_lot(jsonb, bigint), leave_lots(bigint) FROM public;
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT ON correction, cleaning TO clear_tally_app;
    GRANT SELECT ON taken_back, row_change, changes_kept TO clear_tally_app;
    GRANT EXECUTE ON FUNCTION take_back(bigint, uuid, bigint, timestamptz), put_lot(jsonb, bigint), leave_lots(bigint) TO clear_tally_app;
  END IF;
END $$;

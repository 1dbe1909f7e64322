CREATE TABLE "drying" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"lot_id" uuid NOT NULL,
	"celsius" numeric(9, 4) NOT NULL,
	"hours" numeric(9, 4) NOT NULL,
	"left_milligrams" bigint NOT NULL,
	"water_activity" numeric(9, 4),
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "finish" (
	"lot_id" uuid PRIMARY KEY NOT NULL,
	"what" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "run_levelling" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"run_lot_id" uuid NOT NULL,
	"bottle" integer,
	"capped" boolean NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "drying" ADD CONSTRAINT "drying_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "finish" ADD CONSTRAINT "finish_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "run_levelling" ADD CONSTRAINT "run_levelling_run_lot_id_lot_id_fk" FOREIGN KEY ("run_lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "drying_lot_id_seq_index" ON "drying" USING btree ("lot_id","seq");--> statement-breakpoint
CREATE INDEX "run_levelling_run_lot_id_seq_index" ON "run_levelling" USING btree ("run_lot_id","seq");--> statement-breakpoint
-- Tables whose rows an entry wrote, and the column that says which: what take_back takes, in this order. A table that
-- refers to another stands before it. A new table adds its row here.
CREATE TABLE taken_from (position integer PRIMARY KEY, name text NOT NULL UNIQUE, writer text NOT NULL);
--> statement-breakpoint
INSERT INTO taken_from (position, name, writer) VALUES
  (10, 'hold', 'entry_seq'),
  (20, 'label_printed', 'entry_seq'),
  (30, 'timer', 'entry_seq'),
  (40, 'jar_range', 'entry_seq'),
  (50, 'meter', 'entry_seq'),
  (60, 'supplier', 'entry_seq'),
  (70, 'material', 'entry_seq'),
  (80, 'room', 'entry_seq'),
  (90, 'vessel', 'entry_seq'),
  (100, 'person', 'entry_seq'),
  (110, 'finding', 'seq'),
  (120, 'check_mark', 'seq'),
  (130, 'lot_count', 'seq'),
  (140, 'calibration', 'seq'),
  (150, 'step_mark', 'seq'),
  (160, 'leaf_log', 'seq'),
  (170, 'closing', 'seq'),
  (180, 'line_mark', 'seq'),
  (190, 'check_plan', 'seq'),
  (200, 'salt_acceptance', 'seq'),
  (210, 'salt_confirmation', 'seq'),
  (220, 'formula_state', 'seq'),
  (230, 'house_rule', 'seq'),
  (240, 'cleaning', 'seq'),
  (250, 'run_check', 'seq'),
  (260, 'run_store', 'seq'),
  (270, 'run_mark', 'seq'),
  (280, 'jar_move', 'seq'),
  (290, 'dispatch', 'seq'),
  (300, 'customer', 'seq'),
  (310, 'seal_test', 'seq'),
  (320, 'heat_load', 'seq'),
  (330, 'heat_process', 'seq'),
  (340, 'label_design', 'seq'),
  (350, 'jar_label', 'seq'),
  (360, 'label_tally', 'seq'),
  (370, 'drying', 'seq'),
  (380, 'run_levelling', 'seq'),
  (390, 'finish', 'seq');
--> statement-breakpoint
CREATE OR REPLACE FUNCTION take_back(of_seq bigint, of_entry uuid, by_seq bigint, moment timestamptz) RETURNS void
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
  FOR written IN SELECT name, writer FROM taken_from ORDER BY position LOOP
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
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT ON finish, drying, run_levelling TO clear_tally_app;
    GRANT SELECT ON taken_from TO clear_tally_app;
  END IF;
END $$;

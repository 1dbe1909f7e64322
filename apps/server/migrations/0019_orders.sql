CREATE TABLE "customer_order" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"customer_id" uuid NOT NULL,
	"wanted_on" date,
	"lines" jsonb NOT NULL,
	"note" text,
	"state" text NOT NULL,
	"reason" text,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "customer_order" ADD CONSTRAINT "customer_order_customer_id_customer_id_fk" FOREIGN KEY ("customer_id") REFERENCES "public"."customer"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
CREATE TRIGGER customer_order_change AFTER UPDATE ON customer_order FOR EACH ROW EXECUTE FUNCTION keep_change('id');
--> statement-breakpoint
-- A customer that is put right is taken back and written anew within one correction.
ALTER TABLE customer_order ALTER CONSTRAINT customer_order_customer_id_customer_id_fk DEFERRABLE INITIALLY IMMEDIATE;
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
  FOR written IN SELECT * FROM (VALUES ('hold', 'entry_seq'), ('label_printed', 'entry_seq'), ('timer', 'entry_seq'), ('jar_range', 'entry_seq'),
      ('meter', 'entry_seq'), ('supplier', 'entry_seq'), ('material', 'entry_seq'), ('room', 'entry_seq'), ('vessel', 'entry_seq'), ('person', 'entry_seq'),
      ('finding', 'seq'), ('check_mark', 'seq'), ('lot_count', 'seq'), ('calibration', 'seq'), ('step_mark', 'seq'), ('leaf_log', 'seq'), ('closing', 'seq'),
      ('line_mark', 'seq'), ('check_plan', 'seq'), ('salt_acceptance', 'seq'), ('salt_confirmation', 'seq'), ('formula_state', 'seq'), ('house_rule', 'seq'), ('cleaning', 'seq'),
      ('run_check', 'seq'), ('run_store', 'seq'), ('run_mark', 'seq'), ('jar_move', 'seq'), ('dispatch', 'seq'), ('customer_order', 'seq'), ('customer', 'seq'),
      ('seal_test', 'seq'), ('heat_load', 'seq'), ('heat_process', 'seq'),
      ('label_design', 'seq'), ('jar_label', 'seq'), ('label_tally', 'seq'),
      ('drying', 'seq'), ('run_levelling', 'seq'), ('finish', 'seq'),
      ('packing_note', 'seq'), ('closure_lot', 'seq'), ('retained_jar', 'seq'))
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
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT, UPDATE ON customer_order TO clear_tally_app;
  END IF;
END $$;

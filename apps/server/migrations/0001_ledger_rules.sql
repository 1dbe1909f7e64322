-- What is recorded stays. The application's role can add to the journal and the ledger and change neither;
-- the trigger says the same to everybody else.
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'rows of % are never changed or deleted', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
--> statement-breakpoint
CREATE TRIGGER journal_append_only BEFORE UPDATE OR DELETE ON journal FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER journal_no_truncate BEFORE TRUNCATE ON journal FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER movement_append_only BEFORE UPDATE OR DELETE ON movement FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER movement_no_truncate BEFORE TRUNCATE ON movement FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER reading_append_only BEFORE UPDATE OR DELETE ON reading FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- Whoever watches reads again; the note carries no data of its own.
CREATE FUNCTION note_recorded() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('recorded', NEW.seq::text);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER journal_note AFTER INSERT ON journal FOR EACH ROW EXECUTE FUNCTION note_recorded();
--> statement-breakpoint
-- An entry's rows are written before its journal row, whose facts and hash are known last: checked at commit.
ALTER TABLE movement ALTER CONSTRAINT movement_seq_journal_seq_fk DEFERRABLE INITIALLY DEFERRED;
--> statement-breakpoint
ALTER TABLE reading ALTER CONSTRAINT reading_seq_journal_seq_fk DEFERRABLE INITIALLY DEFERRED;
--> statement-breakpoint
-- The ledger as it counts: neither what was cancelled nor the rows that cancel. A correction's right row is in it.
CREATE VIEW live_movement AS
  SELECT m.* FROM movement m
  WHERE NOT EXISTS (SELECT 1 FROM movement c WHERE c.cancels = m.id);
--> statement-breakpoint
-- The readings as they count: of one root, the latest.
CREATE VIEW live_reading AS
  SELECT r.* FROM reading r
  WHERE NOT EXISTS (SELECT 1 FROM reading c WHERE c.root_entry_id = r.root_entry_id AND c.seq > r.seq);
--> statement-breakpoint
CREATE EXTENSION IF NOT EXISTS btree_gist;
--> statement-breakpoint
ALTER TABLE jar_range ADD CONSTRAINT jar_range_no_overlap EXCLUDE USING gist (run_lot_id WITH =, int4range(first_serial, last_serial, '[]') WITH &&);
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT USAGE ON SCHEMA public TO clear_tally_app;
    GRANT SELECT, INSERT ON journal, entry_lot, movement, reading, jar_range, lot_count TO clear_tally_app;
    GRANT SELECT, INSERT, UPDATE ON house, person, room, vessel, supplier, material, formula, lot, hold, salt_acceptance TO clear_tally_app;
    GRANT SELECT, INSERT, UPDATE, DELETE ON credential, sign_in TO clear_tally_app;
    GRANT SELECT ON live_movement, live_reading TO clear_tally_app;
  END IF;
END $$;

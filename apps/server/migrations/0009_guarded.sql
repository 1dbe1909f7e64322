CREATE TABLE "known_device" (
	"token_hash" text NOT NULL,
	"person_id" uuid NOT NULL,
	"since" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "known_device_token_hash_person_id_pk" PRIMARY KEY("token_hash","person_id")
);
--> statement-breakpoint
CREATE TABLE "rate_limit" (
	"key" text PRIMARY KEY NOT NULL,
	"points" integer DEFAULT 0 NOT NULL,
	"expire" bigint
);
--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "left_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "known_device" ADD CONSTRAINT "known_device_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "credential" DROP COLUMN "failures";--> statement-breakpoint
ALTER TABLE "credential" DROP COLUMN "locked_until";
--> statement-breakpoint
-- No moment and no day lies outside what a book can hold; rows that were written before stay as they are (NOT VALID).
ALTER TABLE "journal" ADD CONSTRAINT "journal_when_plausible" CHECK (("happened_at" IS NULL OR ("happened_at" >= '1950-01-01' AND "happened_at" < '2200-01-01')) AND ("recorded_at" IS NULL OR ("recorded_at" >= '1950-01-01' AND "recorded_at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "lot" ADD CONSTRAINT "lot_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01')) AND ("closed_at" IS NULL OR ("closed_at" >= '1950-01-01' AND "closed_at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "movement" ADD CONSTRAINT "movement_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "hold" ADD CONSTRAINT "hold_when_plausible" CHECK (("placed_at" IS NULL OR ("placed_at" >= '1950-01-01' AND "placed_at" < '2200-01-01')) AND ("lifted_at" IS NULL OR ("lifted_at" >= '1950-01-01' AND "lifted_at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "lot_count" ADD CONSTRAINT "lot_count_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "check_mark" ADD CONSTRAINT "check_mark_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "finding" ADD CONSTRAINT "finding_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "calibration" ADD CONSTRAINT "calibration_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "step_mark" ADD CONSTRAINT "step_mark_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "leaf_log" ADD CONSTRAINT "leaf_log_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "closing" ADD CONSTRAINT "closing_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "timer" ADD CONSTRAINT "timer_when_plausible" CHECK (("started_at" IS NULL OR ("started_at" >= '1950-01-01' AND "started_at" < '2200-01-01')) AND ("stopped_at" IS NULL OR ("stopped_at" >= '1950-01-01' AND "stopped_at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "vessel" ADD CONSTRAINT "vessel_when_plausible" CHECK (("cleaned_at" IS NULL OR ("cleaned_at" >= '1950-01-01' AND "cleaned_at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "salt_acceptance" ADD CONSTRAINT "salt_acceptance_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "check_plan" ADD CONSTRAINT "check_plan_when_plausible" CHECK (("since" IS NULL OR ("since" >= '1950-01-01' AND "since" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "line_mark" ADD CONSTRAINT "line_mark_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "label_printed" ADD CONSTRAINT "label_printed_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "salt_confirmation" ADD CONSTRAINT "salt_confirmation_when_plausible" CHECK (("at" IS NULL OR ("at" >= '1950-01-01' AND "at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "formula" ADD CONSTRAINT "formula_when_plausible" CHECK (("saved_at" IS NULL OR ("saved_at" >= '1950-01-01' AND "saved_at" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
ALTER TABLE "lot" ADD CONSTRAINT "lot_day_plausible" CHECK (("use_by" IS NULL OR ("use_by" >= '1950-01-01' AND "use_by" < '2200-01-01')) AND ("keeps_until" IS NULL OR ("keeps_until" >= '1950-01-01' AND "keeps_until" < '2200-01-01'))) NOT VALID;
--> statement-breakpoint
-- What is recorded is never emptied at once either.
CREATE TRIGGER reading_no_truncate BEFORE TRUNCATE ON "reading" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER entry_lot_no_truncate BEFORE TRUNCATE ON "entry_lot" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER lot_no_truncate BEFORE TRUNCATE ON "lot" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER hold_no_truncate BEFORE TRUNCATE ON "hold" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER jar_range_no_truncate BEFORE TRUNCATE ON "jar_range" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER lot_count_no_truncate BEFORE TRUNCATE ON "lot_count" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER check_mark_no_truncate BEFORE TRUNCATE ON "check_mark" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER finding_no_truncate BEFORE TRUNCATE ON "finding" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER photo_no_truncate BEFORE TRUNCATE ON "photo" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER formula_no_truncate BEFORE TRUNCATE ON "formula" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER calibration_no_truncate BEFORE TRUNCATE ON "calibration" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER step_mark_no_truncate BEFORE TRUNCATE ON "step_mark" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER leaf_log_no_truncate BEFORE TRUNCATE ON "leaf_log" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER closing_no_truncate BEFORE TRUNCATE ON "closing" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER photo_append_only BEFORE UPDATE OR DELETE ON photo FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- A sign-in that has ended ends its live lines, on whatever server they are.
CREATE FUNCTION note_ended() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('ended', OLD.token_hash);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER sign_in_ended AFTER DELETE ON sign_in FOR EACH ROW EXECUTE FUNCTION note_ended();
--> statement-breakpoint
CREATE INDEX journal_house_rule ON journal (seq) WHERE kind = 'house.rule';
--> statement-breakpoint
-- The application's role changes what its handlers change, column by column, and nothing else.
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    REVOKE UPDATE ON house, person, room, vessel, supplier, material, formula, lot, hold, meter, timer, calendar_key, credential, sign_in FROM clear_tally_app;
    GRANT UPDATE (acid_limit, settings) ON house TO clear_tally_app;
    GRANT UPDATE (left_at) ON person TO clear_tally_app;
    GRANT UPDATE (room_id, cleaned_at) ON vessel TO clear_tally_app;
    GRANT UPDATE (lots_received) ON supplier TO clear_tally_app;
    GRANT UPDATE (name, kind, water_fraction, salt_fraction, allergens, caution, details) ON material TO clear_tally_app;
    GRANT UPDATE (closed_at, touched, state, keeps_until) ON lot TO clear_tally_app;
    GRANT UPDATE (lifted_at, lift_reason, anew) ON hold TO clear_tally_app;
    GRANT UPDATE (stopped_at) ON timer TO clear_tally_app;
    GRANT UPDATE (revoked_at) ON calendar_key TO clear_tally_app;
    GRANT UPDATE (pin_hash, demo_pin) ON credential TO clear_tally_app;
    GRANT SELECT, INSERT, UPDATE, DELETE ON rate_limit TO clear_tally_app;
    GRANT SELECT, INSERT, DELETE ON known_device TO clear_tally_app;
  END IF;
END $$;

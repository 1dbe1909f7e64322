CREATE TABLE "complaint" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"run_lot_id" uuid NOT NULL,
	"serial" integer,
	"what" text NOT NULL,
	"words" text NOT NULL,
	"photo" text,
	"held" boolean NOT NULL,
	"no_hold_reason" text,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"closed_at" timestamp (3) with time zone,
	"closed_by" uuid,
	"outcome" text,
	"outcome_words" text,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "complaint_contact" (
	"complaint_id" uuid PRIMARY KEY NOT NULL,
	"words" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "recall" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"lot_id" uuid NOT NULL,
	"scope" text NOT NULL,
	"carry_over" boolean NOT NULL,
	"drill" boolean NOT NULL,
	"reason" text NOT NULL,
	"source" text,
	"heard_at" timestamp (3) with time zone NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"closed_at" timestamp (3) with time zone,
	"closed_by" uuid,
	"outcome" text,
	"rest_reason" text,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "recall_lot" (
	"recall_id" uuid NOT NULL,
	"lot_id" uuid NOT NULL,
	"carry_over" boolean NOT NULL,
	"seq" bigint NOT NULL,
	CONSTRAINT "recall_lot_recall_id_lot_id_pk" PRIMARY KEY("recall_id","lot_id")
);
--> statement-breakpoint
CREATE TABLE "recall_note" (
	"entry_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"recall_id" uuid NOT NULL,
	"what" text NOT NULL,
	"place" text NOT NULL,
	"how" text,
	"words" text,
	"answer" text,
	"count" integer,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL,
	CONSTRAINT "recall_note_entry_id_number_pk" PRIMARY KEY("entry_id","number"),
	CONSTRAINT "recall_note_count" CHECK ("recall_note"."count" is null or "recall_note"."count" > 0)
);
--> statement-breakpoint
ALTER TABLE "complaint" ADD CONSTRAINT "complaint_run_lot_id_lot_id_fk" FOREIGN KEY ("run_lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recall" ADD CONSTRAINT "recall_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recall_lot" ADD CONSTRAINT "recall_lot_recall_id_recall_id_fk" FOREIGN KEY ("recall_id") REFERENCES "public"."recall"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recall_lot" ADD CONSTRAINT "recall_lot_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recall_note" ADD CONSTRAINT "recall_note_recall_id_recall_id_fk" FOREIGN KEY ("recall_id") REFERENCES "public"."recall"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "complaint_run_lot_id_index" ON "complaint" USING btree ("run_lot_id");--> statement-breakpoint
CREATE INDEX "recall_lot_id_index" ON "recall" USING btree ("lot_id");--> statement-breakpoint
CREATE INDEX "recall_lot_lot_id_index" ON "recall_lot" USING btree ("lot_id");--> statement-breakpoint
CREATE INDEX "recall_note_recall_id_at_index" ON "recall_note" USING btree ("recall_id","at");--> statement-breakpoint
CREATE TRIGGER recall_change AFTER UPDATE ON recall FOR EACH ROW EXECUTE FUNCTION keep_change('id');
--> statement-breakpoint
CREATE TRIGGER complaint_change AFTER UPDATE ON complaint FOR EACH ROW EXECUTE FUNCTION keep_change('id');
--> statement-breakpoint
-- A recall that is put right is taken back and written anew within one correction.
ALTER TABLE recall_lot ALTER CONSTRAINT recall_lot_recall_id_recall_id_fk DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
ALTER TABLE recall_note ALTER CONSTRAINT recall_note_recall_id_recall_id_fk DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
INSERT INTO taken_from (position, name, writer) VALUES
  (296, 'recall_note', 'seq'),
  (297, 'recall_lot', 'seq'),
  (298, 'recall', 'seq'),
  (299, 'complaint', 'seq');
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT, UPDATE ON recall, recall_lot, recall_note, complaint TO clear_tally_app;
    GRANT SELECT, INSERT, UPDATE, DELETE ON complaint_contact TO clear_tally_app;
  END IF;
END $$;

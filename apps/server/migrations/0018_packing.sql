CREATE TABLE "closure_lot" (
	"entry_id" uuid NOT NULL,
	"number" integer NOT NULL,
	"run_lot_id" uuid NOT NULL,
	"lot_id" uuid NOT NULL,
	"first_serial" integer NOT NULL,
	"last_serial" integer NOT NULL,
	"pieces" integer NOT NULL,
	"seq" bigint NOT NULL,
	CONSTRAINT "closure_lot_entry_id_number_pk" PRIMARY KEY("entry_id","number"),
	CONSTRAINT "closure_lot_order" CHECK ("closure_lot"."last_serial" >= "closure_lot"."first_serial")
);
--> statement-breakpoint
CREATE TABLE "packing_note" (
	"run_lot_id" uuid PRIMARY KEY NOT NULL,
	"weights" jsonb NOT NULL,
	"cleared" boolean NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "retained_jar" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"run_lot_id" uuid NOT NULL,
	"first_serial" integer NOT NULL,
	"last_serial" integer NOT NULL,
	"room_id" uuid NOT NULL,
	"taste_at" timestamp (3) with time zone[] NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "closure_lot" ADD CONSTRAINT "closure_lot_run_lot_id_lot_id_fk" FOREIGN KEY ("run_lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "closure_lot" ADD CONSTRAINT "closure_lot_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "packing_note" ADD CONSTRAINT "packing_note_run_lot_id_lot_id_fk" FOREIGN KEY ("run_lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "retained_jar" ADD CONSTRAINT "retained_jar_run_lot_id_lot_id_fk" FOREIGN KEY ("run_lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "retained_jar" ADD CONSTRAINT "retained_jar_room_id_room_id_fk" FOREIGN KEY ("room_id") REFERENCES "public"."room"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "closure_lot_run_lot_id_index" ON "closure_lot" USING btree ("run_lot_id");--> statement-breakpoint
CREATE INDEX "closure_lot_lot_id_index" ON "closure_lot" USING btree ("lot_id");--> statement-breakpoint
CREATE INDEX "retained_jar_run_lot_id_index" ON "retained_jar" USING btree ("run_lot_id");
--> statement-breakpoint
-- A room that is put right is taken back and written anew within one correction.
ALTER TABLE retained_jar ALTER CONSTRAINT retained_jar_room_id_room_id_fk DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
INSERT INTO taken_from (position, name, writer) VALUES (400, 'packing_note', 'seq'), (410, 'closure_lot', 'seq'), (420, 'retained_jar', 'seq');
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT ON packing_note, closure_lot, retained_jar TO clear_tally_app;
  END IF;
END $$;

CREATE TABLE "closing" (
	"lot_id" uuid PRIMARY KEY NOT NULL,
	"closure" text NOT NULL,
	"headspace_mm" numeric(9, 4),
	"weight_items" jsonb NOT NULL,
	"tray" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "label_printed" (
	"entry_id" uuid NOT NULL,
	"lot_id" uuid NOT NULL,
	"copies" integer NOT NULL,
	"printer" text,
	"at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "label_printed_entry_id_lot_id_pk" PRIMARY KEY("entry_id","lot_id")
);
--> statement-breakpoint
CREATE TABLE "leaf_log" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"batch_id" uuid NOT NULL,
	"what" text NOT NULL,
	"water_milligrams" bigint,
	"drained_milligrams" bigint,
	"water_phase_salt" numeric(9, 4),
	"how" text,
	"tasted" text,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "line_mark" (
	"batch_id" uuid NOT NULL,
	"line" text NOT NULL,
	"how" text NOT NULL,
	"reason" text,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL,
	CONSTRAINT "line_mark_batch_id_line_pk" PRIMARY KEY("batch_id","line")
);
--> statement-breakpoint
CREATE TABLE "salt_confirmation" (
	"batch_id" uuid PRIMARY KEY NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "step_mark" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"batch_id" uuid NOT NULL,
	"step" text NOT NULL,
	"what" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"minutes" numeric(9, 4),
	"unchecked" text[] DEFAULT '{}'::text[] NOT NULL,
	"note" text,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "timer" (
	"id" uuid PRIMARY KEY NOT NULL,
	"batch_id" uuid,
	"step" text,
	"words" text NOT NULL,
	"minutes" numeric(9, 4) NOT NULL,
	"started_at" timestamp (3) with time zone NOT NULL,
	"by" uuid NOT NULL,
	"stopped_at" timestamp (3) with time zone
);
--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "form" text;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "touched" text;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "generation" integer;--> statement-breakpoint
ALTER TABLE "closing" ADD CONSTRAINT "closing_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "label_printed" ADD CONSTRAINT "label_printed_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "leaf_log" ADD CONSTRAINT "leaf_log_batch_id_lot_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "line_mark" ADD CONSTRAINT "line_mark_batch_id_lot_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "salt_confirmation" ADD CONSTRAINT "salt_confirmation_batch_id_lot_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_mark" ADD CONSTRAINT "step_mark_batch_id_lot_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "timer" ADD CONSTRAINT "timer_batch_id_lot_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "label_printed_lot_id_index" ON "label_printed" USING btree ("lot_id");--> statement-breakpoint
CREATE INDEX "leaf_log_batch_id_seq_index" ON "leaf_log" USING btree ("batch_id","seq");--> statement-breakpoint
CREATE INDEX "step_mark_batch_id_seq_index" ON "step_mark" USING btree ("batch_id","seq");--> statement-breakpoint
CREATE UNIQUE INDEX "step_ended_once" ON "step_mark" USING btree ("batch_id","step") WHERE "step_mark"."what" <> 'begin';--> statement-breakpoint
CREATE INDEX "timer_running" ON "timer" USING btree ("started_at") WHERE "timer"."stopped_at" is null;
--> statement-breakpoint
-- Every preparation so far is a brine.
UPDATE "lot" SET "form" = 'brine' WHERE "kind" = 'preparation';
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT ON step_mark, leaf_log, label_printed TO clear_tally_app;
    GRANT SELECT, INSERT, UPDATE ON line_mark, timer, salt_confirmation, closing TO clear_tally_app;
  END IF;
END $$;

CREATE TABLE "calendar_key" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"made_at" timestamp (3) with time zone NOT NULL,
	"revoked_at" timestamp (3) with time zone
);
--> statement-breakpoint
CREATE TABLE "calibration" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"meter_id" uuid NOT NULL,
	"buffers" jsonb NOT NULL,
	"slope_percent" numeric(9, 4) NOT NULL,
	"offset_millivolts" numeric(9, 4) NOT NULL,
	"check_buffer" numeric(9, 4),
	"check_read" numeric(9, 4),
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "check_mark" (
	"entry_id" uuid NOT NULL,
	"lot_id" uuid NOT NULL,
	"key" text NOT NULL,
	"what" text NOT NULL,
	"words" text,
	"quiet" boolean NOT NULL,
	"figure" numeric(9, 4),
	"says" text,
	"detail" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"photo" text,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL,
	CONSTRAINT "check_mark_entry_id_lot_id_key_pk" PRIMARY KEY("entry_id","lot_id","key")
);
--> statement-breakpoint
CREATE TABLE "check_plan" (
	"lot_id" uuid PRIMARY KEY NOT NULL,
	"checks" jsonb NOT NULL,
	"since" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "finding" (
	"entry_id" uuid NOT NULL,
	"lot_id" uuid NOT NULL,
	"finding" text NOT NULL,
	"place" text NOT NULL,
	"guide" text NOT NULL,
	"verdict" text NOT NULL,
	"reasons" text[] NOT NULL,
	"note" text,
	"photo" text,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL,
	CONSTRAINT "finding_entry_id_lot_id_pk" PRIMARY KEY("entry_id","lot_id")
);
--> statement-breakpoint
CREATE TABLE "meter" (
	"id" uuid PRIMARY KEY NOT NULL,
	"tag" text NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	CONSTRAINT "meter_tag_unique" UNIQUE("tag")
);
--> statement-breakpoint
DROP INDEX "hold_one_open";--> statement-breakpoint
ALTER TABLE "hold" DROP CONSTRAINT "hold_pkey";--> statement-breakpoint
ALTER TABLE "hold" ADD CONSTRAINT "hold_entry_id_lot_id_pk" PRIMARY KEY("entry_id","lot_id");--> statement-breakpoint
ALTER TABLE "hold" ADD COLUMN "rule" text DEFAULT 'person' NOT NULL;--> statement-breakpoint
ALTER TABLE "hold" ADD COLUMN "cause_lot" uuid;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "meter_id" uuid;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "sample_celsius" numeric(9, 4);--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "for_release" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "unfit" text;--> statement-breakpoint
ALTER TABLE "reading" ADD COLUMN "jumped" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "calendar_key" ADD CONSTRAINT "calendar_key_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "calibration" ADD CONSTRAINT "calibration_meter_id_meter_id_fk" FOREIGN KEY ("meter_id") REFERENCES "public"."meter"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "check_mark" ADD CONSTRAINT "check_mark_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "check_plan" ADD CONSTRAINT "check_plan_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "finding" ADD CONSTRAINT "finding_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "calibration_meter_id_at_index" ON "calibration" USING btree ("meter_id","at");--> statement-breakpoint
CREATE INDEX "check_mark_lot_id_at_index" ON "check_mark" USING btree ("lot_id","at");--> statement-breakpoint
CREATE INDEX "finding_lot_id_at_index" ON "finding" USING btree ("lot_id","at");--> statement-breakpoint
CREATE INDEX "hold_open" ON "hold" USING btree ("lot_id") WHERE "hold"."lifted_at" is null;
--> statement-breakpoint
CREATE OR REPLACE VIEW live_reading AS
  SELECT r.* FROM reading r
  WHERE NOT EXISTS (SELECT 1 FROM reading c WHERE c.root_entry_id = r.root_entry_id AND c.seq > r.seq);
--> statement-breakpoint
-- A lot may be held for several reasons at once: it is free when the last of them is lifted.
CREATE VIEW open_hold AS
  SELECT lot_id, string_agg(DISTINCT reason, '; ') AS reason, min(placed_at) AS placed_at, count(*)::int AS holds FROM hold WHERE lifted_at IS NULL GROUP BY lot_id;
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT ON calibration, check_mark, finding TO clear_tally_app;
    GRANT SELECT, INSERT, UPDATE ON meter, check_plan, calendar_key TO clear_tally_app;
    GRANT SELECT ON open_hold TO clear_tally_app;
  END IF;
END $$;

CREATE TABLE "entry_lot" (
	"lot_id" uuid NOT NULL,
	"seq" bigint NOT NULL,
	CONSTRAINT "entry_lot_lot_id_seq_pk" PRIMARY KEY("lot_id","seq")
);
--> statement-breakpoint
CREATE TABLE "journal" (
	"seq" bigint PRIMARY KEY NOT NULL,
	"entry_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"happened_at" timestamp (3) with time zone NOT NULL,
	"recorded_at" timestamp (3) with time zone NOT NULL,
	"by" uuid NOT NULL,
	"entry" text NOT NULL,
	"facts" text NOT NULL,
	"previous_hash" text NOT NULL,
	"hash" text NOT NULL,
	CONSTRAINT "journal_entryId_unique" UNIQUE("entry_id")
);
--> statement-breakpoint
CREATE TABLE "credential" (
	"person_id" uuid PRIMARY KEY NOT NULL,
	"pin_hash" text NOT NULL,
	"failures" integer DEFAULT 0 NOT NULL,
	"locked_until" timestamp (3) with time zone,
	"demo_pin" text
);
--> statement-breakpoint
CREATE TABLE "house" (
	"id" integer PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"site" text NOT NULL,
	"time_zone" text NOT NULL,
	"decimal_mark" text NOT NULL,
	"acid_limit" numeric(9, 4) NOT NULL,
	"salt_tolerance" numeric(9, 4) NOT NULL
);
--> statement-breakpoint
CREATE TABLE "person" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"initials" text NOT NULL,
	"role" text NOT NULL,
	CONSTRAINT "person_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "room" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"usual_celsius" numeric(9, 4) NOT NULL,
	"position" integer NOT NULL,
	CONSTRAINT "room_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "sign_in" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"expires_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "vessel" (
	"id" uuid PRIMARY KEY NOT NULL,
	"tag" text NOT NULL,
	"shape" text NOT NULL,
	"brim_ml" integer NOT NULL,
	"max_fill" numeric(9, 4) NOT NULL,
	"min_fill" numeric(9, 4) NOT NULL,
	"weight_volume_ml" integer NOT NULL,
	"closure" text NOT NULL,
	"room_id" uuid NOT NULL,
	"in_use" boolean NOT NULL,
	"cleaned_at" timestamp (3) with time zone,
	CONSTRAINT "vessel_tag_unique" UNIQUE("tag")
);
--> statement-breakpoint
CREATE TABLE "formula" (
	"formula_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"number" integer NOT NULL,
	"name" text NOT NULL,
	"data" jsonb NOT NULL,
	CONSTRAINT "formula_formula_id_version_pk" PRIMARY KEY("formula_id","version")
);
--> statement-breakpoint
CREATE TABLE "material" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"water_fraction" numeric(9, 4) NOT NULL,
	"salt_fraction" numeric(9, 4) NOT NULL,
	"allergens" text[] NOT NULL,
	"caution" text,
	CONSTRAINT "material_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "supplier" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"prefix" text NOT NULL,
	"lots_received" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "supplier_name_unique" UNIQUE("name"),
	CONSTRAINT "supplier_prefix_unique" UNIQUE("prefix")
);
--> statement-breakpoint
CREATE TABLE "hold" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"lot_id" uuid NOT NULL,
	"reason" text NOT NULL,
	"placed_at" timestamp (3) with time zone NOT NULL,
	"lifted_at" timestamp (3) with time zone,
	"lift_reason" text
);
--> statement-breakpoint
CREATE TABLE "jar_range" (
	"run_lot_id" uuid NOT NULL,
	"first_serial" integer NOT NULL,
	"last_serial" integer NOT NULL,
	"size_ml" integer NOT NULL,
	"net_milligrams" bigint NOT NULL,
	CONSTRAINT "jar_range_run_lot_id_first_serial_pk" PRIMARY KEY("run_lot_id","first_serial"),
	CONSTRAINT "jar_range_order" CHECK ("jar_range"."last_serial" >= "jar_range"."first_serial")
);
--> statement-breakpoint
CREATE TABLE "lot" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"code_key" text NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"origin" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL,
	"batch_id" uuid,
	"formula_id" uuid,
	"formula_version" integer,
	"plan" jsonb,
	"material_id" uuid,
	"supplier_id" uuid,
	"supplier_lot_code" text,
	"use_by" date,
	"vessel_id" uuid,
	"metered" boolean DEFAULT true NOT NULL,
	"closed_at" timestamp (3) with time zone,
	CONSTRAINT "lot_code_unique" UNIQUE("code"),
	CONSTRAINT "lot_codeKey_unique" UNIQUE("code_key")
);
--> statement-breakpoint
CREATE TABLE "lot_count" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"lot_id" uuid NOT NULL,
	"milligrams" bigint NOT NULL,
	"by_difference" text,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "movement" (
	"id" bigint PRIMARY KEY NOT NULL,
	"seq" bigint NOT NULL,
	"root_entry_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"from_lot" uuid,
	"source" text,
	"to_lot" uuid,
	"sink" text,
	"milligrams" bigint NOT NULL,
	"cancels" bigint,
	CONSTRAINT "movement_mass_positive" CHECK ("movement"."milligrams" > 0),
	CONSTRAINT "movement_one_from" CHECK (("movement"."from_lot" is null) <> ("movement"."source" is null)),
	CONSTRAINT "movement_one_to" CHECK (("movement"."to_lot" is null) <> ("movement"."sink" is null)),
	CONSTRAINT "movement_somewhere_else" CHECK ("movement"."from_lot" is distinct from "movement"."to_lot")
);
--> statement-breakpoint
CREATE TABLE "reading" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"root_entry_id" uuid NOT NULL,
	"seq" bigint NOT NULL,
	"lot_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"value" numeric(9, 4) NOT NULL,
	"sample" text,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "salt_acceptance" (
	"batch_id" uuid PRIMARY KEY NOT NULL,
	"reason" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "entry_lot" ADD CONSTRAINT "entry_lot_seq_journal_seq_fk" FOREIGN KEY ("seq") REFERENCES "public"."journal"("seq") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "credential" ADD CONSTRAINT "credential_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_in" ADD CONSTRAINT "sign_in_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "vessel" ADD CONSTRAINT "vessel_room_id_room_id_fk" FOREIGN KEY ("room_id") REFERENCES "public"."room"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "hold" ADD CONSTRAINT "hold_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "jar_range" ADD CONSTRAINT "jar_range_run_lot_id_lot_id_fk" FOREIGN KEY ("run_lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lot" ADD CONSTRAINT "lot_material_id_material_id_fk" FOREIGN KEY ("material_id") REFERENCES "public"."material"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lot" ADD CONSTRAINT "lot_supplier_id_supplier_id_fk" FOREIGN KEY ("supplier_id") REFERENCES "public"."supplier"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lot" ADD CONSTRAINT "lot_vessel_id_vessel_id_fk" FOREIGN KEY ("vessel_id") REFERENCES "public"."vessel"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lot_count" ADD CONSTRAINT "lot_count_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement" ADD CONSTRAINT "movement_seq_journal_seq_fk" FOREIGN KEY ("seq") REFERENCES "public"."journal"("seq") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement" ADD CONSTRAINT "movement_from_lot_lot_id_fk" FOREIGN KEY ("from_lot") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement" ADD CONSTRAINT "movement_to_lot_lot_id_fk" FOREIGN KEY ("to_lot") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_seq_journal_seq_fk" FOREIGN KEY ("seq") REFERENCES "public"."journal"("seq") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reading" ADD CONSTRAINT "reading_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "salt_acceptance" ADD CONSTRAINT "salt_acceptance_batch_id_lot_id_fk" FOREIGN KEY ("batch_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "entry_lot_seq_index" ON "entry_lot" USING btree ("seq");--> statement-breakpoint
CREATE UNIQUE INDEX "hold_one_open" ON "hold" USING btree ("lot_id") WHERE "hold"."lifted_at" is null;--> statement-breakpoint
CREATE INDEX "lot_kind_seq_index" ON "lot" USING btree ("kind","seq");--> statement-breakpoint
CREATE INDEX "lot_batch_id_index" ON "lot" USING btree ("batch_id");--> statement-breakpoint
CREATE INDEX "lot_material_id_index" ON "lot" USING btree ("material_id");--> statement-breakpoint
CREATE UNIQUE INDEX "lot_vessel_taken" ON "lot" USING btree ("vessel_id") WHERE "lot"."kind" = 'fill' and "lot"."closed_at" is null;--> statement-breakpoint
CREATE INDEX "lot_count_lot_id_seq_index" ON "lot_count" USING btree ("lot_id","seq");--> statement-breakpoint
CREATE INDEX "movement_from_lot_at_index" ON "movement" USING btree ("from_lot","at");--> statement-breakpoint
CREATE INDEX "movement_to_lot_at_index" ON "movement" USING btree ("to_lot","at");--> statement-breakpoint
CREATE INDEX "movement_root_entry_id_index" ON "movement" USING btree ("root_entry_id");--> statement-breakpoint
CREATE UNIQUE INDEX "movement_cancels" ON "movement" USING btree ("cancels") WHERE "movement"."cancels" is not null;--> statement-breakpoint
CREATE INDEX "reading_lot_id_kind_at_index" ON "reading" USING btree ("lot_id","kind","at");--> statement-breakpoint
CREATE INDEX "reading_root_entry_id_index" ON "reading" USING btree ("root_entry_id");
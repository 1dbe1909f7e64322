CREATE TABLE "equipment" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"tag" text NOT NULL,
	"name" text NOT NULL,
	"room_id" uuid,
	"capacity_grams" double precision,
	"step_grams" double precision,
	"count" integer,
	"words" text,
	"in_use" boolean NOT NULL,
	"seq" bigint NOT NULL,
	CONSTRAINT "equipment_tag_unique" UNIQUE("tag")
);
--> statement-breakpoint
CREATE TABLE "equipment_check" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"equipment_id" uuid NOT NULL,
	"words" text NOT NULL,
	"passed" boolean NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sanitiser" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"agent" text NOT NULL,
	"dilution" text NOT NULL,
	"litres" numeric(9, 4) NOT NULL,
	"strength" text,
	"passed" boolean NOT NULL,
	"good_until" timestamp (3) with time zone NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL,
	CONSTRAINT "sanitiser_code_unique" UNIQUE("code")
);
--> statement-breakpoint
CREATE TABLE "training" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"task" text NOT NULL,
	"words" text,
	"taught_by" text NOT NULL,
	"on_day" date NOT NULL,
	"until_day" date,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "cleaning" ALTER COLUMN "vessel_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "cleaning" ADD COLUMN "equipment_id" uuid;--> statement-breakpoint
ALTER TABLE "cleaning" ADD COLUMN "room_id" uuid;--> statement-breakpoint
ALTER TABLE "cleaning" ADD COLUMN "mix_id" uuid;--> statement-breakpoint
ALTER TABLE "room" ADD COLUMN "details" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "vessel" ADD COLUMN "details" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "equipment" ADD CONSTRAINT "equipment_room_id_room_id_fk" FOREIGN KEY ("room_id") REFERENCES "public"."room"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "equipment_check" ADD CONSTRAINT "equipment_check_equipment_id_equipment_id_fk" FOREIGN KEY ("equipment_id") REFERENCES "public"."equipment"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "training" ADD CONSTRAINT "training_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "equipment_check_equipment_id_at_index" ON "equipment_check" USING btree ("equipment_id","at");--> statement-breakpoint
CREATE INDEX "training_person_id_task_index" ON "training" USING btree ("person_id","task");--> statement-breakpoint
ALTER TABLE "cleaning" ADD CONSTRAINT "cleaning_equipment_id_equipment_id_fk" FOREIGN KEY ("equipment_id") REFERENCES "public"."equipment"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cleaning" ADD CONSTRAINT "cleaning_room_id_room_id_fk" FOREIGN KEY ("room_id") REFERENCES "public"."room"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cleaning" ADD CONSTRAINT "cleaning_mix_id_sanitiser_id_fk" FOREIGN KEY ("mix_id") REFERENCES "public"."sanitiser"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "cleaning_equipment_id_at_index" ON "cleaning" USING btree ("equipment_id","at");--> statement-breakpoint
ALTER TABLE "cleaning" ADD CONSTRAINT "cleaning_one_thing" CHECK (num_nonnulls("cleaning"."vessel_id", "cleaning"."equipment_id", "cleaning"."room_id") = 1);--> statement-breakpoint
CREATE TRIGGER equipment_change AFTER UPDATE ON equipment FOR EACH ROW EXECUTE FUNCTION keep_change('id');
--> statement-breakpoint
-- What a row points at is taken back and written anew within one correction.
ALTER TABLE equipment ALTER CONSTRAINT equipment_room_id_room_id_fk DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
ALTER TABLE equipment_check ALTER CONSTRAINT equipment_check_equipment_id_equipment_id_fk DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
ALTER TABLE training ALTER CONSTRAINT training_person_id_person_id_fk DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
ALTER TABLE cleaning ALTER CONSTRAINT cleaning_equipment_id_equipment_id_fk DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
ALTER TABLE cleaning ALTER CONSTRAINT cleaning_room_id_room_id_fk DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
ALTER TABLE cleaning ALTER CONSTRAINT cleaning_mix_id_sanitiser_id_fk DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
INSERT INTO taken_from (position, name, writer) VALUES
  (302, 'equipment_check', 'seq'),
  (303, 'training', 'seq'),
  (304, 'sanitiser', 'seq'),
  (305, 'equipment', 'seq');
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT ON equipment, equipment_check, training, sanitiser TO clear_tally_app;
    GRANT UPDATE (kind, name, room_id, capacity_grams, step_grams, count, words, in_use) ON equipment TO clear_tally_app;
    GRANT UPDATE (details) ON vessel TO clear_tally_app;
    GRANT UPDATE (details) ON room TO clear_tally_app;
  END IF;
END $$;

CREATE TABLE "weighed_on" (
	"entry_id" uuid PRIMARY KEY NOT NULL,
	"equipment_id" uuid NOT NULL,
	"lot_id" uuid NOT NULL,
	"milligrams" bigint NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "sanitiser" ALTER COLUMN "passed" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "sanitiser" ADD COLUMN "unchecked" text;--> statement-breakpoint
ALTER TABLE "weighed_on" ADD CONSTRAINT "weighed_on_equipment_id_equipment_id_fk" FOREIGN KEY ("equipment_id") REFERENCES "public"."equipment"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "weighed_on_equipment_id_at_index" ON "weighed_on" USING btree ("equipment_id","at");--> statement-breakpoint
-- What was mixed without a check was counted as of its strength: nobody knows.
UPDATE sanitiser SET passed = NULL WHERE strength IS NULL;
--> statement-breakpoint
CREATE TRIGGER sanitiser_change AFTER UPDATE ON sanitiser FOR EACH ROW EXECUTE FUNCTION keep_change('id');
--> statement-breakpoint
-- What a row points at is taken back and written anew within one correction.
ALTER TABLE weighed_on ALTER CONSTRAINT weighed_on_equipment_id_equipment_id_fk DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
INSERT INTO taken_from (position, name, writer) VALUES (301, 'weighed_on', 'seq');
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT ON weighed_on TO clear_tally_app;
    GRANT UPDATE (strength, passed) ON sanitiser TO clear_tally_app;
  END IF;
END $$;

CREATE TABLE "look" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "look_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"person_id" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"what" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "last_day" date;--> statement-breakpoint
ALTER TABLE "look" ADD CONSTRAINT "look_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "look_person_id_at_index" ON "look" USING btree ("person_id","at");--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT ON look TO clear_tally_app;
    GRANT UPDATE (last_day) ON person TO clear_tally_app;
  END IF;
END $$;

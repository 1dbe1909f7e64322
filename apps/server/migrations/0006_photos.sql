CREATE TABLE "photo" (
	"id" text PRIMARY KEY NOT NULL,
	"type" text NOT NULL,
	"bytes" "bytea" NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "photo" text;
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT ON photo TO clear_tally_app;
  END IF;
END $$;

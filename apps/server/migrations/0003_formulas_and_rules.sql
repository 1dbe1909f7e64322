CREATE TABLE "house_rule" (
	"rule" text PRIMARY KEY NOT NULL,
	"option" text NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "formula_state" (
	"formula_id" uuid PRIMARY KEY NOT NULL,
	"retired" boolean NOT NULL,
	"reason" text,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "settings" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "vessel" ADD COLUMN "inner" jsonb;--> statement-breakpoint
ALTER TABLE "formula" ADD COLUMN "saved_at" timestamp (3) with time zone;--> statement-breakpoint
ALTER TABLE "formula" ADD COLUMN "by" uuid;--> statement-breakpoint
-- Versions saved before are told by the journal.
UPDATE "formula" f SET "saved_at" = j.happened_at, "by" = j.by FROM "journal" j
  WHERE j.kind = 'formula.save' AND j.entry::jsonb->'body'->>'formulaId' = f.formula_id::text AND (j.entry::jsonb->'body'->>'version')::int = f.version;--> statement-breakpoint
ALTER TABLE "formula" ALTER COLUMN "saved_at" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "formula" ALTER COLUMN "by" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "material" ADD COLUMN "details" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "variant" text;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "measured_leaf_salt" numeric(9, 4);--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "rules" jsonb;
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT, UPDATE ON house_rule, formula_state TO clear_tally_app;
  END IF;
END $$;

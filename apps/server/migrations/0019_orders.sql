CREATE TABLE "customer_order" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"customer_id" uuid NOT NULL,
	"wanted_on" date,
	"lines" jsonb NOT NULL,
	"note" text,
	"state" text NOT NULL,
	"reason" text,
	"by" uuid NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
ALTER TABLE "customer_order" ADD CONSTRAINT "customer_order_customer_id_customer_id_fk" FOREIGN KEY ("customer_id") REFERENCES "public"."customer"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
CREATE TRIGGER customer_order_change AFTER UPDATE ON customer_order FOR EACH ROW EXECUTE FUNCTION keep_change('id');
--> statement-breakpoint
-- A customer that is put right is taken back and written anew within one correction.
ALTER TABLE customer_order ALTER CONSTRAINT customer_order_customer_id_customer_id_fk DEFERRABLE INITIALLY IMMEDIATE;
--> statement-breakpoint
INSERT INTO taken_from (position, name, writer) VALUES (295, 'customer_order', 'seq');
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT, INSERT, UPDATE ON customer_order TO clear_tally_app;
  END IF;
END $$;

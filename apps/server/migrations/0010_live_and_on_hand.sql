CREATE TABLE "lot_balance" (
	"lot_id" uuid PRIMARY KEY NOT NULL,
	"in_milligrams" bigint DEFAULT 0 NOT NULL,
	"out_milligrams" bigint DEFAULT 0 NOT NULL,
	"kind" text NOT NULL,
	"in_store" uuid GENERATED ALWAYS AS (case when kind = 'supply' and in_milligrams > out_milligrams then lot_id end) STORED
);
--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "live_vessel" uuid GENERATED ALWAYS AS (case when kind = 'fill' and closed_at is null then vessel_id end) STORED;--> statement-breakpoint
ALTER TABLE "lot_balance" ADD CONSTRAINT "lot_balance_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "lot_balance_in_store" ON "lot_balance" USING btree ("in_store") WHERE "lot_balance"."in_store" is not null;--> statement-breakpoint
CREATE INDEX "lot_formula_id_seq_index" ON "lot" USING btree ("formula_id","seq");--> statement-breakpoint
CREATE INDEX "lot_live" ON "lot" USING btree ("live_vessel") WHERE "lot"."live_vessel" is not null;--> statement-breakpoint
CREATE INDEX "lot_supplier_code" ON "lot" USING btree (upper("supplier_lot_code")) WHERE "lot"."kind" = 'supply';--> statement-breakpoint
CREATE INDEX "lot_vessel_seq" ON "lot" USING btree ("vessel_id","seq") WHERE "lot"."kind" = 'fill';--> statement-breakpoint
CREATE INDEX "lot_unmetered" ON "lot" USING btree ("id") WHERE not "lot"."metered";--> statement-breakpoint
CREATE INDEX "lot_batch_open" ON "lot" USING btree ("seq") WHERE "lot"."kind" = 'batch' and "lot"."closed_at" is null;--> statement-breakpoint
CREATE INDEX "lot_preparation_open" ON "lot" USING btree ("seq") WHERE "lot"."kind" = 'preparation' and "lot"."closed_at" is null;--> statement-breakpoint
CREATE INDEX "movement_seq_index" ON "movement" USING btree ("seq");
--> statement-breakpoint
-- Kept with every movement, in the same statement: nobody writes it by hand, and verifying compares it with the movements.
CREATE FUNCTION keep_balance() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  PERFORM move_balance(NEW.from_lot, NEW.to_lot, NEW.milligrams);
  IF NEW.cancels IS NOT NULL THEN
    PERFORM move_balance(m.from_lot, m.to_lot, -m.milligrams) FROM movement m WHERE m.id = NEW.cancels;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE FUNCTION move_balance(went uuid, came uuid, mg bigint) RETURNS void LANGUAGE sql SET search_path = public, pg_temp AS $$
  INSERT INTO lot_balance (lot_id, in_milligrams, out_milligrams, kind)
    SELECT id, CASE WHEN id = came THEN mg ELSE 0 END, CASE WHEN id = went THEN mg ELSE 0 END, kind FROM lot WHERE id IN (went, came)
  ON CONFLICT (lot_id) DO UPDATE SET in_milligrams = lot_balance.in_milligrams + excluded.in_milligrams, out_milligrams = lot_balance.out_milligrams + excluded.out_milligrams;
$$;
--> statement-breakpoint
REVOKE ALL ON FUNCTION move_balance(uuid, uuid, bigint) FROM public;
--> statement-breakpoint
INSERT INTO lot_balance (lot_id, in_milligrams, out_milligrams, kind)
  SELECT l.id, coalesce(i.mg, 0), coalesce(o.mg, 0), l.kind FROM lot l
  LEFT JOIN (SELECT to_lot, sum(milligrams) AS mg FROM live_movement GROUP BY 1) i ON i.to_lot = l.id
  LEFT JOIN (SELECT from_lot, sum(milligrams) AS mg FROM live_movement GROUP BY 1) o ON o.from_lot = l.id
  WHERE i.to_lot IS NOT NULL OR o.from_lot IS NOT NULL;
--> statement-breakpoint
CREATE TRIGGER movement_balance AFTER INSERT ON movement FOR EACH ROW EXECUTE FUNCTION keep_balance();
--> statement-breakpoint
DO $$
BEGIN
  IF EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'clear_tally_app') THEN
    GRANT SELECT ON lot_balance TO clear_tally_app;
  END IF;
END $$;
--> statement-breakpoint
-- Searching for a part of a code or name does not read every lot there ever was.
CREATE EXTENSION IF NOT EXISTS pg_trgm;
--> statement-breakpoint
CREATE INDEX lot_searched ON lot USING gin (code gin_trgm_ops, name gin_trgm_ops, supplier_lot_code gin_trgm_ops);
--> statement-breakpoint
ANALYZE lot, lot_balance, movement;

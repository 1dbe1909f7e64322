-- A vessel holds one fill at a time. A correction takes back and writes anew: that a vessel was emptied is not so for a
-- moment, while what was filled into it since stands. So it is looked at when the correction is whole.
DROP INDEX "lot_vessel_taken";
--> statement-breakpoint
ALTER TABLE "lot" ADD CONSTRAINT "lot_vessel_taken" EXCLUDE USING btree ("vessel_id" WITH =) WHERE ("kind" = 'fill' AND "closed_at" IS NULL) DEFERRABLE INITIALLY IMMEDIATE;

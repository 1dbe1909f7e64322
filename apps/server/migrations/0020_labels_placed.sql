ALTER TABLE "jar_label" ADD COLUMN "label_lot_id" uuid;--> statement-breakpoint
ALTER TABLE "label_design" ADD COLUMN "formula_id" uuid;--> statement-breakpoint
ALTER TABLE "jar_label" ADD CONSTRAINT "jar_label_label_lot_id_lot_id_fk" FOREIGN KEY ("label_lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "jar_label_label_lot_id_index" ON "jar_label" USING btree ("label_lot_id");
ALTER TABLE "supplier" ADD COLUMN "own_plot" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "state" text DEFAULT 'asReceived' NOT NULL;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "keeps_until" date;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "cost" numeric(9, 4);--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "reference" text;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "condition" text;
ALTER TABLE "reorder_point" ALTER COLUMN "at_least" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "reorder_point" ADD COLUMN "delivery_days" double precision;
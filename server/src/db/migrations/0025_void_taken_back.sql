ALTER TABLE "movement" ADD COLUMN "voided_by" bigint;--> statement-breakpoint
ALTER TABLE "observation" ADD COLUMN "voided_by" bigint;--> statement-breakpoint
ALTER TABLE "step" ADD COLUMN "voided_by" bigint;
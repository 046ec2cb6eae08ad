CREATE TABLE "attachment" (
	"id" uuid PRIMARY KEY NOT NULL,
	"lot_id" uuid,
	"batch_id" uuid,
	"name" text NOT NULL,
	"type" text NOT NULL,
	"size" integer NOT NULL,
	"content" "bytea" NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sample" (
	"id" uuid PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "certificates" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "grower_notes" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "ceiling_c" double precision;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "lead_weeks" double precision;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "plots" jsonb;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "from_lot_id" uuid;--> statement-breakpoint
ALTER TABLE "observation" ADD COLUMN "lot_id" uuid;--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "probe" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "live" boolean DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX "attachment_lot" ON "attachment" USING btree ("lot_id");--> statement-breakpoint
CREATE INDEX "attachment_batch" ON "attachment" USING btree ("batch_id");--> statement-breakpoint
CREATE INDEX "observation_lot" ON "observation" USING btree ("lot_id");
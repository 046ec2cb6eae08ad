CREATE TABLE "trial" (
	"id" uuid PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "machine_event" (
	"id" uuid PRIMARY KEY NOT NULL,
	"machine_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"note" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
ALTER TABLE "ingredient" ADD COLUMN "nutrition" jsonb;--> statement-breakpoint
ALTER TABLE "ingredient" ADD COLUMN "density_g_per_ml" double precision;--> statement-breakpoint
ALTER TABLE "ingredient" ADD COLUMN "crystal_um" double precision;--> statement-breakpoint
ALTER TABLE "ingredient" ADD COLUMN "stock_mg" bigint;--> statement-breakpoint
ALTER TABLE "ingredient" ADD COLUMN "origin" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "price" double precision;--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "resale" double precision;--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "life_kg" double precision;--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "loud" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "service_hours" double precision;--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "tool" text;--> statement-breakpoint
CREATE INDEX "machine_event_machine" ON "machine_event" USING btree ("machine_id","at");
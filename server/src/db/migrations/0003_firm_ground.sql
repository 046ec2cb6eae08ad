CREATE TABLE "supply" (
	"id" uuid PRIMARY KEY NOT NULL,
	"ingredient_id" uuid,
	"name" text NOT NULL,
	"supplier" text NOT NULL,
	"supplier_lot" text NOT NULL,
	"best_before" date,
	"allergens" jsonb,
	"place" text NOT NULL,
	"note" text NOT NULL,
	"price_per_kg" double precision NOT NULL,
	"received_on" date NOT NULL,
	"arrived_mg" bigint NOT NULL,
	"arrived_count" integer,
	"parcel_id" uuid NOT NULL,
	"step_id" uuid NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "set_aside" (
	"seq" bigint PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"version" integer NOT NULL,
	"target" text NOT NULL,
	"by" text NOT NULL,
	"at" text NOT NULL,
	"body" text NOT NULL,
	"reason" text NOT NULL,
	"seen_at" timestamp (3) with time zone
);
--> statement-breakpoint
ALTER TABLE "batch" ADD COLUMN "route" jsonb;--> statement-breakpoint
ALTER TABLE "movement" ADD COLUMN "price_per_kg" double precision;--> statement-breakpoint
ALTER TABLE "movement" ADD COLUMN "split_of" uuid;--> statement-breakpoint
ALTER TABLE "step" ADD COLUMN "kind" text DEFAULT 'receive' NOT NULL;--> statement-breakpoint
UPDATE "step" SET "kind" = CASE
	WHEN "details" ->> 'work' = 'leave' THEN 'leave'
	WHEN "details" ->> 'work' = 'conche' THEN 'conche'
	WHEN "station" = 'beans' AND EXISTS (SELECT 1 FROM "movement" m WHERE m."step_id" = "step"."id" AND m."direction" = 'in') THEN 'dry'
	WHEN "station" = 'beans' THEN 'receive'
	WHEN EXISTS (SELECT 1 FROM "movement" m WHERE m."step_id" = "step"."id" AND m."reason" = 'abandoned')
		AND NOT EXISTS (SELECT 1 FROM "movement" m WHERE m."step_id" = "step"."id" AND m."direction" = 'out') THEN 'write-off'
	ELSE "station" END, "details" = "details" - 'work';--> statement-breakpoint
ALTER TABLE "step" ALTER COLUMN "kind" DROP DEFAULT;--> statement-breakpoint
UPDATE "movement" SET "price_per_kg" = i."price_per_kg" FROM "ingredient" i WHERE i."id" = "movement"."ingredient_id";--> statement-breakpoint
UPDATE "parcel" SET "count" = CASE WHEN "remaining_mg" = 0 THEN 0 ELSE greatest(1, round("count" * "remaining_mg" / greatest(1,
	(SELECT coalesce(sum(m."mass_mg"), 0) FROM "movement" m WHERE m."parcel_id" = "parcel"."id" AND m."direction" = 'out' AND m."replaced_by" IS NULL AND NOT m."voided")))) END
	WHERE "count" IS NOT NULL;--> statement-breakpoint
ALTER TABLE "recipe" ADD COLUMN "tempered" boolean;--> statement-breakpoint
ALTER TABLE "recipe" ADD COLUMN "conched" boolean;--> statement-breakpoint
ALTER TABLE "readings" ADD COLUMN "voided" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "trail" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "trail" ADD COLUMN "body_hash" text;--> statement-breakpoint
ALTER TABLE "trail" ADD COLUMN "touches" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
CREATE INDEX "supply_ingredient" ON "supply" USING btree ("ingredient_id","received_on");--> statement-breakpoint
CREATE INDEX "supply_parcel" ON "supply" USING btree ("parcel_id");--> statement-breakpoint
ALTER TABLE "parcel" ADD CONSTRAINT "parcel_count_not_below_zero" CHECK ("parcel"."count" >= 0);--> statement-breakpoint
UPDATE "movement" SET "reason" = 'sweepings' WHERE "reason" = 'dust';

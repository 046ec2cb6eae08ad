CREATE TABLE "person" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"initials" text NOT NULL,
	"role" text NOT NULL,
	"active" boolean DEFAULT true NOT NULL,
	"demo" boolean DEFAULT false NOT NULL,
	"password_hash" text,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "session" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"expires_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "lot" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"material" text NOT NULL,
	"country" text NOT NULL,
	"region" text NOT NULL,
	"grower" text NOT NULL,
	"variety" text NOT NULL,
	"harvest" text NOT NULL,
	"notes" text NOT NULL,
	"price_per_kg" double precision NOT NULL,
	"freight" double precision NOT NULL,
	"moisture" double precision,
	"beans_per_100g" double precision,
	"nib_fat" double precision,
	"place" text NOT NULL,
	"on_hold" boolean DEFAULT false NOT NULL,
	"hold_reason" text DEFAULT '' NOT NULL,
	"bags" integer,
	"received_on" date NOT NULL,
	"arrived_mg" bigint NOT NULL,
	"parcel_id" uuid NOT NULL,
	"step_id" uuid NOT NULL,
	"voided" boolean DEFAULT false NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "batch" (
	"id" uuid PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"lot_id" uuid NOT NULL,
	"recipe_id" uuid,
	"planned_mg" bigint,
	"bar_mg" bigint,
	"state" text DEFAULT 'open' NOT NULL,
	"state_reason" text DEFAULT '' NOT NULL,
	"started_at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "movement" (
	"id" uuid PRIMARY KEY NOT NULL,
	"step_id" uuid NOT NULL,
	"batch_id" uuid,
	"direction" text NOT NULL,
	"mass_mg" bigint NOT NULL,
	"source" text NOT NULL,
	"u_mg" bigint,
	"material" text,
	"parcel_id" uuid,
	"ingredient_id" uuid,
	"label" text,
	"reason" text,
	"count" integer,
	"note" text DEFAULT '' NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"seq" bigint NOT NULL,
	"replaces" uuid,
	"correction_reason" text DEFAULT '' NOT NULL,
	"replaced_by" uuid,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "observation" (
	"id" uuid PRIMARY KEY NOT NULL,
	"batch_id" uuid,
	"step_id" uuid,
	"kind" text NOT NULL,
	"data" jsonb NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"seq" bigint NOT NULL,
	"replaces" uuid,
	"replaced_by" uuid,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "parcel" (
	"id" uuid PRIMARY KEY NOT NULL,
	"material" text NOT NULL,
	"label" text DEFAULT '' NOT NULL,
	"lot_id" uuid,
	"batch_id" uuid,
	"step_id" uuid NOT NULL,
	"remaining_mg" bigint NOT NULL,
	"count" integer,
	"place" text DEFAULT '' NOT NULL,
	"made_at" timestamp (3) with time zone NOT NULL,
	CONSTRAINT "parcel_not_below_zero" CHECK ("parcel"."remaining_mg" >= 0)
);
--> statement-breakpoint
CREATE TABLE "step" (
	"id" uuid PRIMARY KEY NOT NULL,
	"batch_id" uuid,
	"station" text NOT NULL,
	"status" text DEFAULT 'open' NOT NULL,
	"voided" boolean DEFAULT false NOT NULL,
	"started_at" timestamp (3) with time zone NOT NULL,
	"ended_at" timestamp (3) with time zone,
	"machine_id" uuid,
	"hands_on_minutes" double precision,
	"details" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"by" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "ingredient" (
	"id" uuid PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"name" text NOT NULL,
	"cacao" text NOT NULL,
	"composition" jsonb NOT NULL,
	"price_per_kg" double precision NOT NULL,
	"allergens" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "recipe" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"kind" text NOT NULL,
	"lines" jsonb NOT NULL,
	"aim_um" double precision,
	"beans_share" double precision NOT NULL,
	"notes" text NOT NULL,
	"follows" uuid,
	"number" integer NOT NULL,
	"current" boolean DEFAULT true NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"by" text
);
--> statement-breakpoint
CREATE TABLE "readings" (
	"id" uuid PRIMARY KEY NOT NULL,
	"step_id" uuid NOT NULL,
	"place" text NOT NULL,
	"started_at" timestamp (3) with time zone NOT NULL,
	"count" integer NOT NULL,
	"ms" "bytea" NOT NULL,
	"celsius" "bytea" NOT NULL,
	"source" text NOT NULL,
	"by" text NOT NULL,
	"seq" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tasting" (
	"id" uuid PRIMARY KEY NOT NULL,
	"batch_id" uuid NOT NULL,
	"person_id" uuid,
	"by" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"card" jsonb NOT NULL,
	"seq" bigint NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "trail" (
	"seq" bigint PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"target" text NOT NULL,
	"batch_id" uuid,
	"person_id" uuid,
	"by" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"body" jsonb,
	"undone_by" bigint,
	"undoable" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "machine" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"station" text NOT NULL,
	"kind" text NOT NULL,
	"min_mg" bigint,
	"max_mg" bigint,
	"u_mg" bigint,
	"active" boolean DEFAULT true NOT NULL,
	"token_hash" text,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "workshop" (
	"id" integer PRIMARY KEY NOT NULL,
	"settings" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE INDEX "session_person" ON "session" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "lot_received" ON "lot" USING btree ("received_on");--> statement-breakpoint
CREATE INDEX "batch_state" ON "batch" USING btree ("state","started_at");--> statement-breakpoint
CREATE INDEX "batch_lot" ON "batch" USING btree ("lot_id","started_at");--> statement-breakpoint
CREATE INDEX "batch_started" ON "batch" USING btree ("started_at");--> statement-breakpoint
CREATE INDEX "batch_code" ON "batch" USING btree ("code");--> statement-breakpoint
CREATE INDEX "movement_step" ON "movement" USING btree ("step_id");--> statement-breakpoint
CREATE INDEX "movement_batch" ON "movement" USING btree ("batch_id");--> statement-breakpoint
CREATE INDEX "movement_parcel" ON "movement" USING btree ("parcel_id");--> statement-breakpoint
CREATE INDEX "observation_batch" ON "observation" USING btree ("batch_id");--> statement-breakpoint
CREATE INDEX "observation_step" ON "observation" USING btree ("step_id");--> statement-breakpoint
CREATE INDEX "observation_kind" ON "observation" USING btree ("kind","at");--> statement-breakpoint
CREATE INDEX "parcel_batch" ON "parcel" USING btree ("batch_id");--> statement-breakpoint
CREATE INDEX "parcel_lot" ON "parcel" USING btree ("lot_id");--> statement-breakpoint
CREATE INDEX "parcel_step" ON "parcel" USING btree ("step_id");--> statement-breakpoint
CREATE INDEX "parcel_in_stock" ON "parcel" USING btree ("material") WHERE "parcel"."remaining_mg" > 0;--> statement-breakpoint
CREATE INDEX "step_batch" ON "step" USING btree ("batch_id");--> statement-breakpoint
CREATE INDEX "step_station" ON "step" USING btree ("station","status","ended_at");--> statement-breakpoint
CREATE INDEX "step_machine" ON "step" USING btree ("machine_id","status");--> statement-breakpoint
CREATE INDEX "recipe_follows" ON "recipe" USING btree ("follows");--> statement-breakpoint
CREATE INDEX "readings_step" ON "readings" USING btree ("step_id","place");--> statement-breakpoint
CREATE INDEX "tasting_batch" ON "tasting" USING btree ("batch_id");--> statement-breakpoint
CREATE INDEX "trail_target" ON "trail" USING btree ("target","kind");--> statement-breakpoint
CREATE INDEX "trail_batch" ON "trail" USING btree ("batch_id","seq");--> statement-breakpoint
CREATE INDEX "trail_person" ON "trail" USING btree ("person_id","seq");
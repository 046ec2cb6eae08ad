CREATE TABLE "absence" (
	"id" uuid PRIMARY KEY NOT NULL,
	"who" uuid,
	"from_at" timestamp (3) with time zone NOT NULL,
	"to_at" timestamp (3) with time zone NOT NULL,
	"reason" text NOT NULL,
	"is_off" boolean DEFAULT false NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "calendar_address" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"token_hash" text NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"ended" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "customer" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"channel" text NOT NULL,
	"note" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "customer_order" (
	"id" uuid PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"state" text NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "kept_plan" (
	"id" uuid PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "stock_aim" (
	"id" uuid PRIMARY KEY NOT NULL,
	"recipe_id" uuid NOT NULL,
	"lot_id" uuid,
	"floor" double precision NOT NULL,
	"aim" double precision NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "work_hours" (
	"id" integer PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);

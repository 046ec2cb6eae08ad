CREATE TABLE "label_design" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"design" jsonb NOT NULL,
	"active" boolean DEFAULT true NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "mould_form" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"makes" text NOT NULL,
	"cavities" integer NOT NULL,
	"fill_mg" bigint NOT NULL,
	"count" integer NOT NULL,
	"places" double precision NOT NULL,
	"active" boolean DEFAULT true NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "places" integer;
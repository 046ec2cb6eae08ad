CREATE TABLE "import_run" (
	"id" uuid PRIMARY KEY NOT NULL,
	"of" text NOT NULL,
	"file" text NOT NULL,
	"rows" integer NOT NULL,
	"brought" jsonb NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"seq" bigint NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
ALTER TABLE "customer" ADD COLUMN "voided" boolean DEFAULT false NOT NULL;
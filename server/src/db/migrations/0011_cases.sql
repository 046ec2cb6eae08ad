CREATE TABLE "fault_case" (
	"id" uuid PRIMARY KEY NOT NULL,
	"number" integer NOT NULL,
	"origin" text NOT NULL,
	"batch_id" uuid,
	"facts" jsonb NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"closing" jsonb,
	"closed_at" timestamp (3) with time zone,
	"closed_by" text,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "public_page" (
	"id" uuid PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "reminder" (
	"id" uuid PRIMARY KEY NOT NULL,
	"station" text NOT NULL,
	"text" text NOT NULL,
	"lot_id" uuid,
	"recipe_id" uuid,
	"case_id" uuid,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"done_at" timestamp (3) with time zone,
	"done_by" text,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "is_named" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "attachment" ADD COLUMN "case_id" uuid;--> statement-breakpoint
CREATE INDEX "fault_case_batch" ON "fault_case" USING btree ("batch_id");--> statement-breakpoint
CREATE INDEX "attachment_case" ON "attachment" USING btree ("case_id");
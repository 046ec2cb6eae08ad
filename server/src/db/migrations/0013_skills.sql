CREATE TABLE "practised" (
	"id" text PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"lesson" text NOT NULL,
	"level" integer NOT NULL,
	"points" integer NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sign_off" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"station" text NOT NULL,
	"signed_by" uuid,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE INDEX "practised_person" ON "practised" USING btree ("person_id");
CREATE TABLE "caution_read" (
	"id" uuid PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"station" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL
);

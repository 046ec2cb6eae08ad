CREATE TABLE "cause_estimate" (
	"id" uuid PRIMARY KEY NOT NULL,
	"seq" integer NOT NULL,
	"cause" text NOT NULL,
	"estimate" jsonb,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);

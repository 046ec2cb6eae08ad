CREATE TABLE "session_card" (
	"id" uuid PRIMARY KEY NOT NULL,
	"session_id" uuid NOT NULL,
	"seat_id" uuid NOT NULL,
	"round" integer NOT NULL,
	"place" integer NOT NULL,
	"card" jsonb NOT NULL,
	"from_paper" boolean NOT NULL,
	"by" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"seq" bigint NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "tasting_session" (
	"id" uuid PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"created_at" timestamp (3) with time zone NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE INDEX "session_card_session" ON "session_card" USING btree ("session_id");
CREATE TABLE "class_event" (
	"id" uuid PRIMARY KEY NOT NULL,
	"starts_at" timestamp (3) with time zone NOT NULL,
	"facts" jsonb NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"held_at" timestamp (3) with time zone,
	"held_by" text,
	"held_note" text,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "class_guest" (
	"id" uuid PRIMARY KEY NOT NULL,
	"class_id" uuid NOT NULL,
	"code" text NOT NULL,
	"facts" jsonb NOT NULL,
	"came" boolean,
	"score" jsonb,
	"at" timestamp (3) with time zone NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE INDEX "class_event_starts" ON "class_event" USING btree ("starts_at");--> statement-breakpoint
CREATE INDEX "class_guest_class" ON "class_guest" USING btree ("class_id");--> statement-breakpoint
CREATE UNIQUE INDEX "class_guest_code" ON "class_guest" USING btree ("code");
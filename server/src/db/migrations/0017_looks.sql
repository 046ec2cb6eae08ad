CREATE TABLE "reorder_point" (
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"at_least" bigint NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	CONSTRAINT "reorder_point_kind_key_pk" PRIMARY KEY("kind","key")
);
--> statement-breakpoint
CREATE TABLE "table_look" (
	"id" uuid PRIMARY KEY NOT NULL,
	"table" text NOT NULL,
	"name" text NOT NULL,
	"query" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);

CREATE TABLE "month_sign" (
	"id" uuid PRIMARY KEY NOT NULL,
	"month" text NOT NULL,
	"figures" jsonb NOT NULL,
	"note" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"seq" bigint NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE INDEX "month_sign_month" ON "month_sign" USING btree ("month");
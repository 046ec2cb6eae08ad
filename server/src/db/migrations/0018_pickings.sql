CREATE TABLE "picking" (
	"id" uuid PRIMARY KEY NOT NULL,
	"picked_on" date NOT NULL,
	"plot" text NOT NULL,
	"trees" integer,
	"pods" integer NOT NULL,
	"wet_mg" bigint,
	"paid" double precision NOT NULL,
	"bought_from" text NOT NULL,
	"note" text NOT NULL,
	"by" text NOT NULL,
	"lot_id" uuid,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE INDEX "picking_on" ON "picking" USING btree ("picked_on");
CREATE TABLE "delivery" (
	"id" uuid PRIMARY KEY NOT NULL,
	"number" integer NOT NULL,
	"customer_id" uuid NOT NULL,
	"order_id" uuid,
	"note" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "delivery_line" (
	"step_id" uuid PRIMARY KEY NOT NULL,
	"delivery_id" uuid NOT NULL,
	"parcel_id" uuid NOT NULL,
	"price" double precision
);
--> statement-breakpoint
CREATE TABLE "parcel_hold" (
	"id" uuid PRIMARY KEY NOT NULL,
	"hold_id" uuid NOT NULL,
	"parcel_id" uuid NOT NULL,
	"was_on_hold" boolean NOT NULL,
	"was_reason" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "parcel_move" (
	"id" uuid PRIMARY KEY NOT NULL,
	"move_id" uuid NOT NULL,
	"parcel_id" uuid NOT NULL,
	"from_place" text NOT NULL,
	"to_place" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"seq" bigint NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "recall" (
	"id" uuid PRIMARY KEY NOT NULL,
	"number" integer NOT NULL,
	"facts" jsonb NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "stock_count" (
	"id" uuid PRIMARY KEY NOT NULL,
	"place" text NOT NULL,
	"lines" jsonb NOT NULL,
	"note" text NOT NULL,
	"at" timestamp (3) with time zone NOT NULL,
	"by" text NOT NULL,
	"voided" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
ALTER TABLE "parcel" ADD COLUMN "on_hold" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "parcel" ADD COLUMN "hold_reason" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "machine" ADD COLUMN "watts" double precision;--> statement-breakpoint
CREATE INDEX "delivery_order" ON "delivery" USING btree ("order_id");--> statement-breakpoint
CREATE INDEX "delivery_customer" ON "delivery" USING btree ("customer_id","at");--> statement-breakpoint
CREATE INDEX "delivery_line_delivery" ON "delivery_line" USING btree ("delivery_id");--> statement-breakpoint
CREATE INDEX "delivery_line_parcel" ON "delivery_line" USING btree ("parcel_id");--> statement-breakpoint
CREATE INDEX "parcel_hold_hold" ON "parcel_hold" USING btree ("hold_id");--> statement-breakpoint
CREATE INDEX "parcel_move_parcel" ON "parcel_move" USING btree ("parcel_id");--> statement-breakpoint
CREATE INDEX "parcel_move_move" ON "parcel_move" USING btree ("move_id");--> statement-breakpoint
CREATE INDEX "movement_off_shelf" ON "movement" USING btree ("ingredient_id") WHERE "movement"."parcel_id" is null;
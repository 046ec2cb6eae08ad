ALTER TABLE "movement" ADD COLUMN "hold_override" text DEFAULT '' NOT NULL;--> statement-breakpoint
UPDATE "movement" SET "hold_override" = substring("note" from '\[hold set aside: (.*)\]$'), "note" = btrim(regexp_replace("note", '\[hold set aside: .*\]$', ''))
WHERE "note" LIKE '%[hold set aside: %]';

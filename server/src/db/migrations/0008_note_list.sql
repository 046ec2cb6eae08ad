CREATE TABLE "note_list" (
	"id" integer PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL
);

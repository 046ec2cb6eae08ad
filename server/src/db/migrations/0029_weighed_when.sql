-- A corrected weight was weighed when the first one was, not when it was put right.
WITH RECURSIVE said AS (
  SELECT "id", "at" FROM "movement" WHERE "replaces" IS NULL
  UNION ALL
  SELECT m."id", s."at" FROM "movement" m JOIN said s ON m."replaces" = s."id"
)
UPDATE "movement" m SET "at" = s."at" FROM said s WHERE m."id" = s."id" AND m."replaces" IS NOT NULL AND m."at" <> s."at";

CREATE VIEW "living" AS
  SELECT "id" AS "project_id", "document"::text AS "body" FROM "projects"
  UNION ALL
  SELECT "project_id", coalesce("patches"::text, '') || "command"::text || coalesce("undo"::text, '') FROM "project_edits"
  UNION ALL
  SELECT "project_id", "document"::text FROM "renders" WHERE "state" IN ('waiting', 'working', 'paused')
  UNION ALL
  SELECT NULL::uuid, "value"::text FROM "settings";

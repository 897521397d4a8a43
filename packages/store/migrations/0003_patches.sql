ALTER TABLE "project_edits" ALTER COLUMN "undo" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "project_edits" ALTER COLUMN "undo" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "project_edits" ADD COLUMN "patches" jsonb;--> statement-breakpoint
ALTER TABLE "project_edits" ADD COLUMN "version" integer DEFAULT 3 NOT NULL;
ALTER TABLE "assets" ADD COLUMN "replaces" uuid;--> statement-breakpoint
ALTER TABLE "project_edits" ADD COLUMN "undo" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "project_edits" ADD COLUMN "name_before" text;
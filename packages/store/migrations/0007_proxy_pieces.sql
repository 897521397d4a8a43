ALTER TABLE "artefacts" ADD COLUMN "near" integer;--> statement-breakpoint
ALTER TABLE "artefacts" ADD COLUMN "near_at" timestamp with time zone;
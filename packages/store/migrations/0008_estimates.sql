CREATE TABLE "estimates" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" uuid NOT NULL,
	"reel_id" uuid NOT NULL,
	"settings" jsonb NOT NULL,
	"document" jsonb NOT NULL,
	"wanted_at" timestamp with time zone DEFAULT now() NOT NULL,
	"found" jsonb,
	"message" text,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "estimates" ADD CONSTRAINT "estimates_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;
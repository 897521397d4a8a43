CREATE TABLE "assets" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" uuid NOT NULL,
	"hash" text,
	"file_name" text NOT NULL,
	"size" bigint NOT NULL,
	"upload_path" text,
	"window_id" text NOT NULL,
	"state" text NOT NULL,
	"message" text,
	"dismissed" boolean DEFAULT false NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "media" (
	"hash" text PRIMARY KEY NOT NULL,
	"size" bigint NOT NULL,
	"facts" jsonb NOT NULL,
	"state" text NOT NULL,
	"progress" real DEFAULT 0 NOT NULL,
	"message" text,
	"heartbeat_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "project_edits" (
	"project_id" uuid NOT NULL,
	"seq" integer NOT NULL,
	"id" uuid NOT NULL,
	"command" jsonb NOT NULL,
	"window_id" text NOT NULL,
	"label" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "project_edits_project_id_seq_pk" PRIMARY KEY("project_id","seq"),
	CONSTRAINT "edit_once" UNIQUE("project_id","id")
);
--> statement-breakpoint
CREATE TABLE "projects" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"document" jsonb NOT NULL,
	"document_seq" integer NOT NULL,
	"seq" integer NOT NULL,
	"length" bigint DEFAULT 0 NOT NULL,
	"poster_asset" uuid,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"edited_at" timestamp with time zone DEFAULT now() NOT NULL,
	"deleted_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "renders" (
	"id" uuid PRIMARY KEY NOT NULL,
	"project_id" uuid NOT NULL,
	"reel_id" uuid NOT NULL,
	"name" text NOT NULL,
	"settings" jsonb NOT NULL,
	"document" jsonb NOT NULL,
	"state" text NOT NULL,
	"progress" jsonb,
	"message" text,
	"report" jsonb,
	"attempt" integer DEFAULT 0 NOT NULL,
	"heartbeat_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"started_at" timestamp with time zone,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "settings" (
	"key" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "assets" ADD CONSTRAINT "assets_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "assets" ADD CONSTRAINT "assets_hash_media_hash_fk" FOREIGN KEY ("hash") REFERENCES "public"."media"("hash") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "project_edits" ADD CONSTRAINT "project_edits_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "renders" ADD CONSTRAINT "renders_project_id_projects_id_fk" FOREIGN KEY ("project_id") REFERENCES "public"."projects"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "assets_by_project" ON "assets" USING btree ("project_id");--> statement-breakpoint
CREATE INDEX "assets_by_hash" ON "assets" USING btree ("hash");--> statement-breakpoint
CREATE INDEX "projects_by_edit" ON "projects" USING btree ("edited_at");--> statement-breakpoint
CREATE INDEX "renders_by_project" ON "renders" USING btree ("project_id","created_at");
CREATE TABLE "posts" (
	"id" uuid PRIMARY KEY NOT NULL,
	"render_id" uuid NOT NULL,
	"place" text NOT NULL,
	"words" jsonb NOT NULL,
	"file" jsonb NOT NULL,
	"thumbnail" jsonb,
	"picture" "bytea",
	"state" text NOT NULL,
	"message" text,
	"attempt" integer DEFAULT 0 NOT NULL,
	"heartbeat_at" timestamp with time zone,
	"remote" jsonb,
	"sent" bigint DEFAULT 0 NOT NULL,
	"page" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
ALTER TABLE "posts" ADD CONSTRAINT "posts_render_id_renders_id_fk" FOREIGN KEY ("render_id") REFERENCES "public"."renders"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "posts_by_render" ON "posts" USING btree ("render_id","created_at");
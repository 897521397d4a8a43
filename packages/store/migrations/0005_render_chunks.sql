CREATE TABLE "render_chunks" (
	"render_id" uuid NOT NULL,
	"n" integer NOT NULL,
	"key" text NOT NULL,
	"first" integer NOT NULL,
	"end" integer NOT NULL,
	"state" text NOT NULL,
	"attempt" integer DEFAULT 0 NOT NULL,
	"heartbeat_at" timestamp with time zone,
	"worker" text,
	"drawn" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "render_chunks_render_id_n_pk" PRIMARY KEY("render_id","n")
);
--> statement-breakpoint
ALTER TABLE "renders" ADD COLUMN "place" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "render_chunks" ADD CONSTRAINT "render_chunks_render_id_renders_id_fk" FOREIGN KEY ("render_id") REFERENCES "public"."renders"("id") ON DELETE cascade ON UPDATE no action;
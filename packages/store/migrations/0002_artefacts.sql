CREATE TABLE "artefacts" (
	"key" text PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"source" text NOT NULL,
	"settings" jsonb NOT NULL,
	"state" text NOT NULL,
	"message" text,
	"attempt" integer DEFAULT 0 NOT NULL,
	"heartbeat_at" timestamp with time zone,
	"progress" real DEFAULT 0 NOT NULL,
	"facts" jsonb,
	"bytes" bigint DEFAULT 0 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "assets" ADD COLUMN "attempt" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "assets" ADD COLUMN "heartbeat_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "media" ADD COLUMN "metadata" jsonb;--> statement-breakpoint
UPDATE "media" SET "metadata" = ("facts" - 'strip' - 'proxy' - 'timed') || jsonb_build_object(
	'seekable', coalesce("facts" -> 'timed', 'true'::jsonb),
	'stillFormat', CASE WHEN "facts" ->> 'kind' = 'still' THEN to_jsonb(replace("facts" ->> 'container', '_pipe', '')) ELSE 'null'::jsonb END
);--> statement-breakpoint
ALTER TABLE "media" ALTER COLUMN "metadata" SET NOT NULL;--> statement-breakpoint
UPDATE "assets" SET "state" = CASE "state" WHEN 'examining' THEN 'waiting' WHEN 'taken' THEN 'ready' ELSE "state" END;--> statement-breakpoint
ALTER TABLE "artefacts" ADD CONSTRAINT "artefacts_source_media_hash_fk" FOREIGN KEY ("source") REFERENCES "public"."media"("hash") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "artefacts_by_source" ON "artefacts" USING btree ("source");--> statement-breakpoint
ALTER TABLE "media" DROP COLUMN "facts";--> statement-breakpoint
ALTER TABLE "media" DROP COLUMN "state";--> statement-breakpoint
ALTER TABLE "media" DROP COLUMN "progress";--> statement-breakpoint
ALTER TABLE "media" DROP COLUMN "message";--> statement-breakpoint
ALTER TABLE "media" DROP COLUMN "heartbeat_at";
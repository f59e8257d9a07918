CREATE TABLE "alignments" (
	"clip_id" uuid NOT NULL,
	"other_id" uuid NOT NULL,
	"offset" double precision NOT NULL,
	"sure" real NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "alignments_clip_id_other_id_pk" PRIMARY KEY("clip_id","other_id")
);
--> statement-breakpoint
CREATE TABLE "performers" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"production_id" uuid NOT NULL,
	"name" text NOT NULL,
	"height" real,
	"colour" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "presets" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"production_id" uuid NOT NULL,
	"name" text NOT NULL,
	"settings" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "tags" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "notes" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "judged" jsonb;--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "rate" double precision;--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "replaced_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "prepared" ADD COLUMN "looks" jsonb;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "place" double precision DEFAULT extract(epoch from now()) NOT NULL;--> statement-breakpoint
ALTER TABLE "takes" ADD COLUMN "place" double precision DEFAULT extract(epoch from now()) NOT NULL;--> statement-breakpoint
ALTER TABLE "takes" ADD COLUMN "best" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "takes" ADD COLUMN "removed_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "alignments" ADD CONSTRAINT "alignments_clip_id_clips_id_fk" FOREIGN KEY ("clip_id") REFERENCES "public"."clips"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alignments" ADD CONSTRAINT "alignments_other_id_clips_id_fk" FOREIGN KEY ("other_id") REFERENCES "public"."clips"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "performers" ADD CONSTRAINT "performers_production_id_productions_id_fk" FOREIGN KEY ("production_id") REFERENCES "public"."productions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "presets" ADD CONSTRAINT "presets_production_id_productions_id_fk" FOREIGN KEY ("production_id") REFERENCES "public"."productions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "performers_production" ON "performers" USING btree ("production_id");--> statement-breakpoint
CREATE INDEX "presets_production" ON "presets" USING btree ("production_id");--> statement-breakpoint
UPDATE "takes" SET "place" = extract(epoch from "created_at");--> statement-breakpoint
UPDATE "runs" SET "place" = extract(epoch from "created_at");--> statement-breakpoint
ALTER TABLE "pieces" RENAME TO "observation_chunks";--> statement-breakpoint
ALTER TABLE "observation_chunks" RENAME CONSTRAINT "pieces_run_id_first_part_pk" TO "observation_chunks_run_id_first_part_pk";--> statement-breakpoint
ALTER TABLE "observation_chunks" RENAME CONSTRAINT "pieces_run_id_runs_id_fk" TO "observation_chunks_run_id_runs_id_fk";--> statement-breakpoint
CREATE TRIGGER "performers_tell" AFTER INSERT OR UPDATE OR DELETE ON "performers" FOR EACH ROW EXECUTE FUNCTION "tell_change"('production', 'production_id');--> statement-breakpoint
CREATE TRIGGER "presets_tell" AFTER INSERT OR UPDATE OR DELETE ON "presets" FOR EACH ROW EXECUTE FUNCTION "tell_change"('production', 'production_id');--> statement-breakpoint
CREATE TRIGGER "alignments_tell" AFTER INSERT OR UPDATE OR DELETE ON "alignments" FOR EACH ROW EXECUTE FUNCTION "tell_change"('clip', 'clip_id');

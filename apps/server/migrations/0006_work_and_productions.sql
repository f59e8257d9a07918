CREATE TABLE "productions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"put_away_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "take_revisions" (
	"take_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	"label" text DEFAULT '' NOT NULL,
	"change" jsonb NOT NULL,
	"snapshot" jsonb,
	"version" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "take_revisions_take_id_revision_pk" PRIMARY KEY("take_id","revision")
);
--> statement-breakpoint
ALTER TABLE "takes" RENAME COLUMN "edits_revision" TO "revision";--> statement-breakpoint
ALTER TABLE "pieces" ADD COLUMN "part" text DEFAULT 'all' NOT NULL;--> statement-breakpoint
ALTER TABLE "pieces" DROP CONSTRAINT "pieces_run_id_first_pk";--> statement-breakpoint
ALTER TABLE "pieces" ADD CONSTRAINT "pieces_run_id_first_part_pk" PRIMARY KEY("run_id","first","part");--> statement-breakpoint
ALTER TABLE "take_revisions" ADD CONSTRAINT "take_revisions_take_id_takes_id_fk" FOREIGN KEY ("take_id") REFERENCES "public"."takes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
INSERT INTO "productions" ("name") VALUES ('First production');--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "production_id" uuid;--> statement-breakpoint
UPDATE "clips" SET "production_id" = (SELECT "id" FROM "productions");--> statement-breakpoint
ALTER TABLE "clips" ALTER COLUMN "production_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "clips" ADD CONSTRAINT "clips_production_id_productions_id_fk" FOREIGN KEY ("production_id") REFERENCES "public"."productions"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "clips_production" ON "clips" USING btree ("production_id");--> statement-breakpoint
CREATE FUNCTION "tell_change"() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
	changed jsonb := to_jsonb(COALESCE(NEW, OLD));
BEGIN
	PERFORM pg_notify('changes', TG_ARGV[0] || ' ' || (changed ->> TG_ARGV[1]));
	RETURN NULL;
END $$;--> statement-breakpoint
CREATE TRIGGER "productions_tell" AFTER INSERT OR UPDATE OR DELETE ON "productions" FOR EACH ROW EXECUTE FUNCTION "tell_change"('production', 'id');--> statement-breakpoint
CREATE TRIGGER "clips_tell" AFTER INSERT OR UPDATE OR DELETE ON "clips" FOR EACH ROW EXECUTE FUNCTION "tell_change"('clip', 'id');--> statement-breakpoint
CREATE TRIGGER "takes_tell" AFTER INSERT OR UPDATE OR DELETE ON "takes" FOR EACH ROW EXECUTE FUNCTION "tell_change"('take', 'id');--> statement-breakpoint
CREATE TRIGGER "runs_tell" AFTER INSERT OR UPDATE OR DELETE ON "runs" FOR EACH ROW EXECUTE FUNCTION "tell_change"('take', 'take_id');

CREATE TABLE "prepared" (
	"hash" text PRIMARY KEY NOT NULL,
	"facts" jsonb NOT NULL,
	"sizes" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "clips" ADD COLUMN "tries" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX "clips_hash" ON "clips" USING btree ("hash");--> statement-breakpoint
-- What was prepared before nobody recorded whole: it is prepared once more.
UPDATE "clips" SET "state" = 'waiting', "progress" = 0 WHERE "state" = 'ready';--> statement-breakpoint
-- Of several open runs of a take the newest stays.
UPDATE "runs" SET "state" = 'cancelled', "finished_at" = now() WHERE "state" in ('waiting', 'running') AND EXISTS (
	SELECT 1 FROM "runs" AS "newer" WHERE "newer"."take_id" = "runs"."take_id" AND "newer"."state" in ('waiting', 'running')
	AND ("newer"."created_at", "newer"."id") > ("runs"."created_at", "runs"."id")
);--> statement-breakpoint
CREATE UNIQUE INDEX "runs_open" ON "runs" USING btree ("take_id") WHERE "runs"."state" in ('waiting', 'running');

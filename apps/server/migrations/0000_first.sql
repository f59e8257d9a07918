CREATE TYPE "public"."clip_state" AS ENUM('waiting', 'preparing', 'ready', 'failed');--> statement-breakpoint
CREATE TYPE "public"."run_state" AS ENUM('waiting', 'running', 'done', 'failed', 'cancelled');--> statement-breakpoint
CREATE TABLE "clips" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"hash" text NOT NULL,
	"state" "clip_state" DEFAULT 'waiting' NOT NULL,
	"problem" text,
	"progress" real DEFAULT 0 NOT NULL,
	"facts" jsonb,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "pieces" (
	"run_id" uuid NOT NULL,
	"first" integer NOT NULL,
	"frames" integer NOT NULL,
	"data" "bytea" NOT NULL,
	CONSTRAINT "pieces_run_id_first_pk" PRIMARY KEY("run_id","first")
);
--> statement-breakpoint
CREATE TABLE "runs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"take_id" uuid NOT NULL,
	"state" "run_state" DEFAULT 'waiting' NOT NULL,
	"from_frame" integer NOT NULL,
	"until_frame" integer NOT NULL,
	"done_frames" integer DEFAULT 0 NOT NULL,
	"frames_per_second" real,
	"problem" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"finished_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "takes" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"clip_id" uuid NOT NULL,
	"name" text NOT NULL,
	"from_frame" integer NOT NULL,
	"until_frame" integer NOT NULL,
	"settings" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "pieces" ADD CONSTRAINT "pieces_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "runs" ADD CONSTRAINT "runs_take_id_takes_id_fk" FOREIGN KEY ("take_id") REFERENCES "public"."takes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "takes" ADD CONSTRAINT "takes_clip_id_clips_id_fk" FOREIGN KEY ("clip_id") REFERENCES "public"."clips"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "runs_take" ON "runs" USING btree ("take_id");--> statement-breakpoint
CREATE INDEX "takes_clip" ON "takes" USING btree ("clip_id");
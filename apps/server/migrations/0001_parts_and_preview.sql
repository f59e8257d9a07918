ALTER TABLE "runs" ADD COLUMN "parts" jsonb DEFAULT '{"hands":false,"face":false}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "runs" ADD COLUMN "preview" jsonb;
CREATE TABLE "motions" (
	"run_id" uuid PRIMARY KEY NOT NULL,
	"made_from" text NOT NULL,
	"data" "bytea" NOT NULL
);
--> statement-breakpoint
ALTER TABLE "motions" ADD CONSTRAINT "motions_run_id_runs_id_fk" FOREIGN KEY ("run_id") REFERENCES "public"."runs"("id") ON DELETE cascade ON UPDATE no action;